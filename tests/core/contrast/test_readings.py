"""Contrast checks over documents: stacks, uses, missing values, the matrix and scenes."""

import math

from django.test import SimpleTestCase

from prism.analysis import Analysis
from prism.contrast import matrix
from prism.model.document import Pairing
from prism.resolution.contrast import audit, pairing_for, summary
from prism.resolution.resolver import Resolver
from prism.roles.by_slot import bound
from prism.scenes import markup
from prism.sheet import grid
from tests.builders import document, observatory, token

DARK = {"appearance": "dark"}


def reading(built, pairing, theme=(0, 0)):
    return audit(Resolver(built), [pairing], [theme])[0]


class AuditTests(SimpleTestCase):
    def setUp(self):
        self.built = document(
            token("ink", "#777777", (DARK, "#ffffff")),
            token("paper", "#ffffff", (DARK, "#000000")),
            token("veil", "#00000080"),
            token("rim", (DARK, "#ffffff")),
        )

    def test_a_ratio_just_short_fails_and_is_cut_not_rounded(self):
        found = reading(self.built, Pairing("p", "ink", ("paper",)))
        self.assertEqual(found.shown, "4.47")
        self.assertTrue(found.fails)

    def test_a_translucent_stack_is_composited_down_to_the_opaque_layer(self):
        # Alpha 128/255 of black over white leaves 127: source-over in gamma-encoded sRGB.
        found = reading(self.built, Pairing("p", "ink", ("veil", "paper")))
        self.assertEqual(found.background, "#7f7f7f")
        dark = reading(self.built, Pairing("p", "ink", ("veil", "paper")), (1, 0))
        self.assertEqual((dark.background, dark.shown), ("#000000", "21.00"))

    def test_a_stack_that_never_gets_opaque_ends_on_its_page_or_on_white(self):
        on_white = reading(self.built, Pairing("p", "ink", ("veil",)), (1, 0))
        on_page = reading(self.built, Pairing("p", "ink", ("veil",), page="paper"), (1, 0))
        self.assertEqual((on_white.background, on_page.background), ("#7f7f7f", "#000000"))

    def test_a_missing_value_is_said_and_neither_passes_nor_fails(self):
        found = reading(self.built, Pairing("p", "rim", ("paper",)))
        self.assertEqual(found.missing, "rim has no value in this theme.")
        self.assertTrue(math.isnan(found.ratio))
        self.assertFalse(found.fails or found.passes)
        self.assertEqual(found.shown, "–")

    def test_an_exempt_use_is_listed_with_its_ratio_and_never_fails(self):
        found = reading(self.built, pairing_for("p", "ink", ("paper",), "inactive"))
        self.assertEqual((found.required, found.fails, found.shown), (0.0, False, "4.47"))

    def test_uses_require_what_wcag_asks(self):
        # WCAG 2.2, success criteria 1.4.3, 1.4.6 and 1.4.11.
        for use, enhanced, required in (
            ("text", False, 4.5), ("text", True, 7.0), ("large text", False, 3.0),
            ("large text", True, 4.5), ("control", False, 3.0), ("graphic", True, 3.0),
        ):  # fmt: skip
            made = pairing_for("p", "ink", ("paper",), use, enhanced=enhanced)
            self.assertEqual(made.required, required)

    def test_the_gap_is_in_lightness(self):
        found = reading(self.built, Pairing("p", "ink", ("paper",)), (1, 0))
        self.assertAlmostEqual(found.gap, 100.0, places=6)

    def test_summary_in_words(self):
        self.assertEqual(
            summary(self.built, Pairing("p", "ink", ("veil", "paper"))), "ink on veil over paper"
        )


class MatrixTests(SimpleTestCase):
    def test_failing_rows_come_first_and_count_what_no_column_shows(self):
        built = document(
            token("good", "#000000"),
            token("late", "#000000", ({"brand": "osprelle"}, "#dddddd")),
            token("paper", "#ffffff", (DARK, "#fefefe")),
            pairings=(Pairing("a", "good", ("paper",)), Pairing("b", "late", ("paper",))),
        )
        resolver = Resolver(built)
        table = matrix.columns(resolver, (0, 0))
        self.assertEqual(len(table), 4)
        self.assertEqual([column.outer.name for column in table][::2], ["tarnmoor", "osprelle"])
        only_first = [column for column in table if column.outer.name == "tarnmoor"]
        failing = Analysis(built).failing
        rows = matrix.rows(resolver, only_first, failing).rows
        self.assertEqual([row.pairing.key for row in rows], ["b", "a"])
        self.assertEqual([row.elsewhere for row in rows], [2, 0])
        self.assertEqual(
            matrix.rows(resolver, table, failing, matrix.Wanted("good")).rows[0].pairing.key, "a"
        )


class SheetTests(SimpleTestCase):
    def test_a_cell_tells_what_it_inherits_and_how_its_tightest_pairing_stands(self):
        built = document(
            token("raw.ink", "#777777", tier="raw"),
            token("text", "{raw.ink}"),
            token("paper", "#ffffff", (DARK, "#000000")),
            pairings=(Pairing("a", "text", ("paper",)),),
        )
        resolver = Resolver(built)
        found = grid.blocks(resolver, built.axes[0], (0, 0), built.tokens)
        self.assertEqual(
            [(s.tier, s.name) for s in found],
            [("semantic", grid.NO_GROUP), ("raw", "raw")],
        )
        light, dark = found[0].lines[0].cells
        self.assertEqual((light.inherited, dark.inherited), (False, True))
        self.assertEqual((light.worst.shown, dark.worst.shown), ("4.47", "4.68"))
        self.assertEqual((light.worst.fails, dark.worst.fails), (True, False))


class SceneTests(SimpleTestCase):
    MARKUP = (
        '<body data-fill="page" data-ink="ink"><p>One</p><div data-fill="veil"><b data-ink="link">'
        "Two &amp; three</b><br>Four</div><style>no</style></body>"
    )

    def test_texts_with_their_ink_and_the_fills_under_them(self):
        runs, slots = markup.read(self.MARKUP)
        self.assertEqual(
            [(run.text, run.ink, run.fills) for run in runs],
            [
                ("One", "ink", ("page",)),
                ("Two & three", "link", ("veil", "page")),
                ("Four", "ink", ("veil", "page")),
            ],
        )
        self.assertEqual(slots, ["ink", "page", "veil", "link"])

    def test_readings_per_ink_and_stack_and_none_where_unbound(self):
        built = document(token("text.main", "#000000"), token("surface.page", "#ffffff"))
        runs, _ = markup.read(self.MARKUP)
        rows = markup.readings(
            Resolver(built), runs, bound(built, {}, Analysis(built).guessed), [(0, 0)]
        )
        self.assertEqual(
            [(row.ink, row.count) for row in rows], [("ink", 1), ("link", 1), ("ink", 1)]
        )
        self.assertEqual(rows[0].readings[0].shown, "21.00")
        self.assertIsNone(rows[1].readings[0])


class BindingTests(SimpleTestCase):
    def test_slots_find_tokens_by_what_they_are_for(self):
        analysis = Analysis(observatory())
        found = {slot: token.path for slot, token in analysis.bindings.items()}
        self.assertEqual(found["page"], "Ground.page")
        self.assertEqual(found["ink"], "Text.main")
        self.assertEqual(found["muted"], "Text.muted")
        self.assertEqual(found["action"], "Accent.$root")
        self.assertEqual(found["stop"], "Signal.stop")
        self.assertEqual(found["lift"], "Shadow.card")
        self.assertEqual(found["action-label"], "Text.on accent")
        self.assertEqual(found["veil"], "Ground.veil")

    def test_a_stored_binding_beats_the_guess_while_its_token_lives(self):
        built = document(token("text.main", "#000000"), token("odd", "#111111"))
        self.assertEqual(bound(built, {"ink": "odd"}, Analysis(built).guessed)["ink"].key, "odd")
        self.assertEqual(
            bound(built, {"ink": "gone"}, Analysis(built).guessed)["ink"].key, "text.main"
        )
