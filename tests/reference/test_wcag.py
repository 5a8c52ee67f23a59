"""Contrast against published formulas and independent programs."""

import random

import numpy as np
from django.test import SimpleTestCase

from prism import checks
from prism.analysis import Analysis
from prism.color import space
from prism.color.contrast import (
    contrast_ratio,
    flatten,
    lightness,
    relative_luminance,
    source_over,
    truncate_ratio,
)
from prism.model.document import Pairing
from tests.builders import document, token


def rgb(text):
    return space.rgba(space.parse(text))[:3]


class CheckValueTests(SimpleTestCase):
    """The formula of WCAG 2.2, "contrast ratio", for colors near the thresholds.

    The ratios were computed once by a separate program and are rounded to four decimals.
    """

    ON_WHITE = {
        "#767676": 4.5422, "#777777": 4.4781, "#949494": 3.0335, "#959595": 2.9953,
        "#595959": 7.0047, "#5a5a5a": 6.8969, "#0000ff": 8.5924, "#ff0000": 3.9984,
    }  # fmt: skip

    def test_on_white(self):
        for text, ratio in self.ON_WHITE.items():
            found = float(contrast_ratio(rgb(text), rgb("#ffffff")))
            self.assertAlmostEqual(found, ratio, delta=1e-4, msg=text)

    def test_black_on_white_is_21_exactly(self):
        self.assertEqual(float(contrast_ratio(rgb("black"), rgb("white"))), 21.0)

    def test_on_black(self):
        found = float(contrast_ratio(rgb("#777777"), rgb("black")))
        self.assertAlmostEqual(found, 4.6895, 4)

    def test_never_rounded_up(self):
        self.assertEqual(truncate_ratio(4.4999), "4.49")
        self.assertEqual(truncate_ratio(4.5), "4.50")
        self.assertEqual(truncate_ratio(2.9953), "2.99")


class LightnessTests(SimpleTestCase):
    def test_l_star_agrees_with_colour_science(self):
        # colour-science's CIE 1976 L*, fed with the same luminance.
        from colour.colorimetry import lightness_CIE1976

        rng = np.random.default_rng(7)
        colors = rng.random((500, 3))
        expected = lightness_CIE1976(relative_luminance(colors) * 100, 100)
        self.assertLess(float(np.max(np.abs(lightness(colors) - expected))), 1e-9)

    def test_luminance_agrees_with_colour_sciences_linear_light(self):
        # colour-science's sRGB decoding; the weights are WCAG's own.
        from colour.models import eotf_sRGB

        rng = np.random.default_rng(8)
        colors = rng.random((500, 3))
        expected = eotf_sRGB(colors) @ np.array([0.2126, 0.7152, 0.0722])
        self.assertLess(float(np.max(np.abs(relative_luminance(colors) - expected))), 1e-6)


class CompositingTests(SimpleTestCase):
    def test_source_over_agrees_with_coloraide(self):
        # coloraide's compositing layer, "source-over" in srgb.
        from coloraide import Color

        rng = random.Random(3)
        for _ in range(200):
            top, middle = ([rng.random() for _ in range(4)] for _ in range(2))
            bottom = [*(rng.random() for _ in range(3)), 1.0]
            layers = [Color("srgb", one[:3], one[3]) for one in (top, middle, bottom)]
            mixed = Color.layer(layers, blend="normal", operator="source-over", space="srgb")
            found = source_over(top, source_over(middle, bottom))
            self.assertTrue(np.allclose(found[:3], mixed.coords(), atol=1e-12))

    def test_a_stack_is_rounded_to_what_is_painted(self):
        found = flatten([(0, 0, 0, 0.5), (1, 1, 1, 1)])
        # Chromium 156 paints half of black over white as 127, see test_painted_stacks.
        self.assertEqual([round(float(c) * 255, 9) for c in found[:3]], [127, 127, 127])


class VerdictTests(SimpleTestCase):
    def test_ten_thousand_random_pairings_are_judged_as_the_formula_judges_them(self):
        # WCAG 2.2, "relative luminance" and "contrast ratio", written down here once more, channel by channel.
        def luminance(text):
            channels = [int(text[place : place + 2], 16) / 255 for place in (1, 3, 5)]
            light = [c / 12.92 if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in channels]
            return 0.2126 * light[0] + 0.7152 * light[1] + 0.0722 * light[2]

        rng = random.Random(17)
        colors = [f"#{rng.randrange(1 << 24):06x}" for _ in range(400)]
        lights = [luminance(text) for text in colors]
        tokens = [token(f"c{i}", text) for i, text in enumerate(colors)]
        pairings, expected = [], set()
        for number in range(10_000):
            first, second = rng.sample(range(400), 2)
            required = rng.choice((3.0, 4.5, 7.0))
            pairings.append(Pairing(f"p{number}", f"c{first}", (f"c{second}",), required=required))
            high, low = sorted((lights[first], lights[second]), reverse=True)
            if (high + 0.05) / (low + 0.05) < required:
                expected.add(f"p{number}")
        found = checks.run(Analysis(document(*tokens, pairings=tuple(pairings))), "contrast")
        self.assertEqual({finding.part for finding in found}, expected)
        self.assertTrue(3000 < len(expected) < 9500)
