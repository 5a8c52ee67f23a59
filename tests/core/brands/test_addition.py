"""A brand more: nothing that is there changes, and everything passes in its mode."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from demo import quillhaven
from prism import starters
from prism.analysis import Analysis
from prism.brands import addition
from prism.brands.addition import NewBrand
from prism.errors import PrismError
from prism.expressions.values import references
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.starters.plan import NamedColor, sorted_out
from tests import tried
from tests.builders import APPEARANCE, counter_keys, document, token

HEX = st.integers(0, 0xFFFFFF).map(lambda number: f"#{number:06x}")
#: A palette of nobody here: dark first, steps named by hundreds, no recipe.
FOREIGN = (
    *(
        token(f"brand.{name}", text, tier="raw")
        for name, text in (
            ("900", "#0c2a4d"), ("700", "#15467f"), ("500", "#2f6fb8"), ("300", "#86b2e6"),
            ("100", "#dbe9fa"),
        )
    ),
    token("white", "#ffffff", tier="raw"),
    token("black", "#000000", tier="raw"),
    token("text.link", "{brand.500}", ({"appearance": "dark"}, "{brand.300}")),
    token("button.bg", "{brand.700}", ({"appearance": "dark"}, "{brand.300}")),
    token("button.label", "{white}", ({"appearance": "dark"}, "{black}")),
    token("page", "{white}", ({"appearance": "dark"}, "{black}")),
)  # fmt: skip


def scheme(*colors):
    """A scheme from colors by name."""
    plan = replace(sorted_out([NamedColor(*color) for color in colors]), name="Harbor")
    return starters.build(plan, counter_keys())


def unchanged(test, before, brand):
    """Nothing is another color in any theme of the brands that were there."""
    first, second = Resolver(before), Resolver(brand.document)
    owner = brand.document.axis(brand.axis)
    place = second.axis_index[brand.axis]
    new = second.mode_index[place][brand.mode]
    for theme in second.themes():
        if theme[place] == new:
            continue
        same = before.axis(owner.key) is not None
        old = theme if same else (*theme[:place], *theme[place + 1 :])
        for known in before.tokens:
            test.assertEqual(
                first.resolve(known.key, old).value,
                second.resolve(known.key, theme).value,
                known.path,
            )


def falling_short_in(brand):
    """The readings that fall short in the brand's mode."""
    analysis = Analysis(brand.document)
    place = analysis.resolver.axis_index[brand.axis]
    mode = analysis.resolver.mode_index[place][brand.mode]
    themes = [theme for theme in analysis.resolver.themes() if theme[place] == mode]
    readings = audit(analysis.paired_resolver, analysis.paired.pairings, themes)
    return [reading for reading in readings if reading.fails]


class AnyBrandTests(SimpleTestCase):
    @tried(30)
    @given(HEX, HEX, HEX)
    def test_everything_passes_and_nothing_that_was_there_changes(self, first, second, third):
        before = scheme(("brine", first), ("coral", second))
        brand = addition.add(before, NewBrand("vexley", (("gorse", third),)), counter_keys("n"))
        unchanged(self, before, brand)
        self.assertEqual(falling_short_in(brand), [])
        kept = [t.path for t in brand.document.tokens if t.tier != "raw"]
        self.assertEqual(kept, [t.path for t in before.tokens if t.tier != "raw"])
        again = addition.add(brand.document, NewBrand("more", (("x", second),)), counter_keys("m"))
        unchanged(self, brand.document, again)
        self.assertEqual(falling_short_in(again), [])


class NamedTests(SimpleTestCase):
    def add(self, built, *colors, **more):
        return addition.add(built, NewBrand("vexley", colors, **more), counter_keys("n"))

    def told(self, brand, path):
        """What a token refers to in the brand's mode: by the other modes."""
        known = brand.document.token_at(path)
        return {
            tuple(mode for axis, mode in condition.picks if axis != brand.axis): value.text
            for condition, value in known.values
            if condition.mode_on(brand.axis) == brand.mode
        }

    def test_a_palette_of_nobody_here_gets_like_steps_with_its_names(self):
        before = document(*FOREIGN, axes=(APPEARANCE,))
        brand = self.add(before, ("gorse", "#8a5a00"))
        unchanged(self, before, brand)
        self.assertEqual(
            self.told(brand, "text.link"), {(): "{gorse.500}", ("dark",): "{gorse.300}"}
        )
        names = [t.path for t in brand.document.tokens if t.top == "gorse" and t.leaf != "base"]
        self.assertEqual(names, [f"gorse.{name}" for name in ("100", "300", "500", "700", "900")])
        self.assertEqual(
            [m.name for m in brand.document.axis(brand.axis).modes], ["Small", "vexley"]
        )

    def test_a_brand_among_brands_joins_their_axis(self):
        before = quillhaven.document()
        brand = self.add(before, ("moss", "#4c6b1f"))
        self.assertEqual(brand.axis, addition.axis_of(before).key)
        unchanged_paths = {row.token.path for row in brand.rows}
        self.assertTrue(any(path.startswith("accent.") for path in unchanged_paths))
        self.assertFalse(any(path.startswith("surface.") for path in unchanged_paths))

    def test_the_own_color_is_shown_where_the_first_brand_shows_its_own(self):
        brand = self.add(scheme(("brine", "#00687b")), ("gorse", "#f2c100"))
        self.assertEqual(self.told(brand, "action.fill.$root")[()], "{gorse.base}")
        self.assertEqual(self.told(brand, "action.label.$root")[()], "{neutral.11}")

    def test_rows_say_what_differs(self):
        brand = self.add(scheme(("brine", "#00687b")), ("gorse", "#f2c100"))
        row = next(row for row in brand.rows if row.token.path == "text.link")
        self.assertEqual((row.before.text, row.after.text), ("{brine.8}", "{gorse.8}"))
        renamed = {
            path.partition(".")[0] for r in brand.rows for path in references(r.after, "color")
        }
        self.assertLessEqual(renamed, {"gorse", "white", "neutral", "black"})

    def test_corners_typefaces_and_names_are_a_brands_own(self):
        before = scheme(("brine", "#00687b"))
        names = token("name", "Harbor", type="string")
        before = replace(before, tokens=(*before.tokens, names))
        for corners, first in (
            ("square", "{radius.0}"),
            ("smaller", "{radius.1}"),
            ("larger", "{radius.3}"),
        ):
            brand = self.add(
                before, ("gorse", "#f2c100"), corners=corners, texts=(("name", "Vexley"),)
            )
            self.assertEqual(self.told(brand, "corner.card"), {(): first})
            self.assertEqual(self.told(brand, "name"), {(): "Vexley"})
            unchanged(self, before, brand)

    def test_what_cannot_be_is_said(self):
        before = scheme(("brine", "#00687b"))
        for built, new, sentence in (
            (before, NewBrand(" "), "A brand needs a name."),
            (before, NewBrand("Harbor", first="Harbor"), "is what the first brand is called"),
            (before, NewBrand("a", (("x", "nope"),)), "is not a color"),
            (before, NewBrand("a", (("x{", "#123456"),)), "cannot be a path"),
            (before, NewBrand("a", corners="round"), "is no choice for corners"),
            (before, NewBrand("a", texts=(("gone", "x"),)), "no longer there"),
            (document(token("text", "#000")), NewBrand("a", (("x", "#123456"),)), "Link their colors"),
            (document(token("text", "#000")), NewBrand("a", corners="square"), "No token refers to a scale"),
            (quillhaven.document(), NewBrand("Vexley", (("x", "#123456"),)), "Two modes have the same name."),
        ):  # fmt: skip
            with self.subTest(sentence=sentence), self.assertRaisesMessage(PrismError, sentence):
                addition.add(built, new, counter_keys("n"))
