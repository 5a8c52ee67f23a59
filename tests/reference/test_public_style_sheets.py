"""Public style sheets, read and written again, against Chromium.

The sheets are those of general-purpose packages of the npm registry, as unlike as can be:
frameworks of utilities and of components, classless sheets, sheets with many themes, sets of
properties. A color counts where Chromium takes a property for one. The versions are pinned in
``package.json``.
"""

import re
from collections import Counter
from pathlib import Path

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import OnPage
from prism.expressions.values import parse
from prism.formats import css, css_in_place, style_sheets
from prism.resolution.resolver import Resolver
from tests.browser.base import EngineTestCase
from tests.builders import counter_keys

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
_NUMBER = re.compile(r"[-+]?(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?|none")
_ATTRIBUTE = re.compile(r'\[([\w-]+)="(.*)"\]')
_STEP = 1 / 255 + 1e-6
#: Properties that have another value in windows of some width, which is no mode.
WIDER = ("--pico-font-size",)

_COLORS = """
() => {
  const names = new Set();
  for (const element of [document.documentElement, document.body])
    for (const [name] of element.computedStyleMap()) if (name.startsWith("--") && name !== "--painted") names.add(name);
  const parent = document.body.appendChild(document.createElement("div"));
  const probe = parent.appendChild(document.createElement("i"));
  const colors = {};
  for (const name of names) {
    const property = `var(${CSS.escape(name)})`;
    const seen = ["rgb(1, 2, 3)", "rgb(3, 2, 1)"].map((around) => {
      parent.style.color = around;
      probe.style.color = property;
      return getComputedStyle(probe).color;
    });
    if (seen[0] !== seen[1]) continue;  // no color: the one around it is inherited
    probe.style.color = `color(from ${property} srgb r g b / alpha)`;
    colors[name] = getComputedStyle(probe).color;
  }
  parent.remove();
  return colors;
}
"""
_TEXTS = """
(names) => {
  const style = getComputedStyle(document.body);
  const around = document.body.appendChild(document.createElement("div"));
  around.style.all = "initial";
  around.style.colorScheme = style.colorScheme;
  const probe = around.appendChild(document.createElement("i"));
  const texts = {};
  for (const name of names) {
    const property = `var(${CSS.escape(name)})`;
    texts[name] = [style.getPropertyValue(name).trim().replace(/\\s+/g, " ")];
    for (const used of ["color", "boxShadow", "fontFamily", "backgroundImage", "transition"]) {
      probe.style[used] = property;
      texts[name].push(getComputedStyle(probe)[used]);
      probe.style[used] = "";
    }
  }
  around.remove();
  return texts;
}
"""
_LAST = ":root { --painted: yes }"
_PAINTED = "getComputedStyle(document.body).getPropertyValue('--painted') === 'yes'"
_MARK = """
([attributes, classes]) => {
  const root = document.documentElement;
  for (const [name, value] of attributes) root.setAttribute(name, value);
  for (const name of classes) { root.classList.add(name); document.body.classList.add(name); }
}
"""


def original(package):
    """The text of a package's sheets; what only a build tool knows is said as a browser does."""
    texts = [(MODULES / package / name).read_text() for name in SHEETS[package][0]]
    text = "\n".join(texts).replace('@charset "UTF-8";', "")
    return re.sub(r"@theme [\w ]*\{", ":root {", text)


def css_name(token):
    """The custom property of a token that came from a sheet."""
    return "--" + (dict(token.export_names).get("css") or token.path)


def numbers(text):
    """Channels and alpha of a color in sRGB that Chromium wrote."""
    found = [0.0 if n == "none" else float(n) for n in _NUMBER.findall(text.split("srgb", 1)[1])]
    return found if len(found) == 4 else [*found, 1.0]


class PublicStyleSheetTests(EngineTestCase):
    def each(self):
        for package, (_, axes) in SHEETS.items():
            text = original(package)
            read = style_sheets.read(text.encode(), f"{package}.css", counter_keys())
            yield package, text, read, axes

    def show(self, text, document, picks):
        """A page with a style sheet, in the modes picked and the default ones besides."""
        attributes, classes, media = [], [], {"prefers-color-scheme": "light"}
        for axis in document.axes:
            mode = axis.mode(picks.get(axis.key, axis.default))
            if not mode.selectors and not axis.follows:
                attributes.append([f"data-{axis.name}", mode.name])
                attributes.append(["style", f"color-scheme: {mode.color_scheme}"])
            for selector in mode.selectors[:1]:
                match = _ATTRIBUTE.fullmatch(selector)
                if match:
                    attributes.append([match[1], match[2]])
                else:
                    classes.append(selector.removeprefix("."))
            if axis.follows and not mode.selectors:
                values = {mode: value for value, mode in axis.follows.modes}
                media[axis.follows.feature] = values.get(mode.key, "light")
        self.page.emulate_media(
            color_scheme=media["prefers-color-scheme"],
            reduced_motion=media.get("prefers-reduced-motion", "no-preference"),
        )
        self.page.set_content(
            f"<!doctype html><html><head><style>{text}\n{_LAST}</style></head><body></body>"
        )
        self.page.wait_for_function(_PAINTED)
        self.page.evaluate(_MARK, [attributes, classes])

    def states(self, document):
        """The default theme, and every other mode with all else in its default."""
        yield {}
        for axis in document.axes:
            for mode in axis.modes:
                if mode.key != axis.default:
                    yield {axis.key: mode.key}

    def verdict(self, resolver, token, theme, seen):
        """How a token compares with the color that Chromium sees."""
        answer = resolver.resolve(token.key, theme)
        color = answer.color
        if token.type == "piece" and isinstance(answer.value, str):
            try:
                color = parse(answer.value, "color").literal
            except ExpressionError:
                color = None
        if isinstance(answer.value, OnPage) or answer.mapped:
            return "beyond"  # it depends on the page, or lies outside sRGB, where Chromium clips
        if color is None:
            return "wrong"
        channels = space.engine(color).convert("srgb").coords(nans=False)
        pairs = zip((*channels, color.alpha), numbers(seen), strict=True)
        return "equal" if all(abs(our - their) <= _STEP for our, their in pairs) else "wrong"

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
                for name, seen in self.page.evaluate(_COLORS).items():
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
            for picks in self.states(document):
                self.show(text, document, picks)
                was = self.page.evaluate(_TEXTS, names)
                self.show(written, document, picks)
                now = self.page.evaluate(_TEXTS, names)
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
            was = self.page.evaluate(_COLORS)
            self.show(css.write(document), document, {})
            now = self.page.evaluate(_COLORS)
            for token in document.tokens:
                if token.type == "color" and (name := css_name(token)) in was:
                    pairs = zip(numbers(was[name]), numbers(now[name]), strict=True)
                    self.assertTrue(all(abs(a - b) <= _STEP for a, b in pairs), (package, name))
