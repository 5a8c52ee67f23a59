"""Random color expressions against Chromium's own CSS engine: what it accepts and computes.

Colors are compared where they lie in sRGB, to 1/255 a channel: beyond it Chromium clips and the
core maps. ``NIMBLE_PRISM_EXPRESSIONS`` sets how many are tried; 5,000 is the long run. What
differs still hangs on the hue of a color that is nearly grey, which is chance in single precision.
"""

import json
import os
import random
from collections import Counter

from prism.errors import ExpressionError
from prism.expressions.evaluation import OnPage
from prism.expressions.values import parse
from tests.browser.base import EngineTestCase
from tests.expressions import (
    COMPUTED,
    RECORD,
    REFUSED,
    expression,
    mutated,
    ours,
    outcome,
    recorded,
    to_record,
)

COUNT = int(os.environ.get("NIMBLE_PRISM_EXPRESSIONS", "1500"))
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


class RandomExpressionTests(EngineTestCase):
    def in_chromium(self, texts):
        self.page.set_content("<!doctype html><body>")
        return self.page.evaluate(_IN_SRGB, texts)

    def test_what_is_computed(self):
        rng = random.Random(2026)
        texts = [expression(rng) for _ in range(COUNT)]
        outcomes = [
            (outcome(ours(text), found), text)
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
            (outcome(ours(text), found), text)
            for text, found in zip(texts, self.in_chromium(texts), strict=True)
        ]
        counted = Counter(outcome for outcome, _ in outcomes)
        self.assertGreater(counted["both refuse"], COUNT * 0.3)
        self.assertGreater(counted["equal"], COUNT * 0.2)
        apart = [text for outcome, text in outcomes if outcome == "one refuses"]
        self.assertLessEqual(len(apart), 0.01 * COUNT, apart)


class NamedCaseTests(EngineTestCase):
    """Cases that random expressions meet seldom; what is right is what Chromium says."""

    def in_chromium(self, texts):
        self.page.set_content("<!doctype html><body>")
        return self.page.evaluate(_IN_SRGB, texts)

    def test_what_is_computed(self):
        for title, texts in COMPUTED.items():
            for text, found in zip(texts, self.in_chromium(texts), strict=True):
                with self.subTest(text, about=title):
                    self.assertIsNotNone(found, "Chromium refuses it")
                    self.assertIn(outcome(ours(text), found), ("equal", "outside"))

    def test_what_is_refused(self):
        for text, found in zip(REFUSED, self.in_chromium(REFUSED), strict=True):
            with self.subTest(text):
                self.assertIsNone(found, "Chromium accepts it")
                with self.assertRaises(ExpressionError):
                    parse(text, "color")

    def test_the_record_that_the_tests_of_the_core_read(self):
        texts = to_record()
        made = dict(zip(texts, self.in_chromium(texts), strict=True))
        if os.environ.get("NIMBLE_PRISM_RECORD"):
            RECORD.write_text(json.dumps(made, indent=0, ensure_ascii=False) + "\n")
        kept = recorded()
        self.assertEqual(kept.keys(), made.keys())
        same = sum(kept[text] == found for text, found in made.items())
        self.assertGreater(same, 0.99 * len(made))  # another version may compute a few otherwise

    def test_colors_of_the_page_are_kept_as_text(self):
        for text in ("currentcolor", "CanvasText", "color-mix(in srgb, currentColor, red 20%)"):
            kept = ours(text)
            self.assertIsInstance(kept, OnPage)
            self.page.set_content("<!doctype html><body>")
            first, second = self.page.evaluate(_IN_SRGB, [text, kept.text])
            self.assertEqual(first, second)
