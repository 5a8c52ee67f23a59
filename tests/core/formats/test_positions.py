"""Where the declarations of a style sheet stand in its text (CSS Syntax 3)."""

import tinycss2
from django.test import SimpleTestCase

from prism.formats.style_sheets import cascade
from prism.formats.style_sheets.source import Source
from prism.formats.style_sheets.tokens import trim
from tests.reference.test_public_style_sheets import original

#: Sheets as unlike as can be; tests.reference reads all of them.
SAMPLE = ("@picocss/pico", "water.css", "missing.css", "github-markdown-css", "daisyui")


def read(text):
    """The text as it counts, and its declarations in order."""
    found = cascade.read(text, "a.css", {}, {}).declarations
    declarations = [one for several in found.values() for one in several]
    return Source(text).text, sorted(declarations, key=lambda one: one.spans.declaration.start)


def serialized(text):
    tokens = tinycss2.parse_component_value_list(text, skip_comments=True)
    return tinycss2.serialize(trim(tokens))


class PositionTests(SimpleTestCase):
    def spans(self, text):
        text, declarations = read(text)
        found = [one.spans for one in declarations]
        return [(one.declaration.of(text), one.value.of(text), one.rule.of(text)) for one in found]

    def test_names_values_and_rules(self):
        rule = ":root { --a : #fff ; --b:{x:y};\n  --c: url(a;b) !important }"
        self.assertEqual(
            self.spans(f"p {{}} {rule}"),
            [
                ("--a : #fff", "#fff", rule),
                ("--b:{x:y}", "{x:y}", rule),
                ("--c: url(a;b) !important", "url(a;b)", rule),
            ],
        )

    def test_comments_line_ends_and_nothing(self):
        body = "{--a/*c*/:/*d*/ #fff/*e*/ /*f*/!/*g*/important/*h*/;\r\n--b:;--c: /*i*/ ;}"
        rule = ":root/*b*/" + body.replace("\r", "")
        important = "--a/*c*/:/*d*/ #fff/*e*/ /*f*/!/*g*/important"
        self.assertEqual(
            self.spans(f"/* a */:root/*b*/{body}"),
            [(important, "#fff", rule), ("--b:", "", rule), ("--c:", "", rule)],
        )

    def test_rules_in_rules(self):
        text = "@media screen{p{}} @theme { --b: 2 } .dark { --c: 3; @media screen { & { --d: 4 } } --e: 5 }"
        self.assertEqual(
            self.spans(text),
            [
                ("--b: 2", "2", "@theme { --b: 2 }"),
                ("--c: 3", "3", text[text.index(".dark") :]),
                ("--d: 4", "4", "& { --d: 4 }"),
                ("--e: 5", "5", text[text.index(".dark") :]),
            ],
        )

    def test_a_text_that_ends_too_early(self):
        for text, value in (
            (":root{--a: rgb(1 2 3", "rgb(1 2 3"),
            (":root{--a: rgb(1 2 3)", "rgb(1 2 3)"),
            (":root{--a: (1 [2])", "(1 [2])"),
            (":root{--a: {b}", "{b}"),
            (":root{--a: {b}}", "{b}"),
            (":root{--a: 'b", "'b"),
            (":root{--a: b /* c", "b"),
        ):
            with self.subTest(text):
                self.assertEqual([one[1] for one in self.spans(text)], [value])

    def test_each_value_of_public_sheets_is_found_and_can_be_replaced(self):
        for package in SAMPLE:
            text, declarations = read(original(package))
            pieces, done = [], 0
            for one in declarations:
                span, whole, rule = one.spans.value, one.spans.declaration, one.spans.rule
                self.assertEqual(serialized(span.of(text)), one.text, (package, one.name))
                self.assertTrue(
                    whole.of(text).lower().startswith(one.name.lower()), (package, one.name)
                )
                self.assertTrue(
                    rule.start < whole.start <= span.start <= span.end <= whole.end < rule.end
                )
                self.assertEqual(text[rule.end - 1], "}")
                if one.name.startswith("--"):
                    pieces += [text[done : span.start], " #123456"]
                    done = span.end
            again = read("".join(pieces) + text[done:])[1]
            told = [
                (one.name, one.important, one.text) for one in again if one.name.startswith("--")
            ]
            wanted = [
                (one.name, one.important, "#123456")
                for one in declarations
                if one.name.startswith("--")
            ]
            self.assertEqual(told, wanted, package)
