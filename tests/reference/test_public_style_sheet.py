"""A large public style sheet, read and written again, against Chromium.

The sheet is that of the npm package @picocss/pico 2.1.1, a general-purpose CSS framework: its
main file and its file of colors, together over 500 custom properties for light and dark.
"""

from collections import Counter
from pathlib import Path

from prism.formats import css, css_reader
from tests.browser.base import EngineTestCase
from tests.builders import counter_keys

FOLDER = Path(__file__).parents[2] / "node_modules" / "@picocss" / "pico" / "css"

_READ = """
(names) => {
  const probe = document.body.appendChild(document.createElement("i"));
  const found = {};
  for (const name of names) {
    probe.style.color = "rgb(1 2 3 / 0.123)";
    probe.style.color = `var(${name})`;
    found[name] = getComputedStyle(probe).color;
  }
  probe.remove();
  return found;
}
"""


class PublicStyleSheetTests(EngineTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.original = "\n".join(
            (FOLDER / name).read_text().replace('@charset "UTF-8";', "")
            for name in ("pico.css", "pico.colors.css")
        )
        cls.read = css_reader.read(cls.original.encode(), "pico.css", counter_keys())

    def colors(self, sheet, root, scheme):
        names = [f"--{token.path}" for token in self.read.document.tokens if token.type == "color"]
        self.page.emulate_media(color_scheme=scheme)
        self.page.set_content(f"<!doctype html><html {root}><style>{sheet}</style><body>")
        return self.page.evaluate(_READ, names)

    def test_every_color_in_both_modes_and_on_an_unmarked_page(self):
        document = self.read.document
        types = Counter(token.type for token in document.tokens)
        self.assertGreaterEqual(types["color"], 300)
        self.assertEqual(
            [(a.name, [m.name for m in a.modes]) for a in document.axes],
            [("theme", ["light", "dark"])],
        )
        written = css.write(document)
        for root, scheme in (
            ('data-theme="light"', "light"), ('data-theme="dark"', "light"),
            ("", "light"), ("", "dark"), ('data-theme="light"', "dark"),
        ):  # fmt: skip
            was = self.colors(self.original, root, scheme)
            now = self.colors(written, root, scheme)
            self.assertEqual(was.keys(), now.keys())
            wrong = {name: (was[name], now[name]) for name in was if not same(was[name], now[name])}
            self.assertEqual(wrong, {}, (root, scheme))

    def test_every_declaration_became_a_token_or_is_listed(self):
        import re

        declared = set(
            re.findall(r"(--[\w-]+)\s*:", re.sub(r"/\*.*?\*/", "", self.original, flags=re.S))
        )
        known = {f"--{token.path}" for token in self.read.document.tokens}
        listed = {one.name for one in self.read.skipped}
        self.assertEqual(declared - known - listed, set())
        self.assertTrue(all(one.reason and one.selector for one in self.read.skipped))


def same(one, other):
    """Whether two computed colors are equal to one step of 8 bits: legacy syntax is rounded."""
    import re

    first, second = ([float(n) for n in re.findall(r"[-\d.]+", text)] for text in (one, other))
    if one.startswith("color(srgb") != other.startswith("color(srgb"):
        first = [
            n * 255 if i < 3 and one.startswith("color(srgb") else n for i, n in enumerate(first)
        ]
        second = [
            n * 255 if i < 3 and other.startswith("color(srgb") else n for i, n in enumerate(second)
        ]
    step = 1 if not one.startswith("color(srgb") or not other.startswith("color(srgb") else 1 / 255
    first += [1.0] if len(first) == 3 else []
    second += [1.0] if len(second) == 3 else []
    colors = all(abs(a - b) <= step for a, b in zip(first[:3], second[:3], strict=True))
    return colors and abs(first[3] - second[3]) <= 1 / 255
