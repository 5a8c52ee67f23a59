"""Balance and elevation: how colors stand out in two modes, and whether levels lift off."""

from coloraide import Color
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from demo import quillhaven
from prism import checks
from prism.analysis import Analysis
from prism.balance import prominence
from prism.balance.commands import MakeAllEven, MakeEven
from prism.errors import EditError
from prism.model.values import Condition
from prism.resolution.resolver import Resolver
from prism.sheet.cell_commands import SetValue
from tests import tried
from tests.builders import axis, document, token

DARK = Condition.of({"appearance": "dark"})
LOOK = axis("appearance", "light", "dark")


def lightness(hex):
    """CIE L* of a color, by coloraide (D65, as ours)."""
    return Color(hex).convert("lab-d65")["l"]


def oklch(text):
    return Color(text).convert("oklch").coords(nans=False)


class DemoTests(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.whole = quillhaven.document()
        analysis = Analysis(cls.whole)
        cls.pairs = prominence.grounds(analysis.paired, analysis.roles)

    def standings(self, document, standard="light", mode="dark"):
        for brand, picks in prominence.brand_themes(document, {}):
            for standing in prominence.standings(
                document, self.pairs, "appearance", standard, mode, picks
            ):
                yield brand.key, standing

    def test_colors_of_brands_and_meanings_are_judged_on_what_they_lie_on(self):
        self.assertEqual(
            dict(self.pairs),
            {
                "text.link": "surface.page", "action.fill": "surface.page",
                "action.quiet": "surface.page", "signal.go": "surface.card",
                "signal.wait": "surface.card", "signal.stop": "surface.card",
                "signal.note": "surface.card", "signal.hold": "surface.page",
                "highlight.fill": "surface.page",
            },
        )  # fmt: skip

    def test_distances_are_those_of_coloraide(self):
        found = {}
        for brand, standing in self.standings(self.whole):
            for side in (standing.standard, standing.other):
                gap = lightness(side.color) - lightness(side.ground)
                self.assertAlmostEqual(side.gap, gap, delta=0.2)  # both are rounded to 8 bits
            found[brand, standing.token] = standing.words
        self.assertEqual(found["tarnmoor", "highlight.fill"], "stronger by 34")
        self.assertEqual(found["vexley", "highlight.fill"], "stronger by 51")  # it shouts
        self.assertEqual(found["tarnmoor", "signal.hold"], "weaker by 26")

    def test_made_even_every_color_stands_out_as_in_the_mode_it_was_designed_for(self):
        for mode in ("dark", "dim"):
            made = MakeAllEven("appearance", "light", mode).apply(self.whole)
            before = {(b, s.token): s for b, s in self.standings(self.whole, mode=mode)}
            count = 0
            for brand, standing in self.standings(made, mode=mode):
                was = before[brand, standing.token]
                gaps = [
                    abs(lightness(side.color) - lightness(side.ground))
                    for side in (standing.standard, standing.other)
                ]
                self.assertLessEqual(abs(gaps[0] - gaps[1]), 3.0, (brand, standing.token))
                (_, chroma, hue), (_, then, turned) = (
                    oklch(side.color) for side in (was.other, standing.other)
                )
                if min(chroma, then) > 0.03:
                    apart = abs((turned - hue + 180) % 360 - 180)
                    self.assertLessEqual(apart, 2.0, (brand, standing.token))
                self.assertTrue(Color(standing.other.color).in_gamut("srgb", tolerance=0))
                count += 1
            self.assertEqual(count, 27)

    def test_no_other_mode_changes(self):
        made = MakeAllEven("appearance", "light", "dark").apply(self.whole)
        before, after = Resolver(self.whole), Resolver(made)
        for theme in list(before.themes())[::7]:
            if before.picks(theme)["appearance"] != "dark":
                for one in self.whole.tokens:
                    self.assertEqual(before.resolve(one.key, theme), after.resolve(one.key, theme))


class EvenTests(SimpleTestCase):
    def built(self, day="#1f6f54", night="#9fe8cc", ground="#10201a"):
        return document(
            token("page", "#ffffff", ({"appearance": "dark"}, ground)),
            token("action.fill", day, ({"appearance": "dark"}, night)),
            axes=(LOOK,),
        )

    def stands(self, built):
        analysis = Analysis(built)
        pairs = prominence.grounds(analysis.paired, analysis.roles)
        (standing,) = prominence.standings(built, pairs, "appearance", "light", "dark", {})
        return standing

    @tried(60)
    @given(*[st.integers(0, 255)] * 6, st.integers(0, 60))
    def test_any_color_is_made_even_where_there_is_room(self, r, g, b, x, y, z, dark):
        built = self.built(
            f"#{r:02x}{g:02x}{b:02x}", f"#{x:02x}{y:02x}{z:02x}", "#" + f"{dark:02x}" * 3
        )
        was = self.stands(built)
        if was.other.gap < 0 or abs(was.standard.gap) + lightness(was.other.ground) > 99:
            return
        made = self.stands(MakeEven("action.fill", "appearance", "light", "dark").apply(built))
        self.assertLessEqual(abs(made.stronger), 1.0)

    def test_as_strong_as_is_asked(self):
        set_to = MakeEven("action.fill", "appearance", "light", "dark", gap="40")
        self.assertAlmostEqual(
            abs(self.stands(set_to.apply(self.built())).other.gap), 40, delta=0.5
        )
        self.assertIn("Set how strongly action.fill stands out", set_to.sentence(self.built()))
        for gap, sentence in (
            ("x", "not a number"),
            ("101", "between 0 and 100"),
            ("nan", "between"),
        ):
            with self.assertRaisesMessage(EditError, sentence):
                MakeEven("action.fill", "appearance", "light", "dark", gap=gap).apply(self.built())
        for wrong, sentence in (
            (MakeEven("gone", "appearance", "light", "dark"), "no longer there"),
            (MakeEven("action.fill", "appearance", "light", "noon"), "mode is no longer there"),
        ):
            with self.assertRaisesMessage(EditError, sentence):
                wrong.apply(self.built())

    def test_what_is_even_is_left_alone(self):
        even = MakeEven("action.fill", "appearance", "light", "dark").apply(self.built())
        with self.assertRaisesMessage(EditError, "even already"):
            MakeAllEven("appearance", "light", "dark").apply(even)

    def test_a_step_that_looks_the_same_is_taken(self):
        whole = quillhaven.document()
        made = MakeEven("signal.go", "appearance", "light", "dark").apply(whole)
        stored = made.token("signal.go").values
        (fresh,) = [
            value
            for at, value in stored
            if value not in dict(whole.token("signal.go").values).values()
        ]
        self.assertTrue(fresh.text.startswith(("#", "oklch", "{go.")))


class ElevationTests(SimpleTestCase):
    def found(self, *surfaces, night=(), others=()):
        names = ("page", "card", "raised")
        tokens = [
            token(f"surface.{name}", day, *([({"appearance": "dark"}, dark)] if dark else []))
            for name, day, dark in zip(names, surfaces, night or [None] * 3, strict=False)
        ]
        built = document(*tokens, *others, axes=(LOOK,))
        return [one.what for one in checks.run(Analysis(built), "elevation")]

    def test_levels_that_rise_are_no_finding(self):
        self.assertEqual(
            self.found("#f4f4f4", "#ffffff", night=("#101010", "#1c1c1c"), others=()), []
        )

    def test_a_card_on_its_page_in_the_same_color_is_one(self):
        self.assertEqual(
            self.found("#f4f4f4", "#ffffff", night=("#101010", "#111111")),
            ["surface.card hardly lifts off surface.page: 0.4 L* apart."],
        )

    def test_what_gets_darker_as_it_rises_at_night_is_one(self):
        self.assertEqual(
            self.found("#ffffff", "#f4f4f4", night=("#2a2a2a", "#101010")),
            ["surface.card is darker than surface.page, which lies below it."],
        )

    def test_by_day_a_line_parts_what_has_one_color(self):
        night = ("#101010", "#1c1c1c")
        same = self.found("#ffffff", "#ffffff", night=night)
        self.assertEqual(same, ["surface.card hardly lifts off surface.page: 0.0 L* apart."])
        line = token("line.soft", "#dddddd", ({"appearance": "dark"}, "#333333"))
        self.assertEqual(self.found("#ffffff", "#ffffff", night=night, others=(line,)), [])

    def test_an_edit_that_parts_them_ends_it(self):
        built = document(
            token("surface.page", "#101010"), token("surface.card", "#101010"), axes=()
        )
        self.assertEqual(len(checks.run(Analysis(built), "elevation")), 1)
        apart = SetValue("surface.card", "#1c1c1c").apply(built)
        self.assertEqual(checks.run(Analysis(apart), "elevation"), [])
