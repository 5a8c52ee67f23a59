"""The exported style sheet as text; what a browser makes of it is tested in tests/reference."""

from dataclasses import replace

import tinycss2
from django.test import SimpleTestCase

from demo import quillhaven
from prism import starters
from prism.brands import addition
from prism.formats import css, files
from prism.model.document import Follows, Mode, Token
from prism.model.names import css_names
from prism.model.values import BASE, Composite, Expression
from prism.resolution.resolver import Resolver
from prism.starters.plan import NamedColor, sorted_out
from tests.builders import axis, counter_keys, document, random_document, token

DARK = {"appearance": "dark"}


def selectors(sheet):
    found = []
    for rule in tinycss2.parse_stylesheet(sheet, skip_whitespace=True, skip_comments=True):
        inner = [rule]
        if rule.type == "at-rule":
            inner = tinycss2.parse_rule_list(rule.content, skip_whitespace=True)
        found += [tinycss2.serialize(one.prelude).strip() for one in inner]
    return found


class WriteTests(SimpleTestCase):
    def test_base_then_conditions_weakest_first(self):
        built = document(
            token("a", "#111111", (DARK | {"brand": "osprelle"}, "#333333"), (DARK, "#222222"))
        )
        found = [selector.split(",\n")[1] for selector in selectors(css.write(built))]
        self.assertEqual(
            found,
            [
                "[data-zone]",
                '[data-zone][data-appearance="dark"]',
                '[data-zone][data-appearance="dark"][data-brand="osprelle"]',
            ],
        )

    def test_an_unmarked_page_is_in_the_default_mode(self):
        built = document(token("a", "#111111", ({"appearance": "light"}, "#222222")))
        self.assertIn(
            ':root:is([data-appearance="light"], :not([data-appearance]))', css.write(built)
        )

    def test_an_absent_token_is_initial_and_a_reference_is_a_variable(self):
        sheet = css.write(document(token("rim", (DARK, "#ffffff")), token("edge", "{rim}")))
        self.assertIn("--rim: initial;", sheet)
        self.assertIn("--edge: var(--rim);", sheet)

    def test_private_tokens_are_written_only_where_a_public_one_reaches_them(self):
        sheet = css.write(
            document(
                token("hidden", "#111111", private=True),
                token("lonely", "#222222", private=True),
                token("text", "{hidden}"),
            )
        )
        self.assertIn("--_hidden: #111111;", sheet)
        self.assertNotIn("lonely", sheet)

    def test_modes_say_their_color_scheme(self):
        scheme = replace(axis("appearance", "light"), modes=(Mode("light", "light", "", "light"),))
        self.assertIn("color-scheme: light;", css.write(document(axes=(scheme,))))

    def test_a_language_says_its_direction_and_the_others_theirs(self):
        plain = axis("language", "english", "persian")
        persian = replace(plain.modes[1], direction="rtl")
        sheet = css.write(document(axes=(replace(plain, modes=(plain.modes[0], persian)),)))
        self.assertRegex(sheet, r'\[data-language="persian"\] \{\n  direction: rtl;')
        self.assertRegex(sheet, r'\[data-language="english"\] \{\n  direction: ltr;')
        self.assertNotIn("direction", css.write(document(axes=(plain,))))

    def test_class_names_in_place_of_attributes(self):
        sheet = css.write(
            document(token("a", "#111111", (DARK, "#222222"))), classes=True, prefix="q"
        )
        self.assertIn(".zone.appearance-dark {\n  --q-a: #222222;", sheet)
        self.assertNotIn("data-", sheet)

    def test_a_typography_is_a_shorthand_with_its_letter_spacing_beside_it(self):
        parts = (
            ("fontFamily", Expression("Hanken Grotesk")), ("fontSize", Expression("{size}")),
            ("fontWeight", Expression("bold")), ("letterSpacing", Expression("0.5px")),
            ("lineHeight", Expression("1.4")),
        )  # fmt: skip
        text = Token("t", "text.title", "typography", "semantic", ((BASE, Composite(parts)),))
        again = token("text.again", "{text.title}", type="typography")
        sheet = css.write(document(token("size", "18px", type="dimension"), text, again))
        self.assertIn('--text-title: 700 var(--size)/1.4 "Hanken Grotesk";', sheet)
        self.assertIn("--text-title-letter-spacing: 0.5px;", sheet)
        self.assertIn("--text-again-letter-spacing: var(--text-title-letter-spacing);", sheet)

    def test_every_sheet_parses_without_an_error(self):
        for seed in range(30):
            for rule in tinycss2.parse_stylesheet(css.write(random_document(seed))):
                self.assertNotEqual(rule.type, "error")

    def test_text_from_outside_cannot_end_its_declaration(self):
        built = document(token("title", 'a"; } body { color: red } </style>', type="string"))
        sheet = css.write(built)
        rules = list(tinycss2.parse_stylesheet(sheet, skip_whitespace=True))
        self.assertEqual(len(rules), 1)
        self.assertNotIn("</", sheet)

    def test_a_flat_sheet_holds_literals_of_one_theme(self):
        built = document(
            token("ink", "#111111", tier="raw"), token("text", "{ink}", (DARK, "#eeeeee"))
        )
        resolver = Resolver(built)
        sheet = css.write_flat(built, resolver.theme(DARK))
        self.assertEqual(sheet, ":root {\n  --ink: #111111;\n  --text: #eeeeee;\n}\n")


class NameTests(SimpleTestCase):
    def test_names_by_the_rule(self):
        built = document(
            token("Deep Sky.$root", "#111111"),
            token("on accent", "#111111"),
            token("on-accent", "#111111"),
            token("Ä", "#111111"),
            token("given", "#111111", export_names=(("css", "brand-ink"),)),
            token("brand.ink", "#111111"),
        )
        self.assertEqual(
            list(css_names(built).values()),
            ["brand-ink", "deep-sky", "on-accent", "on-accent-2", "uc4", "brand-ink-2"],
        )

    def test_zone_is_no_axis_name_and_system_no_mode_name(self):
        built = document(token("a", "#111111"), axes=(axis("zone", "system", "other"),))
        self.assertEqual(css.root_attributes(built, (0,)), {"data-zone-2": "system-2"})


class FollowTests(SimpleTestCase):
    def test_each_mode_holds_under_its_own_preference(self):
        three = axis(
            "a",
            "light",
            "dark",
            "dim",
            follows=Follows("prefers-color-scheme", (("dark", "dark"),)),
        )
        self.assertEqual(css.follow_query(three, "dark"), "(prefers-color-scheme: dark)")
        self.assertEqual(css.follow_query(three, "light"), "(not ((prefers-color-scheme: dark)))")
        self.assertIsNone(css.follow_query(three, "dim"))

    def test_zones_inherit_what_they_do_not_name(self):
        built = document(
            axes=(
                replace(axis("a", "x", "y"), follows=Follows("prefers-contrast", ())),
                axis("b", "m", "n"),
            )
        )
        self.assertEqual(
            css.zone_attributes(built, {}, [{"b": "n"}, {"b": "inherit"}]),
            {"data-a": "system", "data-b": "n"},
        )


class ReadBackTests(SimpleTestCase):
    """A style sheet that is written here and read again has the same themes, and no mode for the system."""

    def test_a_preference_and_what_stands_for_it_are_one_axis(self):
        plan = replace(sorted_out([NamedColor("harbor", "#2b5d8a")]), name="Mill")
        one = starters.build(plan, counter_keys())
        two = addition.add(
            one, addition.NewBrand("b", (("c", "#b4552d"),)), counter_keys("n")
        ).document
        for built in (one, two, quillhaven.document()):
            again = files.read({"a.css": css.write(built).encode()}, counter_keys("z")).document
            before, after = Resolver(built), Resolver(again)
            self.assertEqual(before.theme_count, after.theme_count)
            followed = {axis.follows.feature for axis in built.axes if axis.follows}
            self.assertEqual({a.follows.feature for a in again.axes if a.follows}, followed)
            names = css_names(built)
            for mode in range(len(built.axes[0].modes)):
                theme = (mode, *before.default_theme[1:])
                there = after.theme({again.axes[0].key: again.axes[0].modes[mode].key})
                for own in built.tokens:
                    known = again.token_at(names[own.key].removeprefix("--"))
                    if own.type == "color" and known is not None:
                        self.assertEqual(
                            before.resolve(own.key, theme).hex,
                            after.resolve(known.key, there).hex,
                        )

    def test_a_mode_called_system_that_says_something_stays(self):
        sheet = """:root { --a: #fff } [data-look=system] { --a: #888 } [data-look=dark] { --a: #000 }
        @media (prefers-color-scheme: dark) { :root { --b: #111 } }"""
        read = files.read({"a.css": sheet.encode()}, counter_keys()).document
        self.assertIn("system", [mode.name for mode in read.axes[0].modes])
