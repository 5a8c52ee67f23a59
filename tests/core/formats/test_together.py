"""What a style sheet puts on what, by its rules alone: pairings whatever the names."""

import re

from django.test import SimpleTestCase

from prism.formats import style_sheets
from prism.model.document import Pairing
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess
from tests import roles
from tests.builders import counter_keys

COLORS = (
    ":root { --a: #111111; --b: #ffffff; --c: #eeeeee; --d: #00000080; --e: 4px; --q: #123456 }"
)


def read(text):
    return style_sheets.read(f"{COLORS} {text}".encode(), "a.css", counter_keys()).document


def pairs(text):
    document = read(text)
    paths = {token.key: token.path for token in document.tokens}
    return [
        (
            paths[p.foreground],
            *(paths[key] for key in p.backgrounds),
            *([paths[p.page]] if p.page else []),
        )
        for p in document.pairings
    ]


class TogetherTests(SimpleTestCase):
    def test_what_a_rule_sets_together(self):
        for rule, found in (
            ("p { color: var(--a); background: var(--b) }", [("a", "b")]),
            ("p { background-color: var(--b); border: 0; color: var(--a, red) }", [("a", "b")]),
            ("p { color: red; color: var(--a); background: red; background: var(--c) no-repeat }", [("a", "c")]),
            ("p { color: var(--a); background: var(--b); &:hover { color: var(--q); background: var(--c) } }",
             [("a", "b"), ("q", "c")]),
            ("@media (min-width: 9px) { p { color: var(--a) } }", []),
            ("@media print { p { color: var(--a); background: var(--b) } }", []),
            ("p { color: var(--a) } p { background: var(--b) }", []),
            ("p { color: var(--a); background: var(--a) }", []),
            ("p { color: var(--a); background: var(--e) }", []),
            ("p { color: var(--a); background: var(--nowhere) }", []),
            ("p { color: var(--a); background: url(x.png) var(--b) }", []),
            ("p { color: var(--a); background: linear-gradient(var(--b), var(--c)) }", []),
            ("p { color: color-mix(in srgb, var(--a), var(--b)); background: var(--b) }", []),
            ("p:disabled { color: var(--a); background: var(--b) }", []),
            ("p { color: var(--a); background: var(--b); background: red }", []),
            ("p { color: var(--a); background: var(--b); color: inherit }", []),
        ):  # fmt: skip
            with self.subTest(rule):
                self.assertEqual(pairs(rule), found)

    def test_what_lets_through_lies_on_the_page_or_is_left_out(self):
        self.assertEqual(pairs("p { color: var(--a); background: var(--d) }"), [])
        body = "body { background: var(--b) }"
        self.assertEqual(
            pairs(f"{body} p {{ color: var(--a); background: var(--d) }}"), [("a", "d", "b")]
        )

    def test_rules_find_the_rest_until_somebody_says_a_pairing(self):
        document = read(
            ":root { --text: #222222; --surface: #fafafa } p { color: var(--a); background: var(--b) }"
        )
        guesses = guess(document, resolver_of(document))
        (shown,) = document.pairings
        self.assertTrue(rules.is_shown(shown))
        self.assertFalse(rules.says_itself(document))
        self.assertGreater(len(rules.demanded(document, guesses)), 1)
        said = rules.replace(
            document, pairings=(shown, Pairing("p", shown.backgrounds[0], (shown.foreground,)))
        )
        self.assertTrue(rules.says_itself(said))
        self.assertEqual(rules.demanded(said, guesses), said.pairings)

    def test_names_replaced_by_numbers_change_nothing(self):
        """Public sheets, each with every custom property called by a number: the same pairings."""
        found = 0
        for name in (
            "package-bamboo",
            "package-beercss",
            "package-missing",
            "package-water",
            "package-pico",
        ):
            text = (roles.MODULES / roles.SHEETS[name]).read_text()
            numbers: dict[str, str] = {}
            renamed = re.sub(
                r"(?<![\w-])--[\w-]+",
                lambda m, of=numbers: of.setdefault(m[0], f"--x{len(of)}"),
                text,
            )
            told = []
            for sheet, names in (
                (text, {}),
                (renamed, {new[2:]: old[2:] for old, new in numbers.items()}),
            ):
                document = style_sheets.read(sheet.encode(), "a.css", counter_keys()).document
                paths = {token.key: names.get(token.path, token.path) for token in document.tokens}
                told.append(
                    [(paths[p.foreground], paths[p.backgrounds[0]]) for p in document.pairings]
                )
            self.assertEqual(told[0], told[1], name)
            found += len(told[0])
        self.assertGreater(found, 40)

    def test_against_the_keys_of_public_sheets(self):
        """What is read on what, by keys that were written by hand before: texts, labels, icons, links on grounds."""
        right, wrong = 0, []
        for name in roles.SHEETS:
            keyed = roles.read(name)
            paths = {token.key: token.path for token in keyed.document.tokens}
            for pairing in keyed.document.pairings:
                above, below = (
                    keyed.roles.get(paths[key])
                    for key in (pairing.foreground, pairing.backgrounds[0])
                )
                if above is None or below is None:
                    continue
                reads = above.split()[0] in ("text", "label", "icon", "other") or above.startswith(
                    "status text"
                )
                lies = (
                    below.split()[0] in ("page", "surface", "fill", "other", "overlay")
                    or "tint" in below
                    or "fill" in below
                )
                if reads and lies:
                    right += 1
                else:
                    wrong.append(
                        f"{name}: {paths[pairing.foreground]} ({above}) on {paths[pairing.backgrounds[0]]} ({below})"
                    )
        self.assertGreater(right, 55)
        self.assertLessEqual(len(wrong), 0.2 * (right + len(wrong)), wrong)
