"""Style sheets of chance against Chromium: every kind of selector, condition and layer together."""

import os
from collections import Counter
from itertools import product

from prism.formats import css_in_place, style_sheets
from prism.resolution.resolver import Resolver
from tests.builders import counter_keys
from tests.reference.pages import COLORS, SheetTestCase, css_name
from tests.sheets import random_sheet

COUNT = int(os.environ.get("NIMBLE_PRISM_SHEETS", "30"))
_MOST_STATES = 24


class RandomStyleSheetTests(SheetTestCase):
    marked = ("documentElement",)

    def states(self, document):
        """All themes, or some of them where there are many."""
        choices = [[(axis.key, mode.key) for mode in axis.modes] for axis in document.axes]
        themes = [dict(picks) for picks in product(*choices)]
        return themes[:: len(themes) // _MOST_STATES + 1]

    def listed(self, read):
        """Properties of which something was skipped, and those that need them."""
        names = {skipped.name for skipped in read.skipped}
        graph = Resolver(read.document).graph
        users = graph.users([t.key for t in read.document.tokens if css_name(t) in names])
        return names | {css_name(read.document.token(key)) for key in users}

    def test_every_color_in_every_mode_read_and_written_in_place(self):
        counted = Counter()
        for seed in range(COUNT):
            text = random_sheet(seed)
            read = style_sheets.read(text.encode(), "x.css", counter_keys())
            resolver = Resolver(read.document)
            by_name = {css_name(token): token for token in read.document.tokens}
            listed = self.listed(read)
            written = css_in_place.write(read.document)
            for picks in self.states(read.document):
                self.show(text, read.document, picks)
                colors = self.page.evaluate(COLORS)
                theme = resolver.theme(picks)
                for name in sorted({*by_name, *colors} - listed):
                    token = by_name.get(name)
                    self.assertIsNotNone(token, (seed, picks, name, text))
                    if name not in colors:
                        answer = resolver.resolve(token.key, theme)
                        self.assertIsNone(answer.color, (seed, picks, name, text))
                        counted["absent"] += 1
                        continue
                    verdict = self.verdict(resolver, token, theme, colors[name])
                    counted[verdict] += 1
                    self.assertIn(verdict, ("equal", "beyond"), (seed, picks, name, colors, text))
                if not listed:
                    self.show(written, read.document, picks)
                    again = self.page.evaluate(COLORS)
                    self.assertEqual(again, colors, (seed, picks, text, written))
        self.assertGreater(counted["equal"], 30 * COUNT, counted)
