"""Merging, impact, alignment and linking."""

import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.changes import axes, links, structure
from prism.changes import values as edit
from prism.compare.diff import apply, diff, inverse
from prism.compare.impact import impact
from prism.compare.match import align, describe
from prism.compare.merge import merge
from prism.model.document import Pairing
from prism.model.values import BASE, Condition, Expression
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import counter_keys, document, observatory, random_document, token

DARK = Condition.of({"appearance": "dark"})
seeds = st.integers(0, 10_000)
quick = tried(50)


def base():
    return document(
        token("ink.1", "#f4f9f9", tier="raw"),
        token("ink.11", "#1d2121", tier="raw"),
        token("text", "{ink.11}"),
        token("link", "{ink.11}"),
        token("page", "#ffffff", ({"appearance": "dark"}, "#000000")),
        pairings=(Pairing("p", "text", ("page",)),),
    )


def setting(built, key, text, condition=BASE):
    return edit.set_value(built, key, condition, Expression(text))


class MergeTests(SimpleTestCase):
    def test_different_cells_are_both_kept(self):
        merged = merge(
            base(), setting(base(), "text", "#111111"), setting(base(), "link", "#222222")
        )
        self.assertEqual(merged.clashes, ())
        self.assertEqual(
            merged.document, setting(setting(base(), "text", "#111111"), "link", "#222222")
        )

    def test_one_cell_changed_by_both_is_named_and_theirs_stands(self):
        merged = merge(
            base(), setting(base(), "text", "#111111"), setting(base(), "text", "#222222")
        )
        (clash,) = merged.clashes
        self.assertEqual((clash.mine, clash.theirs), ('"#111111"', '"#222222"'))
        self.assertEqual(clash.yours, "text: every mode {ink.11} → #111111")
        self.assertEqual(merged.document.token("text").value(), Expression("#222222"))
        self.assertIn("was changed by both", clash.sentence)

    def test_what_both_did_alike_stands_once_and_is_no_clash(self):
        built = observatory()
        link = built.token_at("Text.link")
        site = built.axes[0]
        fresh = Condition.of({site.key: site.modes[1].key})
        self.assertNotIn(fresh, dict(link.values))
        alike = edit.set_value(built, link.key, fresh, Expression("{red.300}"))
        for both in (alike, edit.clear_value(built, link.key, link.values[-1][0])):
            merged = merge(built, both, both)
            self.assertEqual(merged.clashes, ())
            self.assertEqual(merged.document, both)

    def test_a_rename_here_and_an_edit_there_of_the_same_token_merge(self):
        mine = structure.rename_token(base(), "ink.11", "coal")
        theirs = setting(base(), "ink.11", "#000000")
        for one, other in ((mine, theirs), (theirs, mine)):
            merged = merge(base(), one, other)
            self.assertEqual(merged.clashes, ())
            self.assertEqual(merged.document.token("ink.11").path, "coal")
            self.assertEqual(merged.document.token("ink.11").value(), Expression("#000000"))
            self.assertEqual(merged.document.token("text").value(), Expression("{coal}"))

    def test_a_new_reference_there_follows_a_rename_here(self):
        mine = structure.rename_token(base(), "ink.1", "snow")
        theirs = setting(base(), "text", "color-mix(in oklab, {ink.1}, {ink.11})")
        for one, other in ((mine, theirs), (theirs, mine)):
            merged = merge(base(), one, other)
            self.assertEqual(merged.clashes, ())
            self.assertEqual(
                merged.document.token("text").value(),
                Expression("color-mix(in oklab, {snow}, {ink.11})"),
            )

    def test_a_mode_removed_there_against_a_value_added_here_is_named(self):
        theirs = axes.remove_mode(base(), "appearance", "dark")
        merged = merge(base(), setting(base(), "text", "{ink.1}", DARK), theirs)
        self.assertEqual(len(merged.clashes), 1)
        self.assertEqual([mode.key for mode in merged.document.axes[0].modes], ["light"])
        self.assertTrue(
            all(
                c.mode_on("appearance") != "dark"
                for t in merged.document.tokens
                for c, _ in t.values
            )
        )

    def test_removed_here_and_changed_there_is_named(self):
        mine = structure.remove_tokens(base(), ["link"])
        merged = merge(base(), mine, setting(base(), "link", "#222222"))
        self.assertIn("removed by you", merged.clashes[0].sentence)
        self.assertIsNotNone(merged.document.token("link"))

    @quick
    @given(seeds, seeds)
    def test_merging_with_nothing_changed_gives_the_other_side(self, one, other):
        here, there = random_document(one), random_document(other)
        self.assertEqual(merge(here, here, there).document, there)
        self.assertEqual(merge(here, there, here).document, there)
        self.assertEqual(merge(here, there, there).document, there)

    @quick
    @given(seeds)
    def test_edits_of_different_tokens_merge_from_either_side(self, seed):
        built = random_document(seed)
        rng = random.Random(seed)
        first, second = rng.sample([one for one in built.tokens if one.type == "color"], 2)
        mine = replace(
            built,
            tokens=tuple(
                replace(t, description="mine") if t.key == first.key else t for t in built.tokens
            ),
        )
        theirs = structure.rename_token(built, second.key, "else.where")
        one, other = merge(built, mine, theirs), merge(built, theirs, mine)
        self.assertEqual(one.document, other.document)
        self.assertEqual((one.clashes, other.clashes), ((), ()))

    @quick
    @given(seeds, seeds)
    def test_diff_then_apply_gives_the_target_and_the_inverse_the_source(self, one, other):
        before, after = random_document(one), random_document(other, count=9)
        operations = diff(before, after)
        self.assertEqual(apply(before, operations), after)
        self.assertEqual(apply(after, inverse(operations)), before)


class ImpactTests(SimpleTestCase):
    def test_what_a_raw_color_reaches_and_what_breaks(self):
        found = impact(base(), setting(base(), "ink.11", "#999999"))
        self.assertEqual(found.tokens, {"ink.11": 4, "text": 4, "link": 4})
        self.assertEqual((found.themes, found.pairings), (4, {"p": 4}))
        # #999999 on white is 2.84, on black 7.37; #1d2121 on black is 1.29 (WCAG formula).
        self.assertEqual((found.breaks, found.heals), ({"p": 2}, {"p": 2}))

    def test_only_the_themes_that_change_are_counted(self):
        found = impact(base(), setting(base(), "text", "{ink.1}", DARK))
        self.assertEqual((found.tokens, found.themes, found.heals), ({"text": 2}, 2, {"p": 2}))
        self.assertEqual(found.breaks, {})

    @quick
    @given(seeds)
    def test_it_agrees_with_comparing_every_theme(self, seed):
        built = random_document(seed)
        rng = random.Random(seed)
        one = rng.choice([t for t in built.tokens if t.type == "color"])
        after = replace(
            built,
            tokens=tuple(
                replace(t, values=((BASE, Expression("#102030")), *t.values[1:]))
                if t.key == one.key
                else t
                for t in built.tokens
            ),
        )
        found = impact(built, after)
        was, now = Resolver(built), Resolver(after)
        expected = {}
        for theme in now.themes():
            for t in built.tokens:
                if was.resolve(t.key, theme) != now.resolve(t.key, theme):
                    expected[t.key] = expected.get(t.key, 0) + 1
        self.assertEqual(found.tokens, expected)


class MatchTests(SimpleTestCase):
    def test_files_with_other_keys_are_matched_by_name(self):
        from prism.formats import resolver
        from tests.builders import observatory_files

        other = resolver.read(observatory_files(), counter_keys("other"))
        self.assertEqual(diff(observatory(), align(other, observatory())), [])

    def test_differences_in_words(self):
        after = setting(setting(base(), "text", "{ink.1}", DARK), "link", "#222222")
        after = structure.rename_token(after, "page", "ground")
        said = [describe(one, base(), after) for one in diff(base(), after)]
        self.assertEqual(
            sorted(said),
            [
                "link: every mode {ink.11} → #222222",
                "text: appearance dark now {ink.1}",
                "token page: path page → ground",
            ],
        )


class LinkTests(SimpleTestCase):
    def build(self, **literals):
        palette = [
            token("ink.11", "#1d2121", tier="raw"),
            token("spruce.8", "#236b53", tier="raw"),
            token("spruce.twin", "#236b53", tier="raw"),
            token("veil", "#00000080", tier="raw"),
        ]
        return document(*palette, *(token(f"use.{n}", text) for n, text in literals.items()))

    def test_exact_first_then_near_and_what_has_no_match_is_listed(self):
        proposal = links.propose(
            self.build(
                exact="#236B53",
                eye="#246b53",
                near="#2b7058",
                far="#ff00ff",
                veil="rgb(0 0 0 / 0.5)",
            )
        )
        found = {link.token: (link.target, link.closeness) for link in proposal.links}
        self.assertEqual(
            found,
            {
                "use.exact": ("spruce.8", "exact"),
                "use.eye": ("spruce.8", "same to the eye"),
                "use.near": ("spruce.8", "near"),
                "use.veil": ("veil", "same to the eye"),
            },
        )
        self.assertEqual([one.token for one in proposal.unmatched], ["use.far"])

    def test_54_literals_are_linked_in_one_edit_names_and_order_unchanged(self):
        steps = [f"#{i:02x}{255 - i:02x}80" for i in range(0, 250, 5)]
        raw = [token(f"ramp.{i}", text, tier="raw") for i, text in enumerate(steps)]
        uses = [token(f"part {i}.fill", text) for i, text in enumerate(steps)]
        uses += [token(f"odd.{i}", f"#0000{i:02x}") for i in range(4)]
        built = document(*raw, *uses)
        proposal = links.propose(built)
        linked = links.link(built, proposal.links)
        self.assertEqual((len(proposal.links), len(proposal.unmatched)), (50, 4))
        self.assertEqual([t.path for t in linked.tokens], [t.path for t in built.tokens])
        was, now = Resolver(built), Resolver(linked)
        for one in built.tokens:
            self.assertEqual(was.resolve(one.key, (0, 0)).hex, now.resolve(one.key, (0, 0)).hex)
