"""Public style sheets, read and written again, against Chromium.

The sheets are those of general-purpose packages of the npm registry, as unlike as can be:
frameworks of utilities and of components, classless sheets, sheets with many themes, sets of
properties. A color counts where Chromium takes a property for one. The versions are pinned in
``package.json``.
"""

import re
from collections import Counter
from functools import cache
from pathlib import Path

from prism.formats import css, css_in_place, style_sheets
from prism.resolution.resolver import Resolver
from tests.builders import counter_keys
from tests.reference.pages import COLORS, STEP, TEXTS, SheetTestCase, css_name, numbers

MODULES = Path(__file__).parents[2] / "node_modules"
#: Package and files, and the names of the axes that come out of them.
SHEETS = {
    "@picocss/pico": (("css/pico.css", "css/pico.colors.css"), ["theme"]),
    "bootstrap": (("dist/css/bootstrap.css",), ["bs-theme"]),
    "bulma": (("css/bulma.css",), ["theme", "appearance"]),
    "@shoelace-style/shoelace": (("dist/themes/light.css", "dist/themes/dark.css"), ["appearance"]),
    "beercss": (("dist/cdn/beer.css",), ["appearance"]),
    "github-markdown-css": (("github-markdown.css",), ["theme", "appearance"]),
    "@tabler/core": (("dist/css/tabler.css",), ["bs-theme", "bs-sidebar", "bs-layout"]),
    "water.css": (("out/water.css",), ["appearance"]),
    "missing.css": (("dist/missing.css",), ["appearance"]),
    "daisyui": (("themes.css",), ["theme"]),
    "tailwindcss": (("theme.css",), []),
    "@docsearch/css": (("dist/style.css",), ["theme"]),
    "reveal.js": (("dist/theme/moon.css",), []),
    "simpledotcss": (("simple.css",), ["appearance"]),
    "@primer/primitives": (
        tuple(
            f"dist/css/functional/themes/{name}.css"
            for name in ("light", "dark", "dark-dimmed", "light-tritanopia")
        ),
        ["color-mode", "light-theme", "dark-theme", "appearance"],
    ),
}
#: Types of many parts with the property that Chromium computes them by.
MANY = {
    "shadow": "box-shadow",
    "border": "border-top",
    "cubicBezier": "transition-timing-function",
}
_COLOR = re.compile(r"color\([^)]*\)")
#: A property by its custom property, and by what a token comes to; colors by their channels in sRGB.
COMPUTED = """
(pairs) => {
  const style = document.body.style;
  const channels = (text) => text.replace(/(rgba?|oklch|oklab|color)\\([^)]*\\)/g, (color) => {
    style.color = `rgb(from ${color} r g b / alpha)`;
    return getComputedStyle(document.body).color;
  });
  const read = (property, value) => {
    style.setProperty(property, value);
    const seen = getComputedStyle(document.body).getPropertyValue(property);
    style.removeProperty(property);
    style.removeProperty("color");
    return channels(seen);
  };
  return pairs.map(([property, name, css]) => [read(property, `var(${name})`), read(property, css)]);
}
"""
#: Properties that have another value in windows of some width, which is no mode.
WIDER = ("--pico-font-size",)


def original(package):
    """The text of a package's sheets; what only a build tool knows is said as a browser does."""
    texts = [(MODULES / package / name).read_text() for name in SHEETS[package][0]]
    text = "\n".join(texts).replace('@charset "UTF-8";', "")
    return re.sub(r"@theme [\w ]*\{", ":root {", text)


@cache
def sheet(package):
    """The text of a package's sheets, and what is read from it."""
    text = original(package)
    return text, style_sheets.read(text.encode(), f"{package}.css", counter_keys())


class PublicStyleSheetTests(SheetTestCase):
    def each(self):
        for package, (_, axes) in SHEETS.items():
            yield package, *sheet(package), axes

    def test_every_color_in_every_mode(self):
        total = Counter()
        for package, text, read, axes in self.each():
            document = read.document
            resolver = Resolver(document)
            by_name = {css_name(token): token for token in document.tokens}
            listed = {skipped.name for skipped in read.skipped}
            counted = Counter()
            for picks in self.states(document):
                self.show(text, document, picks)
                theme = resolver.theme(picks)
                for name, seen in self.page.evaluate(COLORS).items():
                    if name in by_name:
                        verdict = self.verdict(resolver, by_name[name], theme, seen)
                    else:
                        verdict = "listed" if name in listed else "missing"
                    counted[verdict] += 1
                    self.assertIn(
                        verdict, ("equal", "beyond", "listed"), (package, picks, name, seen)
                    )
            self.assertEqual([axis.name for axis in document.axes], axes, package)
            self.assertGreater(counted["equal"], 8, package)
            total += counted
        self.assertGreaterEqual(total["equal"], 0.95 * total.total(), total)

    def test_shadows_borders_and_curves_are_what_chromium_computes(self):
        counted = Counter()
        for package, text, read, _ in self.each():
            document = read.document
            resolver = Resolver(document)
            tokens = [token for token in document.tokens if token.type in MANY]
            for picks in self.states(document):
                self.show(text, document, picks)
                theme = resolver.theme(picks)
                pairs = []
                for token in tokens:
                    answer = resolver.resolve(token.key, theme)
                    if not answer.absent and "currentcolor" not in answer.css.lower():
                        self.assertFalse(answer.broken, (package, token.path, answer.broken))
                        pairs.append([MANY[token.type], css_name(token), answer.css])
                for (_, name, said), (was, now) in zip(
                    pairs, self.page.evaluate(COMPUTED, pairs), strict=True
                ):
                    self.assertEqual(*(_COLOR.sub("color", seen) for seen in (was, now)))
                    for one, other in zip(_COLOR.findall(was), _COLOR.findall(now), strict=True):
                        pairs_of = zip(numbers(one), numbers(other), strict=True)
                        near = all(abs(a - b) <= STEP for a, b in pairs_of)
                        self.assertTrue(near, (package, picks, name, said, one, other))
            counted.update(token.type for token in tokens)
        self.assertGreater(counted["shadow"], 40, counted)
        self.assertGreater(counted["cubicBezier"], 3, counted)

    def test_every_declaration_became_a_token_or_is_listed(self):
        for package, text, read, _ in self.each():
            declared = set(
                re.findall(r"(?<![\w(-])(--[\w-]+)\s*:", re.sub(r"/\*.*?\*/", "", text, flags=re.S))
            )
            known = {css_name(token) for token in read.document.tokens}
            listed = {skipped.name for skipped in read.skipped}
            self.assertEqual(declared - known - listed, set(), package)
            for skipped in read.skipped:
                self.assertTrue(skipped.reason and skipped.line, (package, skipped))

    def test_the_sheet_written_in_place_is_the_same_in_every_mode(self):
        for package, text, read, _ in self.each():
            document = read.document
            names = [css_name(token) for token in document.tokens]
            written = css_in_place.write(document)
            self.page.set_viewport_size(
                {"width": 500, "height": 800}
            )  # below all widths of ``WIDER``
            for picks in self.states(document):
                self.show(text, document, picks)
                was = self.page.evaluate(TEXTS, names)
                self.show(written, document, picks)
                now = self.page.evaluate(TEXTS, names)
                for name in names:
                    said, *used = was[name]
                    if said != now[name][0] and name not in WIDER:
                        self.assertEqual(used, now[name][1:], (package, picks, name, said))

    def test_the_sheet_for_zones_has_the_same_colors(self):
        for package, text, read, _ in self.each():
            document = read.document
            if package not in ("@picocss/pico", "bootstrap", "water.css"):
                continue
            self.show(text, document, {})
            was = self.page.evaluate(COLORS)
            self.show(css.write(document), document, {})
            now = self.page.evaluate(COLORS)
            for token in document.tokens:
                if token.type == "color" and (name := css_name(token)) in was:
                    pairs = zip(numbers(was[name]), numbers(now[name]), strict=True)
                    self.assertTrue(all(abs(a - b) <= STEP for a, b in pairs), (package, name))
