"""Style sheets in: selectors, conditions and the cascade."""

from django.test import SimpleTestCase

from prism.formats import css_in_place
from prism.formats.style_sheets.selectors import UnreadableSelectorError
from prism.formats.style_sheets.selectors import read as read_selector
from prism.model.values import ABSENT
from prism.resolution.resolver import Resolver
from tests.sheets import sheet, skipped, values


class SelectorTests(SimpleTestCase):
    """Selectors Level 4, sections 4 (logical combinations), 6 and 16 (specificity)."""

    def test_what_selectors_ask_for(self):
        for selector, tests, depth in (
            (":root", [], 0),
            ("html:root", [], 0),
            ("body", [], 1),
            ("*", [], 2),
            (":where(:root)", [], 0),
            ("[data-theme=dark]", ["data-theme=dark"], 0),
            ("html[data-theme='dark' i] body", ["data-theme=dark"], 1),
            (".dark :root", None, 0),
            (".dark *", ["dark="], 2),
            ("[data-dark]", ["data-dark="], 0),
            (":root:not([data-theme])", ["!data-theme="], 0),
            (":root:not(.light, [a=b])", ["!a=b", "!light="], 0),
            ("html.dark > body", ["dark="], 1),
        ):
            with self.subTest(selector):
                if tests is None:
                    with self.assertRaises(UnreadableSelectorError):
                        read_selector(selector)
                    continue
                (way,) = read_selector(selector)
                shown = sorted(f"{'!' * t.negated}{t.name}={t.value}" for t in way.tests)
                self.assertEqual((shown, way.depth), (tests, depth))

    def test_alternatives(self):
        ways = read_selector(":is(html, body).dark")
        self.assertEqual([way.depth for way in ways], [0, 1])
        self.assertEqual(len(read_selector(":root:not(.a.b)")), 2)

    def test_specificity(self):
        for selector, expected in (
            (":root", (0, 1, 0)),
            ("html.dark", (0, 1, 1)),
            (":where(.dark)", (0, 0, 0)),
            (":root:not(.a)", (0, 2, 0)),
        ):
            self.assertEqual(read_selector(selector)[0].specificity, expected)

    def test_what_is_none_of_the_page(self):
        for selector, reason in (
            ("main > p", "part of the page"),
            ("#menu", "part of the page"),
            (":root:hover", "part of the page"),
            (":root:has(input:checked)", "what stands on the page"),
            (":host([data-theme=dark])", "shadow roots"),
            ("::backdrop", "pseudo-element"),
            (".a + .b", "part of the page"),
            ("a b c {", "cannot be read"),
            (".dark body html", "part of the page"),
        ):
            with self.subTest(selector):
                with self.assertRaises(UnreadableSelectorError) as caught:
                    read_selector(selector)
                self.assertIn(reason, caught.exception.reason)


class CascadeTests(SimpleTestCase):
    """CSS Cascade 5, section 6 (sorting)."""

    def wins(self, text, expected, **more):
        self.assertEqual(values(sheet(text, **more), "a"), expected)

    def nothing(self, text):
        token = sheet(f"{text} :root {{ --b: 1 }}").document.token_at("a")
        self.assertTrue(token is None or not token.values, token)

    def test_specificity_and_order(self):
        self.wins("html:root { --a: #111 } :root { --a: #222 }", {"": "#111"})
        self.wins(":root { --a: #111 } :root { --a: #222 }", {"": "#222"})
        self.wins(":where(:root) { --a: #111 } html { --a: #222 }", {"": "#222"})

    def test_importance(self):
        self.wins(":root { --a: #111 !important } .dark { --a: #222 }", {"": "#111"})
        self.wins(
            "@layer l { :root { --a: #111 !important } } :root { --a: #222 !important }",
            {"": "#111"},
        )

    def test_layers(self):
        self.wins(
            "@layer one, two; @layer two { :root { --a: #222 } } @layer one { html:root { --a: #111 } }",
            {"": "#222"},
        )
        self.wins("@layer l { :root { --a: #111 } } :where(:root) { --a: #222 }", {"": "#222"})
        self.wins(
            "@layer l { @layer in { :root { --a: #111 } } :where(:root) { --a: #222 } }",
            {"": "#222"},
        )
        self.wins(":root { --a: #111 } @layer l { :root { --a: revert-layer } }", {"": "#111"})

    def test_keywords_ask_for_the_element_around(self):
        # CSS Cascade 5, section 7.3: custom properties are inherited.
        for keyword in ("inherit", "unset", "revert", "revert-layer"):
            self.wins(f":root {{ --a: #111 }} body {{ --a: {keyword} }}", {"": "#111"})
            self.nothing(f":root {{ --a: {keyword} }}")
        self.nothing(":root { --a: #111 } body { --a: initial }")

    def test_layers_that_all_roll_back_come_to_an_end(self):
        # CSS Cascade 5, section 7.3.5.
        back = ":root { --a: revert-layer }"
        self.nothing(f"@layer low {{ {back} }} @layer high {{ {back} }}")
        self.wins(
            f"@layer low {{ :root {{ --a: #111 }} }} @layer mid {{ {back} }} {back}", {"": "#111"}
        )
        important = "@layer low { :root { --a: revert-layer !important } }"
        self.nothing(f":root {{ --a: #111 }} {important}")

    def test_a_value_computed_on_the_root_is_not_read_with_the_values_of_the_body(self):
        text = ":root { --a: #111; --b: var(--a); --c: var(--b, #333) } body { --a: #222 }"
        self.assertEqual(
            skipped(sheet(text)),
            {
                "--b": "needs --a, which has another value further inside",
                "--c": "needs --b, which was skipped",
            },
        )

    def test_the_body_is_nearer_than_the_root(self):
        self.wins(
            "html:root.x:not(.y) { --b: 1 } body { --a: #222 } :root { --a: #111 !important }",
            {"": "#222"},
        )

    def test_more_specific_rules_win_over_later_axes(self):
        read = sheet(
            ":root { --a: #000 } html:root[data-theme=b] { --a: #bbb } [data-mode=m] { --a: #ccc }"
        )
        both = Resolver(read.document)
        names = {a.name: (a.key, {m.name: m.key for m in a.modes}) for a in read.document.axes}
        theme = both.theme(
            {names["theme"][0]: names["theme"][1]["b"], names["mode"][0]: names["mode"][1]["m"]}
        )
        self.assertEqual(both.resolve(read.document.token_at("a").key, theme).hex, "#bbbbbb")

    def test_supports_property_and_theme(self):
        self.wins("@supports (color: oklch(0 0 0)) { :root { --a: #111 } }", {"": "#111"})
        read = sheet("@supports not (display: grid) { :root { --a: #111 } } :root { --b: 1 }")
        self.assertIn("--a", skipped(read))
        self.wins(
            "@property --a { syntax: '<color>'; inherits: true; initial-value: #123456 } :root { --z: 1 }",
            {"": "#123456"},
        )
        self.wins("@theme { --a: #111 }", {"": "#111"})

    def test_imports_among_the_given_files(self):
        self.wins(
            '@import "base.css"; :root { --b: 1 }', {"": "#111"}, base_css=":root { --a: #111 }"
        )
        self.wins(
            "@import url(base.css) layer(low); :where(:root) { --a: #222 }",
            {"": "#222"},
            base_css=":root { --a: #111 }",
        )
        read = sheet('@import "gone.css"; :root { --b: 1 }')
        self.assertEqual(skipped(read), {"@import gone.css": "that file was not given"})
        loop = sheet('@import "x.css"; :root { --b: 1 }', x_css=":root { --b: 2 }")
        self.assertIn("@import x.css", skipped(loop))

    def test_lists_of_media_hold_where_one_of_them_does(self):
        self.wins("@media screen, print and (color) { :root { --a: #111 } }", {"": "#111"})
        self.assertEqual(
            skipped(sheet("@media print and (color) { :root { --a: #111 } } :root { --b: 1 }")),
            {"--a": "holds on no screen"},
        )

    def test_operators_of_attributes(self):
        # Selectors 4, section 6.2.
        for operator, wanted, holds in (
            ("~=", "dark", True), ("|=", "dark", True), ("^=", "da", True), ("$=", "rk", True),
            ("*=", "ar", True), ("^=", "ark", False), ("$=", "da", False), ("*=", "x", False),
            ("~=", "da", False), ("|=", "da", False), ("*=", "''", False),
        ):  # fmt: skip
            text = f":root {{ --a: #111 }} [data-t=dark] {{ --b: 1 }} [data-t{operator}{wanted}] {{ --a: #222 }}"
            dark = values(sheet(text), "a").get("dark")
            self.assertEqual(dark, "#222" if holds else None, operator + wanted)

    def test_nesting(self):
        read = sheet(
            ":root { --a: #111; &[data-sky=night] { --a: #222 } "
            "@media (prefers-contrast: more) { --a: #000 } .card { --b: #333 } "
            "@container (min-width: 1px) { --c: #444 } }"
            "@media (min-width: 9px) { @supports (color: red) { :root { --d: #555 } } }"
        )
        self.assertEqual(values(read, "a")["night"], "#222")
        self.assertEqual({*skipped(read)}, {"--b", "--c", "--d"})
        self.assertIn("@container", skipped(read)["--c"])

    def test_no_value_in_a_mode(self):
        for word in ("initial", "unset", "revert", "inherit"):
            read = sheet(f":root {{ --a: #111 }} .dark {{ --a: {word} }}")
            self.assertEqual(values(read, "a"), {"": "#111", "dark": ABSENT})
        self.assertIn("--a: initial", css_in_place.write(read.document).split(".dark")[1])
