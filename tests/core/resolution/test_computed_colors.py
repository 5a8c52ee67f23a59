"""Color expressions against what Chromium made of them, as recorded: computed, refused, put in, written."""

import re
from collections import Counter

from django.test import SimpleTestCase

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import css
from prism.expressions.values import parse
from prism.resolution.resolver import Resolver
from tests.builders import document, resolved, token
from tests.expressions import COMPUTED, REFUSED, numbers, ours, outcome, recorded

_INNER = re.compile(
    r"#[0-9a-f]{3,8}\b|\b(?:rgb|hsl|hwb|lab|lch|oklab|oklch|color)\((?!from)[^()]*\)"
)


class RecordedTests(SimpleTestCase):
    def test_cases_by_name(self):
        found = recorded()
        for title, texts in COMPUTED.items():
            for text in texts:
                with self.subTest(text, about=title):
                    self.assertIn(outcome(ours(text), found[text]), ("equal", "outside"))
        for text in REFUSED:
            with self.subTest(text), self.assertRaises(ExpressionError):
                parse(text, "color")

    def test_expressions_of_chance(self):
        outcomes = {text: outcome(ours(text), found) for text, found in recorded().items()}
        counted = Counter(outcomes.values())
        self.assertGreater(counted["equal"], 700)
        self.assertGreater(counted["both refuse"], 200)
        apart = [text for text, kind in outcomes.items() if kind in ("different", "one refuses")]
        self.assertLessEqual(len(apart), 3, apart)

    def test_colors_outside_srgb_before_they_are_mapped(self):
        # Both write color(srgb ...) with channels beyond 0 and 1; single precision there.
        tried = 0
        for text, found in recorded().items():
            color = ours(text)
            if color is None or found is None or outcome(color, found) != "outside":
                continue
            channels = space.engine(color).convert("srgb").coords(nans=False)
            theirs = numbers(found.split("srgb", 1)[1])[:3]
            if max(map(abs, theirs)) < 2:
                tried += 1
                for our, their in zip(channels, theirs, strict=True):
                    self.assertAlmostEqual(our, their, delta=0.02, msg=text)
        self.assertGreater(tried, 80)

    def test_the_same_with_a_reference_in_place_of_an_inner_color(self):
        """Also written as CSS and read again."""
        tried = 0
        for text, found in recorded().items():
            inner = _INNER.search(text)
            if inner is None or inner[0] == text or found is None:
                continue
            if (origin := ours(inner[0])) is None or not space.in_gamut(origin, "srgb"):
                continue
            outer = f"{text[: inner.start()]}{{a}}{text[inner.end() :]}"
            with self.subTest(outer, a=inner[0]):
                again = css(parse(outer, "color").tree, "{{{}}}".format)
                for written in (outer, again):
                    made = document(token("a", inner[0]), token("b", written))
                    answer = resolved(made, "b")
                    self.assertEqual(answer.broken, "")
                    if outcome(ours(text), found) == "equal":
                        self.assertEqual(outcome(answer.color, found), "equal", written)
                tried += 1
        self.assertGreater(tried, 300)

    def test_what_is_refused_is_refused_with_a_reference_too(self):
        tried = 0
        for text, found in recorded().items():
            inner = _INNER.search(text)
            if found is not None or inner is None or inner[0] == text or ours(inner[0]) is None:
                continue
            outer = f"{text[: inner.start()]}{{a}}{text[inner.end() :]}"
            made = document(token("a", inner[0]), token("b", outer))
            resolver = Resolver(made)
            self.assertTrue(resolver.resolve("b", resolver.theme({})).broken, outer)
            tried += 1
        self.assertGreater(tried, 40)
