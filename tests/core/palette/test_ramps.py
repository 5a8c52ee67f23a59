"""Ramps: targets, order, the seed, the gamut."""

import random

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.color import space
from prism.color.contrast import contrast_ratio
from prism.errors import PrismError
from prism.palette import ramps, recipes
from prism.palette.gamut import most_chroma
from prism.palette.ramps import (
    TARGETS,
    THRESHOLDS,
    Recipe,
    default_targets,
    make,
    most_contrast,
    oklch,
)
from tests import few, tried

channel = st.integers(0, 255)
quick = tried(40)


def lightness(color):
    return space.engine(color).convert("oklab").coords()[0]


def rounded(color, reference=(1, 1, 1)):
    """The ratio of the 8-bit color, as audits take it."""
    rgb = [one / 255 for one in space.rgba8(color)[:3]]
    return float(contrast_ratio(rgb, reference))


class AnchoredTests(SimpleTestCase):
    def assert_anchored(self, steps, reference=(1, 1, 1)):
        """Every step but the seed meets its target, and is on its side of each threshold."""
        for step in steps:
            if step.is_seed:
                continue
            self.assertLess(abs(step.exact - step.target), 0.01, step)
            for limit in THRESHOLDS:
                above = rounded(step.color, reference) >= limit
                self.assertEqual(above, step.target >= limit, step)

    def assert_seed(self, steps, seed, reference=(1, 1, 1)):
        """The seed is a step, unchanged, just where it is within 1 % of the step's target and on
        its side of every threshold; else it is none."""
        ratio = rounded(seed, reference)
        near = min(steps, key=lambda step: abs(lightness(step.color) - lightness(seed)))
        fits = abs(ratio / near.target - 1) <= 0.01 and all(
            (ratio >= limit) == (near.target >= limit) for limit in THRESHOLDS
        )
        kept = [space.hex_text(step.color) for step in steps if step.is_seed]
        if kept:
            self.assertTrue(fits, (seed, near))
            self.assertEqual(kept, [space.hex_text(seed)])
        elif fits:
            # Two steps may lie equally near; the one that was asked is then not within 1 %.
            self.assertGreater(len(steps), 20)

    def assert_in_order(self, steps):
        """Lightness goes one way and never stands still, the seed included."""
        gaps = np.diff([lightness(step.color) for step in steps])
        self.assertTrue(np.all(gaps > 0) or np.all(gaps < 0), gaps)

    def test_twelve_hues_meet_every_target_and_keep_their_seed(self):
        for hue in range(0, 360, 30):
            seed = space.fit(space.parse(f"oklch(0.6 0.12 {hue})"), "srgb")
            seed = space.parse(space.hex_text(seed))
            steps = make(Recipe(seed))
            self.assertEqual([step.target for step in steps], list(TARGETS))
            self.assert_anchored(steps)
            self.assert_in_order(steps)
            self.assert_seed(steps, seed)

    @tried(120)
    @given(
        st.tuples(channel, channel, channel),
        st.tuples(channel, channel, channel),
        st.integers(1, 40),
        st.tuples(st.floats(-90, 90), st.floats(-90, 90)),
        st.sampled_from(["srgb", "display-p3"]),
    )
    def test_any_seed_reference_and_count(self, seed, reference, count, drift, gamut):
        color = space.parse("#{:02x}{:02x}{:02x}".format(*seed))
        other = space.parse("#{:02x}{:02x}{:02x}".format(*reference))
        steps = make(Recipe(color, count=count, reference=other, drift=drift, gamut=gamut))
        self.assertEqual(len(steps), count)
        self.assert_anchored(steps, space.rgba(other)[:3])
        self.assert_in_order(steps)
        self.assert_seed(steps, color, space.rgba(other)[:3])

    def test_500_ramps_are_exact(self):
        rng = random.Random(5)
        for _ in range(few(500)):
            steps = make(Recipe(space.parse(f"#{rng.randrange(1 << 24):06x}")))
            for step in steps:
                ratio = rounded(step.color)
                self.assertLessEqual(abs(ratio / step.target - 1), 0.01, step)
                for limit in THRESHOLDS:
                    self.assertEqual(ratio >= limit, step.target >= limit, step)

    def test_chroma_of_500_ramps_runs_without_leaps_and_fills_the_gamut(self):
        # Before chroma was held to a slope: 0.146, 0.089 and 0.849.
        rng = random.Random(500)
        jumps, shares = [], []
        for _ in range(few(500)):
            steps = make(Recipe(space.parse(f"#{rng.randrange(1 << 24):06x}")))
            lights, chroma, hues = np.array([oklch(step.color) for step in steps]).T
            jumps.append(np.max(np.abs(np.diff(chroma))))
            if not any(step.is_seed for step in steps):  # else it is as vivid as it was chosen
                self.assertLess(jumps[-1], 0.09)
            shares.append(np.mean(chroma / most_chroma(lights, hues, "srgb")))
        self.assertLess(np.quantile(jumps, 0.95), 0.08)
        self.assertGreater(np.mean(shares), 0.83)

    def test_nearly_black_and_nearly_white_colors_give_colored_middles(self):
        for text in ("#1a0f0a", "#18051e", "#fff4f0", "#eef4ff", "#f2fff5"):
            self.assertGreater(
                max(oklch(step.color)[1] for step in make(Recipe(space.parse(text)))), 0.06
            )
        for text in ("#faf7f2", "#1f2427", "#101010", "#fefefe"):  # neutrals stay neutral
            self.assertLess(
                max(oklch(step.color)[1] for step in make(Recipe(space.parse(text)))), 0.02
            )

    def test_targets_close_to_a_threshold_stay_on_their_side_of_it(self):
        for target in (2.99, 2.999, 3.0, 3.001, 4.495, 4.5, 4.505, 6.995, 7.0):
            for hue in (0, 90, 180, 270):
                seed = space.parse(f"oklch(0.5 0.05 {hue})")
                (step,) = make(Recipe(seed, count=1, targets=(target,), keep_seed=False))
                for limit in THRESHOLDS:
                    self.assertEqual(rounded(step.color) >= limit, target >= limit, (target, hue))

    def test_a_dark_reference_is_met_from_the_other_side(self):
        recipe = Recipe(space.parse("#236b53"), reference=space.parse("#000000"), keep_seed=False)
        for step in make(recipe):
            self.assertLess(abs(step.exact - step.target), 0.01)
        lights = [lightness(step.color) for step in make(recipe)]
        self.assertEqual(lights, sorted(lights))

    def test_targets_for_other_counts_lie_between_the_same_ends(self):
        for count in (2, 5, 12, 30):
            targets = default_targets(count)
            self.assertEqual(
                (len(targets), round(targets[0], 6), round(targets[-1], 6)), (count, 1.06, 16.2)
            )
            self.assertEqual(list(targets), sorted(targets))

    def test_a_reference_that_allows_little_draws_the_targets_together(self):
        grey = space.parse("#777777")
        targets = default_targets(11, most_contrast(grey))
        self.assertLess(targets[-1], most_contrast(grey))
        self.assertEqual(list(targets), sorted(set(targets)))

    def test_what_cannot_be_made_is_said(self):
        seed = space.parse("#236b53")
        for recipe, sentence in (
            (Recipe(seed, count=0), "1 to 60 steps"),
            (Recipe(seed, count=1000), "1 to 60 steps"),
            (Recipe(seed, count=2, targets=(2.0,)), "need 2 contrast targets"),
            (Recipe(seed, count=1, targets=(40.0,)), "from 1 to 21"),
            (Recipe(seed, count=2, targets=(4.0, 3.0)), "grow from step to step"),
            (Recipe(space.parse("#236b5380")), "The base color must be opaque"),
            (Recipe(space.parse("oklch(0.6 0.36 140)")), "lies outside sRGB. The nearest color"),
            (
                Recipe(space.parse("color(rec2020 0 1 0)"), gamut="display-p3"),
                "lies outside Display P3",
            ),
            (Recipe(seed, drift=(400, 0)), "Hue drift must be"),
            (Recipe(seed, ends=(0.2, 0.9)), "lightest larger than darkest"),
            (
                Recipe(seed, count=1, targets=(18.0,), reference=space.parse("#777777")),
                "No color reaches",
            ),
            (Recipe(seed, gamut="rec2020"), "is not a gamut"),
        ):
            with self.assertRaisesMessage(PrismError, sentence):
                make(recipe)


class EvenTests(SimpleTestCase):
    def test_lightness_falls_in_equal_distances(self):
        recipe = Recipe(space.parse("#236b53"), count=9, method="even", keep_seed=False)
        found = [lightness(step.color) for step in make(recipe)]
        gaps = -np.diff(found)
        self.assertLess(float(gaps.max() - gaps.min()), 0.006)

    def test_hue_stays_and_drifts_only_where_asked(self):
        seed = space.parse("oklch(0.55 0.1 160)")
        plain = make(Recipe(seed, method="even", keep_seed=False))
        drifting = make(Recipe(seed, method="even", keep_seed=False, drift=(20, -30)))
        hues = [space.engine(step.color).convert("oklch").coords()[2] for step in plain[2:-2]]
        self.assertLess(max(abs(hue - 160) for hue in hues), 3)
        first = space.engine(drifting[1].color).convert("oklch").coords()[2]
        last = space.engine(drifting[-2].color).convert("oklch").coords()[2]
        self.assertGreater(first, 170)
        self.assertLess(last, 150)


class GamutTests(SimpleTestCase):
    def test_the_edge_of_the_gamut_is_where_coloraide_finds_it(self):
        # coloraide's in_gamut just inside and just outside of the chroma found.
        rng = np.random.default_rng(2)
        light, hue = rng.uniform(0.15, 0.95, 60), rng.uniform(0, 360, 60)
        for gamut in ("srgb", "display-p3"):
            edge = most_chroma(light, hue, gamut)
            for one, c, h in zip(light, edge, hue, strict=True):
                inside = space.engine(space.Color("oklch", (one, c * 0.995, h)))
                outside = space.engine(space.Color("oklch", (one, c * 1.01 + 0.002, h)))
                self.assertTrue(inside.in_gamut(gamut, tolerance=1e-4), (gamut, one, c, h))
                self.assertFalse(outside.in_gamut(gamut, tolerance=1e-6), (gamut, one, c, h))

    def test_a_ramp_in_display_p3_reaches_further(self):
        seed = space.parse("oklch(0.7 0.3 145)")
        narrow = make(Recipe(seed, keep_seed=False))
        wide = make(Recipe(seed, gamut="display-p3", keep_seed=False))
        chroma = [
            space.engine(ramp[5].color).convert("oklch").coords()[1] for ramp in (narrow, wide)
        ]
        self.assertGreater(chroma[1], chroma[0] + 0.02)


class ReferenceTests(SimpleTestCase):
    def test_ramps_turn_lighter_on_a_reference_darker_than_the_middle(self):
        """White and black read alike on a luminance of 0.179: the root of 1.05 x 0.05, less 0.05."""
        self.assertAlmostEqual(ramps._MIDDLE, 0.1791, places=4)
        dark = ramps.make(recipes.read({"seed": "#3366cc", "reference": "#6e6e6e", "count": "3"}))
        light = ramps.make(recipes.read({"seed": "#3366cc", "reference": "#808080", "count": "3"}))
        above = [ramps.oklch(step.color)[0] for step in dark]
        below = [ramps.oklch(step.color)[0] for step in light]
        self.assertGreater(max(above), ramps.oklch(space.parse("#6e6e6e"))[0])
        self.assertLess(min(below), ramps.oklch(space.parse("#808080"))[0])
