"""Exported CSS against Chromium's own engine.

Source of truth is the browser: it cascades, substitutes and converts; its computed colors are
read as ``color(srgb …)`` through ``color-mix(in srgb, …)`` and compared with the resolver.
"""

import json
import random
import re

from prism.color import space
from prism.formats import css
from prism.model.names import css_names
from prism.resolution.resolver import Resolver
from tests.browser.base import EngineTestCase
from tests.builders import random_document

DOCUMENTS = 50
DEPTH = 4
_NUMBER = re.compile(r"[-+]?[\d.]+(?:e[-+]?\d+)?|none")

_READ = """
(names) => [document.documentElement, ...document.querySelectorAll("[data-zone]")].map((zone) => {
  const probe = document.createElement("i");
  zone.append(probe);
  const style = getComputedStyle(probe);
  const found = {};
  for (const name of names) {
    if (getComputedStyle(zone).getPropertyValue("--" + name).trim() === "") { found[name] = null; continue; }
    probe.style.color = "rgb(1 2 3 / 0.123)";
    probe.style.color = `color-mix(in srgb, var(--${name}), var(--${name}))`;
    found[name] = style.color;
  }
  probe.remove();
  return found;
})
"""


def random_choice(rng, axis, root):
    options = [mode.key for mode in axis.modes]
    if axis.follows is not None:
        options += ["system"]
    if not root:
        options += ["inherit", "inherit"]
    return rng.choice(options)


def random_zones(rng, document, marked):
    """What the page says, and four zones within each other."""
    page = {
        a.key: random_choice(rng, a, True) for a in document.axes if marked and rng.random() < 0.7
    }
    zones = [
        {a.key: random_choice(rng, a, False) for a in document.axes if rng.random() < 0.6}
        for _ in range(DEPTH)
    ]
    return page, zones


def expected_theme(document, levels, preferences):
    """The theme that holds inside the last of ``levels``, worked out from the definition."""
    theme = []
    for axis in document.axes:
        said = "system" if axis.follows else axis.default
        for level in levels:
            choice = level.get(axis.key, "inherit")
            said = said if choice == "inherit" else choice
        if said == "system":
            value = preferences.get(axis.follows.feature)
            said = dict(axis.follows.modes).get(value, axis.default)
        theme.append([mode.key for mode in axis.modes].index(said))
    return tuple(theme)


def page_html(document, page, zones):
    """A page in which every zone carries the attributes the exporter asks for."""

    def attributes(found):
        return "".join(f' {name}="{value}"' for name, value in found.items())

    root = {}
    if page:
        whole = css.zone_attributes(document, page, [])
        named = css.root_attributes(document, (0,) * len(document.axes))
        names = dict(zip([axis.key for axis in document.axes], named, strict=True))
        root = {names[key]: whole[names[key]] for key in page}
    body = ""
    for depth in range(DEPTH, 0, -1):
        found = css.zone_attributes(document, page, zones[:depth])
        body = f"<div data-zone{attributes(found)}>{body}</div>"
    return (
        f"<!doctype html><html{attributes(root)}><style>{css.write(document)}</style><body>{body}"
    )


class NestedZoneTests(EngineTestCase):
    def test_every_color_in_every_zone_equals_the_resolver_to_one_part_in_255(self):
        compared = absent = mapped = 0
        for seed in range(DOCUMENTS):
            document = random_document(seed)
            rng = random.Random(1000 + seed)
            resolver, names = Resolver(document), css_names(document)
            written = {token.key for token in css.written_tokens(document)}
            colors = [t for t in document.tokens if t.type == "color" and t.key in written]
            for marked in (False, True):
                page, zones = random_zones(rng, document, marked)
                self.page.set_content(page_html(document, page, zones))
                for scheme in ("light", "dark"):
                    contrast = rng.choice(("more", "no-preference"))
                    self.page.emulate_media(color_scheme=scheme, contrast=contrast)
                    preferences = {"prefers-color-scheme": scheme, "prefers-contrast": contrast}
                    found = self.page.evaluate(_READ, [names[color.key] for color in colors])
                    self.assertEqual(len(found), DEPTH + 1)
                    for depth, computed in enumerate(found):
                        levels = [page, *zones[:depth]]
                        theme = expected_theme(document, levels, preferences)
                        for one in colors:
                            answer = resolver.resolve(one.key, theme)
                            text = computed[names[one.key]]
                            where = json.dumps([seed, scheme, levels, one.path])
                            if answer.color is None:
                                self.assertIsNone(text, where)
                                absent += 1
                                continue
                            self.assert_same(text, answer.color, where)
                            compared += 1
                            mapped += answer.mapped
        self.assertGreater(compared, 5000)
        self.assertGreater(absent, 300)
        self.assertGreater(mapped, 100)

    def assert_same(self, text, color, where):
        self.assertIsNotNone(text, where)
        self.assertTrue(text.startswith("color(srgb "), text)
        numbers = [
            0.0 if n == "none" else float(n) for n in _NUMBER.findall(text.split("srgb", 1)[1])
        ]
        numbers += [1.0] if len(numbers) == 3 else []
        for channel, expected in zip(numbers, space.rgba(color), strict=True):
            self.assertLessEqual(abs(channel - expected), 1 / 255, (where, text, color))
