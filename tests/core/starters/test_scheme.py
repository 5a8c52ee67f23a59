"""A scheme from a few colors: whatever the colors, every pairing passes."""

import itertools
import re
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism import checks, starters
from prism.analysis import Analysis
from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.coverage.needs import coverage_of
from prism.errors import PrismError
from prism.palette.ramps import oklch
from prism.resolution.contrast import audit
from prism.roles.by_slot import SLOTS
from prism.starters import STARTERS, plan, preview
from prism.starters.naming import NAMINGS, naming, read_prefix
from prism.starters.plan import PARTS, NamedColor, Plan, sorted_out
from tests import tried
from tests.builders import counter_keys, small_picture

HEX = st.integers(0, 0xFFFFFF).map(lambda number: f"#{number:06x}")
COLORS = st.lists(
    st.tuples(st.sampled_from(["", "brine", "text", "error", "neutral"]), HEX), max_size=4
)
SCHEMES = [starter.id for starter in STARTERS if starter.id != "nothing"]


def made(*colors, **more):
    """The plan of some colors (name and text), and its document."""
    known = replace(sorted_out([NamedColor(*color) for color in colors]), name="Harbor", **more)
    return known, starters.build(known, counter_keys())


def falling_short(built):
    """The pairings that fall short in some theme, read one by one."""
    analysis = Analysis(built)
    readings = audit(
        analysis.paired_resolver, analysis.paired.pairings, list(analysis.resolver.themes())
    )
    return [reading for reading in readings if not reading.passes]


def text_of(built, path, place=0):
    """What a token refers to, by the place of its value."""
    return built.token_at(path).values[place][1].text


#: Checks that find nothing in a scheme that was just made; two colors that were typed may be the same.
_SOUND = (
    "elevation",
    "coverage",
    *(name for name in checks.ids("hygiene") if name not in ("duplicate", "same-modes")),
)


class AnyColorTests(SimpleTestCase):
    @tried(60)
    @given(COLORS, st.sampled_from(SCHEMES), st.sampled_from([n.id for n in NAMINGS]))
    def test_every_pairing_passes_in_every_theme(self, colors, start, names):
        known, built = made(*colors, start=start, naming=names)
        analysis = Analysis(built)
        self.assertGreaterEqual(len(analysis.paired.pairings), 70)
        self.assertEqual(falling_short(built), [])
        self.assertEqual(analysis.once(coverage_of).gaps, ())
        self.assertEqual(checks.run(analysis, *_SOUND), [])
        stored = {
            token.value().text
            for token in built.tokens
            if token.tier == "raw" and token.type == "color"
        }
        for color in known.colors:
            self.assertIn(color.text, stored)

    @tried(25)
    @given(COLORS, st.sets(st.sampled_from([part for part, _ in PARTS])))
    def test_what_is_left_out_is_left_out_and_the_rest_passes(self, colors, without):
        _, built = made(*colors, without=frozenset(without))
        self.assertEqual(falling_short(built), [])
        self.assertEqual(len(built.axes[0].modes), 1 if "dark" in without else 2)
        statuses = [token for token in built.tokens if token.path.startswith("status.")]
        self.assertEqual(bool(statuses), "statuses" not in without)
        self.assertEqual("overlay" in {t.top for t in built.tokens}, "overlays" not in without)
        self.assertEqual("radius" in {t.top for t in built.tokens}, "measures" not in without)

    def test_a_fill_shows_the_color_that_was_typed_with_a_label_that_reads(self):
        for text, label in (
            ("#00687b", "{white}"),
            ("#f2c100", "{neutral.11}"),
            ("#3b82f6", "{black}"),
        ):
            _, built = made(("brand", text))
            path = text_of(built, "action.fill.$root").strip("{}")
            self.assertEqual(built.token_at(path).value().text, text)
            self.assertEqual(text_of(built, "action.label.$root"), label)

    def test_a_color_as_light_as_the_page_gives_way_to_one_that_is_seen(self):
        _, built = made(("brand", "#ffffff"))
        analysis = Analysis(built)
        theme = analysis.resolver.default_theme
        fill = analysis.resolver.resolve(built.token_at("action.fill.$root").key, theme).color
        self.assertLess(oklch(fill)[0], 0.93)

    def test_states_move_away_from_the_label(self):
        for text, sign in (("#00687b", -1), ("#f2c100", 1)):
            _, built = made(("brand", text))
            resolver = Analysis(built).resolver
            light = [
                oklch(
                    resolver.resolve(
                        built.token_at(f"action.fill.{state}").key, resolver.default_theme
                    ).color
                )[0]
                for state in ("$root", "hover", "pressed")
            ]
            self.assertEqual(sorted(light, reverse=sign < 0), light)


class PlaceTests(SimpleTestCase):
    def test_each_color_has_its_place(self):
        known = sorted_out(
            [NamedColor("", "#00687b"), NamedColor("danger", "#cc0033"), NamedColor("", "#70757a"),
             NamedColor("", "#fff"), NamedColor("", "#00687c")]
        )  # fmt: skip
        self.assertEqual([color.name for color in known.colors], ["teal", "teal 2"])
        self.assertEqual(known.neutral, NamedColor("neutral", "#70757a"))
        self.assertEqual(known.statuses, (("error", NamedColor("error", "#cc0033")),))

    def test_grays_alone_are_the_brand(self):
        known = sorted_out([NamedColor("", "#000"), NamedColor("", "#808080")])
        self.assertEqual([color.name for color in known.colors], ["gray", "gray 2"])
        self.assertIsNone(known.neutral)

    def test_a_name_that_the_scheme_needs_gets_another(self):
        _, built = made(("surface", "#00687b"), ("a.{b}", "#f06a52"))
        names = {ramp.name for ramp in built.ramps}
        self.assertLessEqual({"surface color", "a b"}, names)

    def test_hues_have_names(self):
        for text, word in (
            ("#e6194b", "red"), ("#f58231", "orange"), ("#ffe119", "yellow"), ("#3cb44b", "green"),
            ("#008080", "teal"), ("#0000ff", "blue"), ("#7f3fbf", "violet"), ("#f032e6", "pink"),
            ("#a9a9a9", "gray"),
        ):  # fmt: skip
            self.assertEqual(plan.hue_word(space.parse(text)), word)

    def test_colors_are_read_from_text_files_and_pictures(self):
        read = plan.read_colors("--brine: #00687b; coral #f06a52")
        self.assertEqual(
            [(c.name, c.text) for c in read], [("brine", "#00687b"), ("coral", "#f06a52")]
        )
        file = plan.read_file(b":root { --a: #123456; --b: var(--a) }", "x.css", counter_keys())
        self.assertEqual([color.name for color in file], ["a", "b"])
        seen = plan.read_file(small_picture(), "x.png", counter_keys())
        self.assertTrue(all(re.fullmatch(r"#[0-9a-f]{6}", color.text) for color in seen))
        many = "\n".join(f"#{number:06x}" for number in range(20))
        with self.assertRaisesMessage(
            PrismError, "These are 20 colors; a scheme begins with at most 12."
        ):
            plan.read_colors(many)
        with self.assertRaisesMessage(PrismError, "There is no color in this text."):
            plan.read_colors("hello there")

    def test_what_is_no_color_is_named_with_its_place(self):
        with self.assertRaisesMessage(PrismError, "coral: “nope” is not a color."):
            plan.check([NamedColor("coral", "nope")])
        self.assertEqual(NamedColor("x", "nope").hex, "")

    def test_translucent_and_wide_colors_become_what_a_screen_shows(self):
        self.assertEqual(NamedColor("x", "#00687b80").base, "#00687b")
        self.assertRegex(NamedColor("x", "color(display-p3 0 1 0)").base, r"^#[0-9a-f]{6}$")
        self.assertEqual(NamedColor("x", "rgb(0 104 123)").base, "rgb(0 104 123)")


class NamingTests(SimpleTestCase):
    def test_ways_of_naming_turn_words_and_prefixes(self):
        self.assertEqual(naming("long").path("surface.card"), "color.background.card")
        self.assertEqual(naming("long").path("text.quiet", "acme"), "acme.text.secondary")
        self.assertEqual(naming("nowhere").path("line.soft"), "line.soft")
        self.assertEqual(read_prefix(" acme. "), "acme")
        with self.assertRaises(PrismError):
            read_prefix("a{b")

    def test_roles_are_the_same_whatever_the_names(self):
        for way in NAMINGS:
            _, built = made(("brine", "#00687b"), naming=way.id)
            card = built.token_at(way.path("surface.card"))
            label = built.token_at(way.path("action.label.$root"))
            self.assertEqual((card.role, label.role), ("surface", "label"))
            self.assertEqual(label.belongs_to, built.token_at(way.path("action.fill.$root")).key)


class StarterTests(SimpleTestCase):
    def test_several_brands_have_a_mode_each_and_share_all_tokens(self):
        _, built = made(
            ("brine", "#00687b"), ("coral", "#f06a52"), ("gorse", "#f2c100"), start="several-brands"
        )
        brand = built.axes[1]
        self.assertEqual([mode.name for mode in brand.modes], ["brine", "coral", "gorse"])
        _, one = made(("brine", "#00687b"))
        paths = [token.path for token in one.tokens if token.tier != "raw"]
        self.assertEqual([token.path for token in built.tokens if token.tier != "raw"], paths)

    def test_a_dense_tool_has_series_that_can_be_told_apart(self):
        _, built = made(("blue", "#123456"), start="dense-tool")
        self.assertEqual(len(built.telling_apart[-1].tokens), 8)
        self.assertIn("chart blue", {ramp.name for ramp in built.ramps})
        self.assertEqual([axis.name for axis in built.axes], ["appearance", "density"])

    def test_every_check_is_clean_every_slot_bound_and_statuses_are_no_brands(self):
        for colors in (
            (("moor", "#8a2f6b"),),
            (("", "#f2994a"),),
            (("x", "#c8383a"), ("y", "#1976d2")),
        ):
            for start in ("one-product", "several-brands", "dense-tool"):
                with self.subTest(colors=colors, start=start):
                    _, built = made(*colors, start=start)
                    analysis = Analysis(built)
                    found = [
                        finding.what
                        for finding in analysis.once(checks.findings)
                        if finding.is_open()
                    ]
                    self.assertEqual(found, [])
                    self.assertEqual([slot for slot in SLOTS if slot not in analysis.bindings], [])
                    self.assertTrue(built.telling_apart)
                    self.assertGreaterEqual(self.nearest(built), 9.9)

    def nearest(self, built):
        """The least CIEDE2000 difference between a base color of a brand and one of a status."""
        bases = {"identity": [], "signal": []}
        for ramp in built.ramps:
            if ramp.purpose in bases:
                seed = space.parse(dict(ramp.parameters)["seed"])
                bases[ramp.purpose].append(lab(space.rgba(seed)[:3]))
        pairs = itertools.product(bases["identity"], bases["signal"])
        return min(float(delta_e_2000(*pair)) for pair in pairs)

    def test_nothing_is_nothing_but_the_colors(self):
        self.assertEqual(starters.build(Plan("x", start="nothing"), counter_keys()).tokens, ())
        _, built = made(("brine", "#00687b"), start="nothing")
        self.assertEqual({token.top for token in built.tokens}, {"brine"})
        self.assertEqual(preview.shown(Analysis(built)).pairings, ())


class ShownTests(SimpleTestCase):
    def test_the_preview_counts_what_is_there_with_the_tightest_pairing_first(self):
        _, built = made(("brine", "#00687b"))
        analysis = Analysis(built)
        shown = preview.shown(analysis)
        self.assertEqual((shown.tokens, shown.failing), (len(built.tokens), 0))
        margins = [read.margin for read in shown.pairings]
        self.assertEqual(margins, sorted(margins))
        self.assertEqual(len(shown.pairings), len(analysis.paired.pairings))
        brine = next(strip for strip in shown.strips if strip.name == "brine")
        marked = [step.hex for step in brine.steps if step.is_base]
        self.assertEqual(marked or [brine.base], ["#00687b"])

    def test_every_appearance_of_the_first_brands_is_shown(self):
        _, built = made(("a", "#00687b"), ("b", "#f06a52"), start="several-brands")
        words = [look.words for look in preview.looks(Analysis(built))]
        self.assertEqual(words, ["light, a", "dark, a", "light, b", "dark, b"])
