"""Random color expressions against Chromium's own CSS engine: what it accepts and computes.

Colors are compared where they lie in sRGB, to 1/255 a channel: beyond it Chromium clips and the
core maps. ``NIMBLE_PRISM_EXPRESSIONS`` sets how many are tried; 5,000 is the long run. What
differs still hangs on the hue of a color that is nearly grey, which is chance in single precision.
"""

import os
import random
import re
from collections import Counter

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import OnPage
from prism.expressions.values import parse
from tests.browser.base import EngineTestCase
from tests.expressions import expression, mutated

COUNT = int(os.environ.get("NIMBLE_PRISM_EXPRESSIONS", "1500"))
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?|none|-?infinity|NaN")
_STEP = 1 / 255
_IN_SRGB = """
(texts) => texts.map((text) => {
  const probe = document.body.appendChild(document.createElement("i"));
  probe.style.color = "";
  probe.style.color = text;
  let found = null;
  if (probe.style.color) {
    probe.style.color = `color(from ${text} srgb r g b / alpha)`;
    found = getComputedStyle(probe).color;
  }
  probe.remove();
  return found;
})
"""


def numbers(text):
    """Channels and alpha of a color that Chromium wrote."""
    values = [0.0 if n in ("none", "NaN") else float(n) for n in _NUMBER.findall(text)]
    return values if len(values) == 4 else [*values, 1.0]


def ours(text):
    """The color of an expression; None where it is refused."""
    try:
        return parse(text, "color").literal
    except ExpressionError:
        return None


class RandomExpressionTests(EngineTestCase):
    def in_chromium(self, texts):
        self.page.set_content("<!doctype html><body>")
        return self.page.evaluate(_IN_SRGB, texts)

    def outcome(self, color, found):
        """How a color compares with Chromium's."""
        if color is None or found is None:
            return "both refuse" if color is found else "one refuses"
        if not space.in_gamut(color, "srgb"):
            return "outside"
        *theirs, alpha = numbers(found.split("srgb", 1)[1])
        channels = space.engine(color).convert("srgb").coords(nans=False)
        apart = max(abs(our - their) for our, their in zip(channels, theirs, strict=True))
        if color.alpha == alpha == 0:
            return "equal"
        return "equal" if max(apart, abs(color.alpha - alpha)) <= _STEP else "different"

    def test_what_is_computed(self):
        rng = random.Random(2026)
        texts = [expression(rng) for _ in range(COUNT)]
        outcomes = [
            (self.outcome(ours(text), found), text)
            for text, found in zip(texts, self.in_chromium(texts), strict=True)
        ]
        counted = Counter(outcome for outcome, _ in outcomes)
        inside = counted["equal"] + counted["different"]
        self.assertGreater(inside, COUNT * 0.6)
        self.assertEqual(counted["one refuses"], 0, outcomes)
        apart = [text for outcome, text in outcomes if outcome == "different"]
        self.assertGreaterEqual(counted["equal"], 0.995 * inside, apart)

    def test_what_is_accepted(self):
        rng = random.Random(2027)
        texts = [mutated(rng) for _ in range(COUNT)]
        outcomes = [
            (self.outcome(ours(text), found), text)
            for text, found in zip(texts, self.in_chromium(texts), strict=True)
        ]
        counted = Counter(outcome for outcome, _ in outcomes)
        self.assertGreater(counted["both refuse"], COUNT * 0.3)
        self.assertGreater(counted["equal"], COUNT * 0.2)
        apart = [text for outcome, text in outcomes if outcome == "one refuses"]
        self.assertLessEqual(len(apart), 0.01 * COUNT, apart)


class NamedCaseTests(EngineTestCase):
    """Cases that random expressions meet seldom; what is right is what Chromium says."""

    def same(self, *texts):
        self.page.set_content("<!doctype html><body>")
        for text, found in zip(texts, self.page.evaluate(_IN_SRGB, texts), strict=True):
            with self.subTest(text):
                self.assertIsNotNone(found, "Chromium refuses it")
                color = ours(text)
                self.assertIsNotNone(color, "it is refused")
                *theirs, alpha = numbers(found.split("srgb", 1)[1])
                channels = space.engine(color).convert("srgb").coords(nans=False)
                for our, their in zip((*channels, color.alpha), (*theirs, alpha), strict=True):
                    self.assertAlmostEqual(our, their, delta=_STEP)

    def refused(self, *texts):
        self.page.set_content("<!doctype html><body>")
        for text, found in zip(texts, self.page.evaluate(_IN_SRGB, texts), strict=True):
            with self.subTest(text):
                self.assertIsNone(found, "Chromium accepts it")
                with self.assertRaises(ExpressionError):
                    parse(text, "color")

    def test_the_hue_of_greys(self):
        self.same(
            "color-mix(in oklch, #808080, red)", "color-mix(in lch, rgb(128 127 126), red)",
            "color-mix(in oklch, lch(50 1 100), red)", "color-mix(in lch, lch(50 0 100), red)",
            "color-mix(in hsl, white, red)", "color-mix(in hsl, hsl(40 0% 50%), red)",
            "color-mix(in hsl longer hue, white, red 30%)", "oklch(from #808080 0.6 0.1 h)",
            "color-mix(in oklch, color(srgb 0.564 0.5 0.5), color(srgb 0.2 0.6 0.3))",
            "color-mix(in hwb, lch(50 0 0), red)", "lch(from oklch(0.5 0 0) l 40 h)",
        )  # fmt: skip

    def test_missing_components(self):
        self.same(
            "rgb(20 40 60 / none)", "color-mix(in srgb, rgb(20 20 20 / none), rgb(100 90 80 / 50%))",
            "color-mix(in oklab, color(srgb 0.2 none 0.3 / 0.2), color(srgb 0.5 0.6 0.7 / 0.8))",
            "color-mix(in srgb, color(xyz none 0.2 0.2), red)",
            "color-mix(in oklab, lab(50 none 20), red)", "color-mix(in srgb, gray, lab(none none none))",
            "color-mix(in lab, red, hsl(none none 50%))", "oklch(from oklch(0.5 0.1 none) l c h)",
            "color-mix(in hsl, hwb(50 none 20%), red)", "rgb(from rgb(20 none 30) r calc(g + 10) b)",
            "rgb(from rgb(10 20 30 / none) r g b / calc(alpha + 0.5))",
        )  # fmt: skip

    def test_ranges(self):
        self.same(
            "hsl(400 80% 50%)", "hsl(-0.5turn 80% 50%)", "hsl(90, 110%, 50%)",
            "hsl(90 -10% 50%)", "hwb(90 80% 80%)", "oklch(1.2 0 20)", "oklch(0.5 -0.1 20)",
            "rgb(calc(infinity) 0 0)", "rgb(calc(NaN) 10 0)", "rgb(300 -20 0)",
            "oklch(from oklab(0.5 0.1 -0.1) l 0.1 calc(h * 0.5))", "rgb(1 2 3 / 2)",
            "color-mix(in oklch decreasing hue, oklab(0.4 0.05 -0.05), oklch(0.5 0.1 320) 81%)",
        )  # fmt: skip

    def test_forms_that_are_accepted(self):
        self.same(
            "color-mix(red, blue)", "color-mix(in display-p3-linear, red, rgb(0 200 0))",
            "color-mix(in oklab, red 0%, blue 0%)", "color-mix(in oklab, red calc(110%), blue)",
            "color(display-p3-linear 0.2 0.3 0.4)", "contrast-color(#767676)",
            "contrast-color(#757575)", "rgb(calc(sin(90deg) * 255) 0 0)",
            "rgb(pow(2, 7) sqrt(16) hypot(3, 4))", "rgb(log(100, 10) exp(2) abs(-3))",
            "rgb(mod(18, 5) rem(-18, 5) mod(-18, 5))", "oklch(0.5 0.1 atan2(1, 1))",
            "rgb(clamp(none, 300, 200) 0 0)", "rgb(calc(pi * 20) calc(e * 10) 0)",
            "rgb(round(up, 12.1, 5) round(to-zero, 12, 5) round(12.5))", "rgb(10.3%, 20%, 30%, 1%)",
            "oklch(from red l 0.1 calc(h * 1deg))", "rgba(10 20 30)", "rgb(10,20,30,40%)",
        )  # fmt: skip

    def test_forms_that_are_refused(self):
        self.refused(
            "lab(79.1% 43.4 / .35)", "oklch(0.5 0.1 calc(1)(2))", "rgb(10, 20%, 30)",
            "rgb(10, 20, none)", "hsl(120, 50, 50)", "lab(50, 20, 30)", "rgb(10,20,30 / 40%)",
            "rgb(pi 0 0)", "rgb(calc(1+ 2) 0 0)", "rgb(max(10, 20%) 0 0)", "hsl(50% 50% 50%)",
            "color-mix(in oklab, red)", "color-mix(in oklab, red, blue, lime)",
            "color-mix(in oklab, red -10%, blue)", "color-mix(in srgb shorter hue, red, blue)",
            "rgb(from red r, g, b)", "color(srgb 1 1)", "color(from red oklch l c h)",
            "oklch(from red calc(l + 10%) c h)", "rgb((10) 20 30)", "lch(50 20 50%)",
        )  # fmt: skip

    def test_colors_of_the_page_are_kept_as_text(self):
        for text in ("currentcolor", "CanvasText", "color-mix(in srgb, currentColor, red 20%)"):
            kept = ours(text)
            self.assertIsInstance(kept, OnPage)
            self.page.set_content("<!doctype html><body>")
            first, second = self.page.evaluate(_IN_SRGB, [text, kept.text])
            self.assertEqual(first, second)
