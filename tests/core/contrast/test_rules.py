"""Rules that a project keeps: what they make, of tokens to come too, and what a person says against them."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism import checks
from prism.analysis import Analysis
from prism.contrast import rule_view
from prism.contrast.pairing_commands import AddPairing, RemovePairing, RequireOfPairing
from prism.contrast.rule_commands import (
    AddWord,
    PairByPattern,
    PairByRule,
    RemoveRule,
    RequireByRule,
)
from prism.edits import from_fields
from prism.model.document import Mode, Pairing, Rule
from prism.model.whole import flaws
from prism.modes import review_view
from prism.modes.review import Asked
from prism.resolution.contrast import audit, summary
from prism.resolution.resolver import Resolver
from prism.roles import role, rules
from prism.roles.patterns import fitting
from prism.sheet import questions
from prism.sheet.cell_commands import SetValue
from prism.sheet.consequences import consequences
from prism.sheet.token_commands import DescribeToken
from tests import tried
from tests.builders import axis, document, token
from tests.roles import names, random_document, read


def small():
    return document(
        token("page", "#ffffff"),
        token("text.main", "#767676"),
        token("action.fill", "#005fcc"),
        token("action.label", "#ffffff"),
        axes=(axis("look", "light", "dark"),),
    )


def words(built):
    """What is judged, in words, with what it must reach."""
    return [(summary(built, p), p.required) for p in Analysis(built).paired.pairings]


class KeptRulesTests(SimpleTestCase):
    def test_tokens_to_come_join_by_themselves(self):
        built = PairByRule("k").apply(small())
        self.assertEqual(built.pairings, ())
        self.assertEqual([rule.key for rule in built.rules], list(rules.BY_ID))
        first = [("text.main on page", 4.5), ("action.label on action.fill", 4.5)]
        self.assertEqual(words(built), first)
        more = replace(built, tokens=(*built.tokens, token("surface.card", "#f2f2f2")))
        self.assertEqual(words(more), [first[0], ("text.main on surface.card", 4.5), first[1]])

    def test_a_pattern_pairs_what_fits_it_now_and_later(self):
        built = PairByPattern("k", "text.*", "page*", "graphic").apply(small())
        self.assertEqual(words(built), [("text.main on page", 3.0)])
        more = replace(built, tokens=(*built.tokens, token("text.hint", "#888888")))
        self.assertEqual(words(more)[1:], [("text.hint on page", 3.0)])
        self.assertEqual(fitting(built, "{action.*}"), ["action.fill", "action.label"])
        self.assertEqual(fitting(built, "text"), [])
        enhanced = PairByPattern("k", "text.*", "page", enhanced=True).apply(small())
        self.assertEqual(words(enhanced), [("text.main on page", 7.0)])

    def test_what_a_rule_must_reach_is_said_for_all_its_pairings(self):
        built = RequireByRule("texts", 7.0).apply(PairByRule("k").apply(small()))
        self.assertEqual([needed for _, needed in words(built)], [7.0, 4.5])
        self.assertEqual(words(RequireByRule("texts", 0.0).apply(built))[0][1], 4.5)
        self.assertEqual([needed for _, needed in words(RemoveRule("texts").apply(built))], [4.5])

    def test_one_pairing_is_said_otherwise_and_given_back_to_its_rule(self):
        built = PairByRule("k").apply(small())
        key = Analysis(built).paired.pairings[0].key
        other = RequireOfPairing("own", key, 0.0, " a logo ").apply(built)
        self.assertEqual(
            other.pairings,
            (Pairing("own", "text.main", ("page",), "text", 0.0, "a logo"),),
        )
        self.assertEqual(
            sorted(words(other)), sorted([("text.main on page", 0.0), words(built)[1]])
        )
        again = RequireOfPairing("x", "own", 3.0).apply(other)
        self.assertEqual((again.pairings[0].key, again.pairings[0].required), ("own", 3.0))
        self.assertEqual(RemovePairing("own").apply(again), built)

    def test_a_pairing_by_hand_is_not_made_twice(self):
        built = PairByRule("k").apply(AddPairing("p", "text.main", "page").apply(small()))
        self.assertEqual(len(words(built)), 2)
        self.assertEqual(len({p.key for p in Analysis(built).paired.pairings}), 2)

    def test_texts_stay_legible_under_the_overlay_of_a_state(self):
        veils = (token("overlay.hover", "#0000001a"), token("overlay", "#00000080"))
        built = replace(small(), tokens=(*small().tokens, *veils))
        built = PairByRule("k", ("overlays",)).apply(built)
        (made,) = Analysis(built).paired.pairings
        self.assertEqual(made.backgrounds, ("overlay.hover", "page"))
        (reading,) = audit(Resolver(built), [made], [(0,)])
        # 26/255 of black over white, 8 bits between layers: 0.898 * 255 = 229. WCAG 2.2 on the two.
        self.assertEqual((reading.background, reading.shown), ("#e5e5e5", "3.60"))

    def test_rules_of_another_version_make_nothing_and_say_so(self):
        built = replace(small(), rules=(Rule("later", "later"),))
        self.assertEqual(words(built), [])
        self.assertEqual(flaws(built), [])
        (row,) = rule_view.kept(Analysis(built))
        self.assertEqual((row.sentence, row.count), ("“later”, of another version", 0))

    def test_a_rule_without_anything_to_pair_is_a_flaw(self):
        for rule in (Rule("a"), Rule("a", "texts", required=-1.0), Rule("a", "", "text.*")):
            (flaw,) = flaws(replace(small(), rules=(rule,)))
            self.assertEqual(flaw.sentence, "A rule lacks its patterns, use or ratio.")


class JudgedTests(SimpleTestCase):
    def test_each_pairing_says_by_which_rule(self):
        built = PairByPattern("k", "action.*", "page").apply(PairByRule("k").apply(small()))
        analysis = Analysis(built)
        sentences = [rule_view.names(analysis)[p.key] for p in analysis.paired.pairings]
        self.assertEqual(
            sentences,
            [
                "Texts on the page and on its surfaces, or on the one they belong to",
                "Labels on their fill, in each of its states",
                "action.* on page",
                "action.* on page",
            ],
        )
        kept = {row.sentence: (row.count, row.required) for row in rule_view.kept(analysis)}
        self.assertEqual(kept["action.* on page"], (2, 4.5))
        self.assertEqual(kept["The focus on what it surrounds"], (0, 3.0))
        self.assertEqual(rule_view.offer(analysis).count, 0)

    def test_what_falls_short_is_counted_and_follows_an_edit(self):
        before = Analysis(PairByRule("k").apply(small()))
        self.assertEqual(before.failing, {})
        pale = SetValue("text.main", "#777777").apply(before.document)
        after = Analysis(pale, before)
        self.assertEqual(len(after.failing), 1)  # WCAG 2.2: #777777 on white is 4.48
        self.assertEqual(after.failing.keys(), Analysis(pale).failing.keys())
        self.assertEqual(len(after.once(checks.findings)), len(before.once(checks.findings)) + 1)
        told = consequences(before, pale)
        self.assertEqual(told.sentences[0], "Breaks 1 pairing.")
        ((pairing, themes),) = told.breaks
        self.assertEqual((pairing.foreground, themes), ("text.main", 2))

    def test_a_proposal_is_judged_by_the_rules_that_are_kept_or_else_by_all(self):
        built = document(
            token("page", "#ffffff", ({"look": "dim"}, "#fefefe")),
            token("text.main", "#222222"),
            token("focus.ring", "#005fcc"),
            axes=(axis("look", "light", "dim"),),
        )
        asked = Asked("look", "light", Mode("dark", "dark", color_scheme="dark"))
        found = review_view.proposal(Analysis(built), (0,), asked)
        self.assertEqual((found.pairs, found.by_rule, found.short), (2, True, ()))
        kept = Analysis(PairByRule("k", ("focus",)).apply(built))
        found = review_view.proposal(kept, (0,), asked)
        self.assertEqual((found.pairs, found.by_rule, found.short), (1, False, ()))

    def test_results_are_kept_where_an_edit_cannot_reach(self):
        before = Analysis(PairByRule("k").apply(small()))
        self.assertTrue(before.by_rule)
        dark = SetValue("text.main", "#111111", from_dark()).apply(before.document)
        self.assertIs(Analysis(dark, before).by_rule, before.by_rule)
        light = Analysis(SetValue("text.main", "#222222").apply(before.document), before)
        self.assertIs(light.by_rule[0], before.by_rule[0])
        ruled = Analysis(RemoveRule("texts").apply(before.document), before)
        self.assertEqual(len(ruled.by_rule), 1)

    def test_an_analysis_of_a_document_without_rules_is_that_of_the_document(self):
        analysis = Analysis(small())
        self.assertIs(analysis.paired, analysis.document)
        self.assertIs(analysis.paired_resolver, analysis.resolver)

    @tried(25)
    @given(st.integers(0, 10**6))
    def test_all_rules_kept_judge_what_all_rules_offer(self, seed):
        built = random_document(seed)
        offered = [made.pairing for made in Analysis(built).offered]
        kept = Analysis(PairByRule("k").apply(built))
        self.assertEqual([made.pairing for made in kept.by_rule], offered)
        self.assertEqual(kept.offered, [])


def from_dark():
    from prism.model.values import Condition

    return Condition.of({"look": "dark"})


class WordTests(SimpleTestCase):
    def test_a_word_of_the_project_is_known_in_every_spelling(self):
        paths = ("bunteKacheln", "bunte-kacheln-hover", "BUNTE_KACHELN.oben")
        built = document(*(token(path, "#eeeeee") for path in (*paths, "page")), axes=())
        self.assertEqual({str(Analysis(built).roles[path].role) for path in paths}, {"unknown"})
        told = AddWord("Kacheln", "surface").apply(built)
        roles = [str(Analysis(told).roles[path].role) for path in paths]
        self.assertEqual(roles, ["surface", "surface hover", "surface"])
        self.assertEqual(told.words[0].key, "kacheln")
        other = AddWord("kacheln", "line").apply(told)
        self.assertEqual([word.meaning for word in other.words], ["line"])

    def test_roles_follow_a_word_that_was_added(self):
        before = Analysis(document(token("fig", "#eeeeee"), axes=()))
        self.assertEqual(str(before.roles["fig"].role), "unknown")
        after = Analysis(AddWord("fig", "line").apply(before.document), before)
        self.assertEqual(str(after.roles["fig"].role), "line soft")


class BelongingTests(SimpleTestCase):
    def said(self, built, key, path):
        known = built.token(key)
        return DescribeToken(key, known.path, belongs_to=path).apply(built)

    def test_what_a_person_says_counts_before_the_guess(self):
        built = replace(small(), tokens=(*small().tokens, token("tab.fill", "#333333")))
        told = self.said(built, "action.label", "tab.fill")
        self.assertEqual(Analysis(told).roles["action.label"].belongs_to, "tab.fill")
        self.assertIn(("action.label on tab.fill", 4.5), words(PairByRule("k").apply(told)))
        back = self.said(told, "action.label", "")
        self.assertEqual(Analysis(back).roles["action.label"].belongs_to, "action.fill")

    def test_it_goes_with_the_token_it_names(self):
        from prism.changes.merging import merge_tokens
        from prism.changes.structure import remove_tokens, rename_token

        built = replace(small(), tokens=(*small().tokens, token("tab.fill", "#333333")))
        told = self.said(built, "action.label", "tab.fill")
        renamed = rename_token(told, "tab.fill", "tabs.ground")
        self.assertEqual(Analysis(renamed).roles["action.label"].belongs_to, "tab.fill")
        self.assertEqual(remove_tokens(told, ["tab.fill"]).token("action.label").belongs_to, "")
        merged = merge_tokens(told, "action.fill", "tab.fill")
        self.assertEqual(merged.token("action.label").belongs_to, "action.fill")


class QuestionTests(SimpleTestCase):
    def test_every_answer_is_a_role_and_has_a_key_of_its_own(self):
        for name in names():
            analysis = Analysis(read(name).document)
            asked = questions.unsure(analysis)
            self.assertTrue(all(not known.is_sure for _, known in asked))
            for place, (one, known) in enumerate(asked):
                found = questions.question(
                    analysis, analysis.resolver.default_theme, asked, one.key
                )
                self.assertEqual((found.token, found.guess, found.place), (one, known, place + 1))
                keys = [answer.key for answer in found.answers]
                self.assertEqual(len(set(keys)), len(keys))
                self.assertNotIn("n", keys)  # skips
                for answer in found.answers:
                    self.assertEqual(str(role.read(answer.role)), answer.role)

    def test_questions_come_in_order_and_end(self):
        built = document(
            token("fig", "#112233"), token("page", "#ffffff"), token("plum", "#332211"), axes=()
        )
        now = Analysis(built)
        theme, asked = now.resolver.default_theme, questions.unsure(now)
        self.assertEqual([one.key for one, _ in asked], ["fig", "plum"])
        first = questions.question(now, theme, asked)
        self.assertEqual((first.token.key, first.next, first.count), ("fig", "plum", 2))
        self.assertEqual(questions.question(now, theme, asked, "gone").token.key, "fig")
        told = Analysis(
            from_fields("mark-tokens", {"tokens": ["plum"], "role": "line soft"}).apply(built), now
        )
        self.assertEqual(questions.after(now, told, "plum"), "fig")
        last = questions.question(told, theme, questions.unsure(told))
        self.assertEqual((last.token.key, last.next), ("fig", ""))
        done = Analysis(
            from_fields("mark-tokens", {"tokens": ["fig"], "role": "text"}).apply(told.document)
        )
        self.assertEqual(questions.after(told, done, "fig"), "")
        self.assertIsNone(questions.question(done, theme, questions.unsure(done)))


class ThereAlreadyTests(SimpleTestCase):
    def test_what_is_there_already_ends_no_rule(self):
        built = document(token("text.a", "#000"), token("text.b", "#000"), token("page", "#fff"))
        rule = Rule("r", "", "text.*", "page")
        (first, second) = rules.pairings(built, {}, [rule])
        kept = document(*built.tokens, pairings=(first.pairing,))
        self.assertEqual(
            [made.pairing.foreground for made in rules.pairings(kept, {}, [rule])],
            [second.pairing.foreground],
        )
