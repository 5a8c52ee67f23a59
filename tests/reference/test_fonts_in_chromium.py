"""Lists of font families as they are imported, typed, added and exported, against Chromium."""

import random

from demo import quillhaven
from prism.changes.values import set_value
from prism.expressions.typed_input import read_typed, typed
from prism.formats import css, css_in_place, files, style_sheets
from prism.model.document import Token
from prism.model.values import BASE
from prism.resolution.resolver import Resolver
from prism.sheet.addition import add_token
from tests.builders import counter_keys, document
from tests.reference.pages import SheetTestCase

#: Lists as style sheets write them, with the name of their property.
LISTS = (
    ("font-body", '"Hanken Grotesk", sans-serif'),
    ("font-mono", "ui-monospace, 'JetBrains Mono', Menlo, monospace"),
    ("family", '"Made Up"'),
    ("base-font", "-apple-system, BlinkMacSystemFont, 'Segoe Made Up', sans-serif"),
    ("type-family", "Georgia"),
    ("stack", 'Made Up Serif, "3 Quills", serif'),
    ("quotes", "\"It's \\22 quoted\\22\", 'a, b', serif"),
    ("escaped", r'"Sch\F6 n", fantasy, system-ui'),
    ("one", "system-ui"),
    ("wide", '"inherit", "default", cursive'),
)
NO_FONTS = (
    ("font-weight-bold", "bold"), ("font-size", "medium"), ("label", '"Boarding"'), ("ease", "ease-in, ease-out"),
    ("font-style", "italic"), ("areas", '"a b" "c d"'), ("will", "transform, opacity"),
)  # fmt: skip
_SEEN = """
(name) => {
  const probe = document.body.appendChild(document.createElement("i"));
  probe.style.fontFamily = `var(--${name})`;
  const seen = getComputedStyle(probe).fontFamily;
  probe.remove();
  return seen;
}
"""


class FontTests(SheetTestCase):
    def seen(self, text, name):
        self.page.set_content(f"<!doctype html><style>{text}</style><body>")
        return self.page.evaluate(_SEEN, name)

    def exported(self, built):
        """A document as every format that browsers read."""
        theme = Resolver(built).default_theme
        yield css.write(built)
        yield css_in_place.write(built)
        yield css.write_flat(built, theme)
        written, _ = files.write(built, "design-tokens", theme)
        again = files.read({n: t.encode() for n, t in written.items()}, counter_keys()).document
        yield css.write(again)

    def test_lists_come_in_and_go_out_as_chromium_reads_them(self):
        for name, text in LISTS:
            sheet = f":root {{ --{name}: {text}; --used: var(--{name}) }}"
            built = style_sheets.read(sheet.encode(), "x.css", counter_keys()).document
            self.assertEqual([t.type for t in built.tokens], ["fontFamily"] * 2, name)
            wanted = self.seen(sheet, name)
            for written in self.exported(built):
                with self.subTest(name, written=written):
                    self.assertEqual(self.seen(written, name), wanted)
                    self.assertEqual(self.seen(written, "used"), wanted)

    def test_what_is_typed_goes_out_as_chromium_reads_it(self):
        blank = Token("t", "sample", "fontFamily", "raw")
        for _, text in LISTS:
            value = read_typed(document(blank), text, blank)
            built = set_value(document(blank), "t", BASE, value)
            self.assertEqual(
                read_typed(built, typed(value, "fontFamily"), built.tokens[0]), value, text
            )
            wanted = self.seen(f":root {{ --sample: {text} }}", "sample")
            self.assertEqual(self.seen(css.write(built), "sample"), wanted)

    def test_what_is_added_is_told_by_its_value(self):
        for _, text in LISTS[:2]:
            built, added = add_token(
                quillhaven.document(), "made.stack", [(BASE, text)], counter_keys()
            )
            self.assertEqual(added.type, "fontFamily")
            wanted = self.seen(f":root {{ --a: {text} }}", "a")
            self.assertEqual(self.seen(css.write(built), "made-stack"), wanted)

    def test_what_is_no_list_of_fonts_is_none(self):
        for name, text in NO_FONTS:
            built = style_sheets.read(
                f":root {{ --{name}: {text} }}".encode(), "x.css", counter_keys()
            )
            self.assertNotIn("fontFamily", [t.type for t in built.document.tokens], name)

    def test_what_a_sheet_uses_as_a_family_is_one(self):
        sheet = b':root { --brand: "Made Up"; --x: 1 } body { font-family: var(--brand) }'
        built = style_sheets.read(sheet, "x.css", counter_keys()).document
        self.assertEqual(built.token_at("brand").type, "fontFamily")

    def test_lists_of_chance(self):
        rng = random.Random("fonts")
        words = (
            "Made Up",
            "a",
            "3 Quills",
            "Q-Quill",
            "serif",
            "monospace",
            "Ünder",
            "it's",
            'say "so"',
            "a,b",
            "x\\y",
        )
        for number in range(60):
            names = rng.sample(words, rng.randint(2, 5))
            text = ", ".join(
                n if n.isascii() and n.replace(" ", "").isalpha() and rng.random() < 0.6
                else '"' + n.replace("\\", "\\\\").replace('"', '\\"') + '"'
                for n in names
            )  # fmt: skip
            sheet = f":root {{ --font-{number}: {text} }}"
            built = style_sheets.read(sheet.encode(), "x.css", counter_keys()).document
            with self.subTest(text):
                self.assertEqual([t.type for t in built.tokens], ["fontFamily"])
                wanted = self.seen(sheet, f"font-{number}")
                for written in self.exported(built):
                    self.assertEqual(self.seen(written, f"font-{number}"), wanted)
