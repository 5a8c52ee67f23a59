"""Colors that mean different things and are one in some themes: against every theme, one by one."""

import random

from django.test import SimpleTestCase

from prism.analysis import Analysis
from prism.modes import merged
from prism.resolution.resolver import Resolver
from tests.builders import axis, document, token

LOOK = axis("look", "day", "night")
CONTRAST = axis("contrast", "usual", "raised")
NIGHT = {"look": "night"}


def found(built):
    return {finding.tokens: finding for finding in merged.run(Analysis(built))}


def pair(first, second, day=("#1f6feb", "#1a5fc9"), night=("#58a6ff", "#58a6ff")):
    """Two colors that are two by day, and one at night."""
    return document(
        *(
            token(path, a, (NIGHT, b))
            for path, a, b in zip((first, second), day, night, strict=True)
        ),
        axes=(LOOK,),
    )


class MergedTests(SimpleTestCase):
    def test_each_kind_of_meaning(self):
        for first, second, severity in (
            ("button.fill", "button.fill-hover", "warning"),
            ("text.link", "text.link-hover", "warning"),
            ("success.background", "warning.background", "warning"),
            ("surface.card", "surface.sunken", "note"),
            ("text.main", "text.muted", "note"),
        ):
            with self.subTest(first):
                (one,) = found(pair(first, second)).values()
                self.assertEqual(
                    one.what,
                    f"{first} and {second} are one color for look night (1 theme), and two in 1 more.",
                )
                self.assertEqual((one.severity, one.themes), (severity, 1))

    def test_what_is_one_everywhere_or_two_everywhere_is_left_alone(self):
        same = ("#1f6feb", "#1f6feb")
        self.assertEqual(found(pair("button.fill", "button.fill-hover", same, same)), {})
        apart = ("#1f6feb", "#1a5fc9")
        self.assertEqual(
            found(pair("button.fill", "button.fill-hover", apart, ("#58a6ff", "#2a70d0"))), {}
        )

    def test_a_difference_that_nobody_sees_is_none(self):
        self.assertEqual(found(pair("text.link", "text.link-hover", ("#1f6feb", "#1f6fec"))), {})

    def test_translucent_colors_are_left_out_and_unsure_ones_are_counted(self):
        self.assertEqual(
            found(pair("button.fill", "button.fill-hover", ("#1f6feb80", "#1a5fc980"))), {}
        )
        built = document(
            token("zorbel-a", "#123456", tier="semantic"), token("text.main", "#111111")
        )
        looked = merged.CHECK.looked(Analysis(built))
        self.assertEqual(
            looked.words,
            "no pair of colors that differ in meaning; 1 color whose role is not sure not judged",
        )

    def test_against_every_theme(self):
        """Random colors of two axes: the same answer as one that looks at each theme by itself."""
        rng = random.Random(4)
        some = ("#ffffff", "#fefefe", "#1f6feb", "#1a5fc9", "#58a6ff")
        names = (
            "button.fill",
            "button.fill-hover",
            "button.fill-pressed",
            "surface.page",
            "surface.sunken",
        )
        seen = 0
        for _ in range(60):
            conditions = (NIGHT, {"contrast": "raised"}, {"look": "night", "contrast": "raised"})
            tokens = [
                token(
                    name,
                    rng.choice(some),
                    *((c, rng.choice(some)) for c in conditions if rng.random() < 0.5),
                )
                for name in names
            ]
            built = document(*tokens, axes=(LOOK, CONTRAST))
            resolver = Resolver(built)
            told = {keys: finding.themes for keys, finding in found(built).items()}
            for first, second in (
                ("button.fill", "button.fill-hover"),
                ("surface.page", "surface.sunken"),
            ):
                themes = [
                    [resolver.resolve(key, theme).hex for key in (first, second)]
                    for theme in ((a, b) for a in range(2) for b in range(2))
                ]
                one = sum(a == b for a, b in themes)
                two = sum(a != b and {a, b} != {"#ffffff", "#fefefe"} for a, b in themes)
                self.assertEqual(told.get((first, second), 0), one if two else 0, (first, themes))
                seen += (first, second) in told
        self.assertGreater(seen, 20)
