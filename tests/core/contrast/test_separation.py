"""What parts the colors of a pairing with neither moved: held by the contrast of every theme, read afresh."""

import itertools
import random

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from demo import quillhaven
from prism.analysis import Analysis
from prism.contrast.pairing_commands import PartPairing
from prism.contrast.separation import partings
from prism.errors import EditError
from prism.model.document import Pairing
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.roles.rules import paired
from tests import tried
from tests.builders import axis, counter_keys, document, token


def numbered():
    numbers = itertools.count()
    return lambda: f"new-{next(numbers)}"


def readings(built, pairing):
    resolver = Resolver(built)
    return audit(resolver, [pairing], list(resolver.themes()))


def failing(built):
    return set(Analysis(built).failing)


class PartingTests(SimpleTestCase):
    def flat(self, foreground, background, *more, use="text"):
        """A pairing that falls short by day, in a document with a surface and lines beside it."""
        look = axis("look", "day", "night")
        by_day = [token("text.main", foreground[0], ({"look": "night"}, foreground[1])),
                  token("surface.card", background[0], ({"look": "night"}, background[1]))]  # fmt: skip
        pairing = Pairing("p", "text.main", ("surface.card",), use, 4.5 if use == "text" else 3.0)
        return document(*by_day, *more, axes=(look,), pairings=(pairing,)), pairing

    def only(self, built, pairing, kind):
        return next((p for p in partings(built, pairing, numbered()) if p.kind == kind), None)

    def test_another_surface_is_one_on_which_it_passes_in_every_theme(self):
        page = token("surface.page", "#ffffff", ({"look": "night"}, "#101010"))
        wrong = token("surface.raised", "#ffffff", ({"look": "night"}, "#777777"))
        built, pairing = self.flat(("#767676", "#c0c0c0"), ("#dddddd", "#222222"), page, wrong)
        found = self.only(built, pairing, "surface")
        self.assertEqual(found.words, "put it on surface.page")
        self.assertEqual(found.pairing.backgrounds, ("surface.page",))
        exempt = found.document.pairing("p")
        self.assertEqual(
            (exempt.required, exempt.reason), (0.0, "It stands on surface.page instead.")
        )
        self.assertEqual(failing(found.document), set())

    def test_a_line_that_is_there_is_drawn_around_it_the_quietest_that_reaches_3(self):
        lines = [
            token("line.soft", "#dddddd"),
            token("line.strong", "#777777"),
            token("line.hard", "#000000"),
        ]
        built, pairing = self.flat(
            ("#eeeeee", "#eeeeee"), ("#ffffff", "#ffffff"), *lines, use="control"
        )
        found = self.only(built, pairing, "line")
        self.assertEqual(found.words, "draw line.strong around it")
        self.assertEqual((found.pairing.use, found.pairing.required), ("control", 3.0))
        self.assertEqual(failing(found.document), set())

    def test_a_new_line_where_none_reaches_3(self):
        steps = [token(f"ink.{i}", grey, tier="raw")
                 for i, grey in enumerate(("#ffffff", "#bbbbbb", "#777777", "#222222"), 1)]  # fmt: skip
        soft = token("line.soft", "{ink.2}")
        built, pairing = self.flat(
            ("#eeeeee", "#eeeeee"), ("#ffffff", "#ffffff"), *steps, soft, use="control"
        )
        found = self.only(built, pairing, "line")
        self.assertIn("draw a new line around it, line.text-main: ink.3", found.words)
        made = found.document.token_at("line.text-main")
        self.assertEqual((made.role, made.belongs_to), ("line", "text.main"))
        self.assertTrue(all(reading.passes for reading in readings(found.document, found.pairing)))

    def test_an_overlay_is_as_faint_as_will_do_and_only_where_it_is_needed(self):
        built, pairing = self.flat(("#ffffff", "#ffffff"), ("#888888", "#111111"))
        found = self.only(built, pairing, "overlay")
        made = found.document.token(found.pairing.backgrounds[0])
        self.assertEqual(str(made.role), "overlay")
        texts = [value.text for _, value in made.values]
        self.assertEqual(len(texts), 2 if built.axes[0].modes[0].color_scheme else 1)
        percent = float(texts[0].rpartition("/ ")[2].rstrip("%)"))

        # The composite of the overlay, by WCAG 2.2's formula written out once more.
        def ratio(opacity):
            grey = 0x88 / 255 * (1 - opacity)
            light = grey / 12.92 if grey <= 0.04045 else ((grey + 0.055) / 1.055) ** 2.4
            return 1.05 / (light + 0.05)

        self.assertGreaterEqual(ratio(percent / 100), 4.5)
        self.assertLess(ratio((percent - 5) / 100), 4.5)

    def test_nothing_is_offered_where_nothing_helps(self):
        built, pairing = self.flat(("#808080", "#808080"), ("#ffffff", "#000000"))
        white = self.only(built, pairing, "surface")
        self.assertIsNone(white)
        with self.assertRaisesMessage(EditError, "No surface lets text.main on surface.card pass"):
            PartPairing("k", "p", "surface").apply(built)

    def test_what_passes_already_is_left_alone(self):
        built, pairing = self.flat(("#111111", "#eeeeee"), ("#ffffff", "#000000"))
        self.assertEqual(partings(built, pairing, numbered()), [])
        with self.assertRaisesMessage(EditError, "or it passes already."):
            PartPairing("k", "p", "overlay").apply(built)

    def test_what_is_another_by_now_is_refused(self):
        built = quillhaven.document()
        with self.assertRaisesMessage(EditError, "The fix is another by now"):
            PartPairing("k", "signal.go/signal.surface.go", "overlay", "lay it").apply(built)

    @tried(60)
    @given(st.integers(0, 10**6))
    def test_whatever_is_offered_passes_in_every_theme_and_lets_nothing_else_fall_short(self, seed):
        rng = random.Random(seed)

        def grey():
            return "#" + f"{rng.randint(0, 255):02x}" * 3

        names = ("text.main", "text.hint", "line.control", "line.soft", "surface.page",
                 "surface.card", "surface.raised", "action.fill", "action.label")  # fmt: skip
        tokens = [token(name, grey(), ({"look": "night"}, grey())) for name in names]
        pairs = tuple(
            Pairing(f"{above} {below}", above, (below,), use, 3.0 if use == "control" else 4.5)
            for above, below, use in (
                ("text.main", "surface.page", "text"),
                ("text.hint", "surface.card", "text"),
                ("action.fill", "surface.page", "control"),
                ("action.label", "action.fill", "text"),
            )
        )
        built = document(*tokens, axes=(axis("look", "day", "night"),), pairings=pairs)
        short = failing(built)
        for key in short:
            pairing = paired(built).pairing(key)
            for found in partings(built, pairing, counter_keys()):
                with self.subTest(seed=seed, kind=found.kind):
                    self.assertTrue(all(r.passes for r in readings(found.document, found.pairing)))
                    self.assertLess(found.before, pairing.required)
                    self.assertEqual(failing(found.document), short - {key})
