"""The checks: planted flaws are found and nothing else, all of them in one list, accepted and new ones apart."""

import csv
import io
import json
import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from demo import quillhaven
from prism import checks
from prism.analysis import Analysis
from prism.color import space
from prism.color.contrast import lightness, ratio_of
from prism.contrast import explore, fix_all, matrix
from prism.contrast.pairing_commands import AddPairing
from prism.contrast.waiver_commands import WaivePairing
from prism.errors import EditError, FormatError
from prism.hygiene.commands import MuteFinding, SplitByUse, UnmuteFinding
from prism.model.document import Document, Pairing, TellingApart
from prism.model.values import BASE, Condition, Expression
from prism.reports import files
from prism.reports.report import report
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.sheet.token_commands import RemoveToken, RenameToken
from prism.solver import Wanted, Watch
from prism.vision.commands import TellApart
from tests import flaws, tried
from tests.builders import axis, document, token

SEEDS = 16


class PlantedTests(SimpleTestCase):
    def test_of_three_hundred_planted_flaws_each_kind_is_found_and_nothing_else_by_its_check(self):
        known = {
            seed: {finding.identity for finding in checks.run(Analysis(flaws.sound(seed)))}
            for seed in range(SEEDS)
        }
        missed, false, planted = dict.fromkeys(flaws.KINDS, 0), dict.fromkeys(flaws.KINDS, 0), 0
        for kind in flaws.KINDS:
            for seed in range(SEEDS):
                one = flaws.plant(kind, flaws.sound(seed), random.Random(f"{kind} {seed}"))
                found = [
                    finding
                    for finding in checks.run(Analysis(one.document), one.check)
                    if finding.identity not in known[seed]
                ]
                about = [f for f in found if not one.token or one.token in f.tokens]
                planted += 1
                missed[kind] += not about
                false[kind] += len(about) != len(found)
        self.assertGreaterEqual(planted, 300)
        for kind in flaws.KINDS:
            self.assertLessEqual(missed[kind], 0.02 * SEEDS, f"{kind} was missed")
            self.assertLessEqual(false[kind], 0.02 * SEEDS, f"{kind} found more than there was")

    def test_what_is_only_there_after_an_import_has_its_own_tests(self):
        # The observatory of test_formats and the files of test_reading_files hold these two.
        self.assertEqual(
            {check.id for check in checks.CHECKS} - set(flaws.KINDS), {"hidden", "default"}
        )

    def test_a_scheme_that_was_just_made_has_no_flaw_of_hygiene(self):
        for seed in range(SEEDS):
            found = checks.run(Analysis(flaws.sound(seed)), *checks.ids("hygiene"), "elevation")
            self.assertEqual([finding.what for finding in found], [], seed)

    def test_nothing_is_said_of_nothing(self):
        glances = report(Analysis(Document())).glances
        judged = {glance.id for glance in glances if not glance.words.startswith("not judged: no ")}
        self.assertEqual(judged, set())
        self.assertEqual(Analysis(Document()).once(checks.findings), [])
        looked = {
            glance.id: glance.words for glance in report(Analysis(quillhaven.document())).glances
        }
        self.assertEqual(
            looked["contrast"], "11 found in 67 pairings; 6 colors in no known pairing not judged"
        )
        self.assertEqual(looked["naming"], "not judged: no naming scheme")
        self.assertEqual(looked["skipping"], "nothing found in 30 component tokens")


class FindingTests(SimpleTestCase):
    def setUp(self):
        self.built = document(
            token("text.main", "#777777"),
            token("page", "#ffffff"),
            pairings=(Pairing("p", "text.main", ("page",)),),
        )

    def found(self, built, check):
        return [
            finding for finding in Analysis(built).once(checks.findings) if finding.check == check
        ]

    def test_a_waiver_holds_to_its_day_and_says_who_and_why(self):
        waived = WaivePairing("k", "p", "Old screens", "2026-12-31", "Rui").apply(self.built)
        (finding,) = self.found(waived, "contrast")
        self.assertEqual((finding.accepted, finding.accepted_by), ("Old screens", "Rui"))
        self.assertFalse(finding.is_open("2026-12-31"))
        self.assertTrue(finding.is_open("2027-01-01"))
        self.assertEqual(
            len(report(Analysis(waived), "2027-01-01").open),
            len(report(Analysis(waived), "2026-12-01").open) + 1,
        )
        ended = WaivePairing("k", "p").apply(waived)
        self.assertTrue(self.found(ended, "contrast")[0].is_open("2026-12-01"))
        with self.assertRaisesMessage(EditError, "is not a day"):
            WaivePairing("k", "p", "Why", "soon").apply(self.built)
        with self.assertRaisesMessage(EditError, "A reason is missing"):
            WaivePairing("k", "p").apply(self.built)

    def test_what_is_accepted_stays_so_through_names_and_goes_with_its_token(self):
        (literal,) = [f for f in self.found(self.built, "literal") if f.token == "text.main"]
        muted = MuteFinding("k", "literal", literal.tokens, "", "Given by law", "Rui").apply(
            self.built
        )
        renamed = RenameToken("text.main", "words.main").apply(muted)
        (finding,) = [f for f in self.found(renamed, "literal") if f.token == "text.main"]
        self.assertEqual((finding.is_open(), finding.accepted), (False, "Given by law"))
        again = UnmuteFinding("literal", literal.tokens).apply(renamed)
        self.assertTrue(all(f.is_open() for f in self.found(again, "literal")))
        gone = RemoveToken("text.main").apply(replace(muted, pairings=()))
        self.assertEqual(gone.mutes, ())
        with self.assertRaisesMessage(EditError, "A reason is missing"):
            MuteFinding("k", "literal", literal.tokens).apply(self.built)

    def test_a_color_of_two_uses_is_split(self):
        built = document(
            token("surface.page", "#ffffff"),
            token("action.fill", "#204080"),
            token("action.label", "{surface.page}"),
            pairings=(Pairing("p", "action.label", ("action.fill",)),),
        )
        (finding,) = self.found(built, "meaning")
        self.assertEqual(finding.tokens, ("surface.page", "action.label"))
        split = SplitByUse("k", "surface.page", "text.on-action").apply(built)
        self.assertEqual(split.token("action.label").value(BASE), Expression("{text.on-action}"))
        self.assertEqual(split.token("k").value(BASE), Expression("#ffffff"))
        self.assertEqual(self.found(split, "meaning"), [])

    def test_what_has_no_color_is_said_and_not_passed(self):
        night = Condition.of({"look": "night"})
        late = replace(token("late", "#111111"), values=((night, Expression("#111111")),))
        built = document(late, token("page", "#ffffff"), axes=(axis("look", "day", "night"),),
                         pairings=(Pairing("p", "late", ("page",)),))  # fmt: skip
        (finding,) = self.found(built, "contrast")
        self.assertIn("late has no color, so late on page cannot be judged there.", finding.what)
        self.assertEqual((finding.themes, finding.severity), (1, "error"))


class VisionTests(SimpleTestCase):
    def found(self, first, second, besides=""):
        built = document(
            token("a", first), token("b", second),
        )  # fmt: skip
        told = TellingApart("s", "Lines", ("a", "b"), besides)
        return [
            f
            for f in Analysis(replace(built, telling_apart=(told,))).once(checks.findings)
            if f.check == "vision"
        ]

    def test_red_and_green_look_alike_to_some_and_an_icon_settles_it(self):
        finding = self.found("#b25000", "#8a6a00")[0]
        self.assertEqual(finding.severity, "warning")
        self.assertIn("look alike to", finding.what)
        settled = self.found("#b25000", "#8a6a00", "an icon")
        self.assertTrue(settled and not any(f.is_open() for f in settled))
        self.assertEqual(self.found("#003f5c", "#ffa600"), [])

    def test_a_set_needs_two_colors_that_are_there(self):
        built = quillhaven.document()
        for tokens, words in (
            (("line.soft",), "at least two colors"),
            (("line.soft, line.gone",), "does not exist"),
            (("line.soft, space.row",), "is no color"),
        ):
            with self.assertRaisesMessage(EditError, words):
                TellApart("k", "Lines", tokens).apply(built)


class ReportTests(SimpleTestCase):
    def setUp(self):
        self.made = report(Analysis(quillhaven.document()), "2026-12-01")

    def test_json_and_csv_say_the_same_and_a_baseline_is_read_back(self):
        plain = json.loads(files.as_json(self.made))
        self.assertEqual(plain["open"], {"error": 11, "warning": 8, "note": 2})
        rows = list(csv.DictReader(io.StringIO(files.as_csv(self.made))))
        self.assertEqual([row["id"] for row in rows], [one["id"] for one in plain["findings"]])
        self.assertEqual(len({row["id"] for row in rows}), len(rows))
        known = files.known_ids(files.as_json(self.made).encode(), "r.json")
        worse = replace(quillhaven.document(), pairings=(
            *quillhaven.document().pairings, Pairing("new", "line.soft", ("surface.page",))))  # fmt: skip
        again = report(Analysis(worse), "2026-12-01", known)
        self.assertEqual([item.finding.part for item in again.fresh], ["new"])
        for bad in (b"{}", b"[]", b'{"findings": [1]}', b"{"):
            with self.assertRaises(FormatError):
                files.known_ids(bad, "r.json")

    def test_a_table_computes_nothing(self):
        built = document(token("=1+1", "#123456", tier="raw"))
        row = next(csv.DictReader(io.StringIO(files.as_csv(report(Analysis(built))))))
        self.assertFalse(any(value.startswith(("=", "+", "-", "@")) for value in row.values()))


class RoomTests(SimpleTestCase):
    def test_the_worst_come_first_in_their_groups_page_by_page(self):
        built = quillhaven.document()
        analysis = Analysis(built)
        table = matrix.columns(analysis.paired_resolver, analysis.resolver.default_theme)
        shown = matrix.rows(analysis.paired_resolver, table, analysis.failing)
        missed = [analysis.failing[row.pairing.key].least / row.pairing.required
                  for row in shown.rows if row.pairing.key in analysis.failing]  # fmt: skip
        self.assertEqual((missed, len(missed)), (sorted(missed), 11))
        wanted = matrix.Wanted(only="failing", by="background", start=4, count=3)
        some = matrix.rows(analysis.paired_resolver, table, analysis.failing, wanted)
        self.assertEqual((some.total, len(some.rows)), (11, 3))
        self.assertEqual([row.group for row in some.rows], sorted(row.group for row in some.rows))

    def test_equal_answers_are_folded_and_count_every_theme(self):
        analysis = Analysis(quillhaven.document())
        pairing = analysis.paired.pairing("action.label/action.fill")
        answers = matrix.answers(analysis.answers, pairing)
        self.assertEqual(sum(one.themes for one in answers), 288)
        colors = [(one.reading.foreground, one.reading.background) for one in answers]
        self.assertEqual(len(colors), len(set(colors)))
        self.assertTrue(answers[0].reading.fails and answers[0].words.startswith("dim"))

    def test_every_color_is_read_on_every_ground(self):
        analysis = Analysis(quillhaven.document())
        table = explore.table(analysis, analysis.resolver.default_theme, "text.*", "surface.*")
        cell = table.rows[0].cells[0]
        self.assertEqual(
            (table.rows[0].token.path, cell.ground.path), ("text.main", "surface.page")
        )
        self.assertEqual((cell.reading.shown, bool(cell.pairing)), ("15.24", True))
        self.assertEqual(explore.table(analysis, analysis.resolver.default_theme, "zz").rows, ())


class FixAllTests(SimpleTestCase):
    """Everything that falls short, fixed at once, in random documents: against every step of the palette."""

    @tried(200)
    @given(st.integers(0, 10**6))
    def test_nothing_gets_worse_and_what_remains_is_impossible(self, seed):
        rng = random.Random(seed)
        greys = sorted((rng.randint(0, 255) for _ in range(rng.randint(3, 6))), reverse=True)
        steps = [token(f"grey.{i}", f"#{grey:02x}{grey:02x}{grey:02x}", tier="raw")
                 for i, grey in enumerate(greys, 1)]  # fmt: skip
        names = ("text.main", "text.muted", "text.hint", "text.link")[: rng.randint(1, 4)]
        look = axis("look", "day", "night")

        def reference():
            return f"{{grey.{rng.randint(1, len(steps))}}}"

        semantic = [
            token(name, reference(), ({"look": "night"}, reference()))
            for name in ("surface.page", *names)
        ]
        pairs = tuple(
            Pairing(name, name, ("surface.page",), "text", rng.choice((3.0, 4.5, 7.0)))
            for name in names
        )
        built = document(*steps, *semantic, axes=(look,), pairings=pairs)
        analysis = Analysis(built)
        made = fix_all.fix(built, Wanted(analysis.paired.pairings, analysis.roles), Watch(0.3))
        themes = list(analysis.resolver.themes())
        before = audit(analysis.resolver, pairs, themes)
        after = audit(Resolver(made.document), pairs, themes)
        self.assertLessEqual(sum(r.fails for r in after), sum(r.fails for r in before))
        self.assertEqual(
            [now for was, now in zip(before, after, strict=True) if now.fails and not was.fails], []
        )
        short = {reading.theme for reading in after if reading.fails}
        for theme in short:
            self.assertFalse(self.can_pass(analysis.resolver, steps, pairs, theme))

    @staticmethod
    def can_pass(resolver, steps, pairs, theme):
        """Whether some step as the page, at most 15 L* from the present one so that a light page is not made dark,
        lets every text have a step that passes on it."""
        colors = [resolver.resolve(step.key, theme).color for step in steps]
        now, *lights = (
            float(lightness(space.rgba(color)[:3]))
            for color in (resolver.resolve("surface.page", theme).color, *colors)
        )
        return any(
            all(any(ratio_of(ink, page) >= pair.required for ink in colors) for pair in pairs)
            for page, light in zip(colors, lights, strict=True)
            if abs(light - now) <= 15
        )


class StackTests(SimpleTestCase):
    def test_a_pairing_on_layers_is_composited(self):
        built = document(
            token("text", "#ffffff"), token("veil", "#00000080"), token("card", "#ffffff"),
        )  # fmt: skip
        made = AddPairing("k", "text", "veil over card").apply(built)
        self.assertEqual(made.pairings[0].backgrounds, ("veil", "card"))
        (finding,) = [f for f in Analysis(made).once(checks.findings) if f.check == "contrast"]
        # White on half black over white is white on #7f7f7f by 8 bits a channel: 4.0035 by WCAG's formula.
        self.assertIn("text on veil over card: 4.00:1, needs 4.5:1.", finding.what)
