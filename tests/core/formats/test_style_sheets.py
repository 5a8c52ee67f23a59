"""Style sheets in: modes, values, pieces and types."""

from django.test import SimpleTestCase

from prism.errors import FormatError
from prism.formats import css, css_in_place
from prism.resolution.resolver import Resolver
from tests.sheets import axes, sheet, skipped, values


class ModeTests(SimpleTestCase):
    def test_a_class_an_attribute_and_preferences(self):
        read = sheet(
            ":root { --ink: #111; --gap: 4px } .dark { --ink: #eee }"
            "[data-density=compact] { --gap: 2px }"
            "@media (prefers-contrast: more) { :root { --ink: #000 } }"
        )
        self.assertEqual(
            axes(read),
            {
                "appearance": ["light", "dark"],
                "density": ["standard", "compact"],
                "contrast": ["standard", "more"],
            },
        )
        self.assertEqual(values(read, "ink"), {"": "#111", "dark": "#eee", "more": "#000"})
        self.assertEqual(values(read, "gap"), {"": "4px", "compact": "2px"})
        self.assertEqual(read.document.axes[2].follows.feature, "prefers-contrast")

    def test_spellings_of_the_same_values_are_one_axis(self):
        read = sheet(
            ":root { --ink: #111 } [data-theme=dark], .dark { --ink: #eee }"
            "@media (prefers-color-scheme: dark) { :root:not([data-theme], .dark) { --ink: #eee } }"
        )
        (axis,) = read.document.axes
        self.assertEqual((axis.name, [m.name for m in axis.modes]), ("theme", ["light", "dark"]))
        dark = axis.modes[1]
        self.assertEqual({*dark.selectors}, {".dark", '[data-theme="dark"]'})
        self.assertEqual(axis.follows.feature, "prefers-color-scheme")
        self.assertEqual(dict(axis.follows.modes)["dark"], dark.key)
        self.assertNotIn(dark.key, dict(axis.follows.modes, dark="").values())
        self.assertEqual(values(read, "ink"), {"": "#111", "dark": "#eee"})

    def test_color_schemes_that_modes_declare(self):
        read = sheet(
            ":root { color-scheme: light; --ink: #111 } .dark { color-scheme: dark; --ink: #eee }"
            ".sepia { --ink: #432 }"
        )
        (axis,) = read.document.axes
        schemes = {mode.name: mode.color_scheme for mode in axis.modes}
        self.assertEqual(schemes, {"light": "light", "dark": "dark"})
        self.assertIn("--ink", skipped(read))

    def test_other_values_for_a_preference_are_an_axis_of_their_own(self):
        read = sheet(
            ":root { --ink: #111 } .dark { --ink: #eee }"
            "@media (prefers-color-scheme: dark) { :root { --ink: #ddd } }"
        )
        self.assertEqual(len(read.document.axes), 2)

    def test_a_class_counts_only_as_a_whole(self):
        read = sheet(
            ":root { --a: #111; --b: #222 } .btn-light { --a: #333 } .theme-dark { --a: #444 }"
            ".navbar.dark { --b: #555 } .lightbox { --b: #666 }"
        )
        self.assertEqual(values(read, "a"), {"": "#111", "dark": "#444"})
        self.assertEqual(values(read, "b"), {"": "#222"})
        self.assertEqual(
            sorted(one.reason for one in read.skipped),
            [
                "the class .btn-light names no mode",
                "the class .lightbox names no mode",
                "the class .navbar names no mode",
            ],
        )

    def test_a_map_says_what_a_selector_means(self):
        read = sheet(
            ":root { --a: #111 } .skin-x { --a: #222 }", {".skin-x": ("brand", "osprelle")}
        )
        self.assertEqual(axes(read), {"brand": ["standard", "osprelle"]})
        self.assertEqual(values(read, "a"), {"": "#111", "osprelle": "#222"})

    def test_attributes_of_parts_are_no_modes(self):
        read = sheet(
            ":root { --a: #111 } [data-state=open] { --local: 1 } [type=submit] { --a: #222 }"
            "[data-season=winter] { --a: #333 }"
        )
        self.assertEqual(axes(read), {"season": ["standard", "winter"]})
        self.assertEqual({*skipped(read)}, {"--local", "--a"})

    def test_an_attribute_without_a_value(self):
        read = sheet(":root { --a: #111 } html[data-dark] { --a: #222 }")
        self.assertEqual(axes(read), {"dark": ["standard", "on"]})

    def test_a_page_that_is_in_no_mode_without_a_mark(self):
        read = sheet("[data-theme=a] { --x: #111 } [data-theme=b] { --x: #222 }")
        self.assertEqual(axes(read), {"theme": ["a", "b"]})
        self.assertEqual(values(read, "x"), {"": "#111", "b": "#222"})

    def test_light_dark_by_color_scheme(self):
        system = sheet(":root { color-scheme: light dark; --a: light-dark(#fff, #000) }")
        self.assertEqual(values(system, "a"), {"": "#fff", "dark": "#000"})
        self.assertEqual(system.document.axes[0].follows.feature, "prefers-color-scheme")
        marked = sheet(
            ":root { color-scheme: light; --a: light-dark(#fff, #000) }"
            "[data-theme=dark] { color-scheme: dark }"
        )
        self.assertEqual(values(marked, "a"), {"": "#fff", "dark": "#000"})
        self.assertEqual(marked.document.axes[0].modes[1].color_scheme, "dark")
        bare = sheet(":root { --a: light-dark(#fff, #000) }")
        self.assertEqual(values(bare, "a"), {"": "#fff", "dark": "#000"})

    def test_not_and_ranges_in_media_queries(self):
        read = sheet(
            ":root { --a: #111 } @media not (prefers-color-scheme: light) { :root { --a: #222 } }"
            "@media (width >= 600px) { :root { --b: #333 } } @media print { :root { --c: #444 } }"
            "@media screen and (prefers-contrast: more) { :root { --a: #000 } }"
            "@media (prefers-contrast: less) or (forced-colors: active) { :root { --a: #777 } }"
        )
        self.assertEqual(values(read, "a")["dark"], "#222")
        self.assertEqual({*skipped(read)}, {"--b", "--c"})
        self.assertIn("width >= 600px", skipped(read)["--b"])
        self.assertIn("no screen", skipped(read)["--c"])

    def test_at_most_16_axes(self):
        text = ":root { --a: #000 }" + "".join(
            f"html[data-x{i}=on] {{ --a: #{i:03x} }}" for i in range(18)
        )
        with self.assertRaisesMessage(FormatError, "asks for 18 axes; at most 16"):
            sheet(text)


class ValueTests(SimpleTestCase):
    def test_var_becomes_a_reference_and_a_fallback_stands_in(self):
        read = sheet(
            ":root { --a: #111; --b: var(--a); --c: var(--none, #222);"
            " --d: color-mix(in oklab, var(--a), white); --e: var(--none, var(--a)) }"
        )
        self.assertEqual(values(read, "b"), {"": "{a}"})
        self.assertEqual(values(read, "c"), {"": "#222"})
        self.assertEqual(values(read, "d"), {"": "color-mix(in oklab, {a}, white)"})
        self.assertEqual(values(read, "e"), {"": "{a}"})

    def test_a_fallback_in_one_mode_only(self):
        read = sheet(":root { --b: var(--a, #222) } .dark { --a: #111 }")
        self.assertEqual(values(read, "b"), {"": "#222", "dark": "{a}"})

    def test_what_needs_a_property_that_is_not_there_goes_with_it(self):
        read = sheet(
            ":root { --a: var(--gone); --b: var(--a); --c: calc(var(--b) * 2); --d: #111 }"
        )
        self.assertEqual([t.path for t in read.document.tokens], ["d"])
        self.assertEqual({*skipped(read)}, {"--a", "--b", "--c"})
        self.assertIn("--gone", skipped(read)["--a"])

    def test_circles_are_left_out(self):
        read = sheet(":root { --a: var(--b); --b: var(--a); --c: #111 }")
        self.assertEqual([t.path for t in read.document.tokens], ["c"])
        self.assertEqual({*skipped(read)}, {"--a", "--b"})

    def test_fallbacks_do_not_open_circles(self):
        """CSS Custom Properties 1, section 2.3: all properties in a circle are invalid."""
        read = sheet(":root { --a: var(--b); --b: var(--a, red); --c: var(--a, #222) }")
        self.assertEqual([t.path for t in read.document.tokens], ["c"])
        self.assertEqual(skipped(read)["--b"], "is a circular reference")

    def test_a_circle_in_one_mode_leaves_the_other_modes(self):
        read = sheet(
            ":root { --a: #111; --b: var(--a); --c: var(--a) }"
            ".dark { --a: var(--b); --c: #222 } [data-brand=blue] { --b: #00f }"
        )
        document = read.document
        self.assertEqual({t.path for t in document.tokens}, {"a", "b", "c"})
        resolver = Resolver(document)
        seen = {
            path: [
                str(resolver.resolve(document.token_at(path).key, theme).color is not None)[0]
                for theme in resolver.themes()
            ]
            for path in ("a", "b", "c")
        }
        self.assertEqual(seen, {"a": [*"TTFT"], "b": [*"TTFT"], "c": [*"TTTT"]})

    def test_attributes_asked_for_together_are_axes_of_their_own(self):
        themes = ("day", "dusk", "night", "ink", "fog")
        rules = "".join(
            f"[data-mode=light][data-day-theme={name}], [data-mode=auto][data-day-theme={name}],"
            f"[data-mode=dark][data-dark-theme={name}] {{ --page: #{place}00; --ink: var(--page) }}"
            f"@media (prefers-color-scheme: dark) {{ [data-mode=auto][data-dark-theme={name}]"
            f"[data-day-theme] {{ --page: #{place}00; --ink: var(--page) }} }}"
            for place, name in enumerate(themes, 1)
        )
        for text in (rules, ":root { --page: #999; --ink: #888 }" + rules):
            read = sheet(text)
            self.assertEqual({*axes(read)}, {"mode", "day-theme", "dark-theme", "appearance"})
            named = {axis.name: axis for axis in read.document.axes}
            for picked, page in (
                ({"mode": "light"}, "#330000"),
                ({"mode": "dark"}, "#440000"),
                ({"mode": "auto", "appearance": "light"}, "#330000"),
                ({"mode": "auto", "appearance": "dark"}, "#440000"),
            ):
                picked |= {"day-theme": "night", "dark-theme": "ink"}
                resolver = Resolver(read.document)
                theme = resolver.theme(
                    {
                        named[name].key: next(m.key for m in named[name].modes if m.name == mode)
                        for name, mode in picked.items()
                    }
                )
                seen = {resolver.resolve(t.key, theme).hex for t in read.document.tokens}
                self.assertEqual(seen, {page}, picked)

    def test_light_dark_that_no_attribute_decides_follows_the_system(self):
        rule = ":root {{ color-scheme: light dark; --page: #fff; --edge: light-dark(#ddd, #444) }}"
        loose = sheet(rule.format() + "[data-mode=dark] { --page: #111 }")
        self.assertEqual({*axes(loose)}, {"mode", "appearance"})
        self.assertIn("#444", values(loose, "edge").values())
        bound = sheet(rule.format() + "[data-mode=dark] { --page: #111; color-scheme: dark }")
        self.assertEqual({*axes(bound)}, {"mode"})
        self.assertEqual(values(bound, "edge"), {"": "#ddd", "dark": "#444"})

    def test_pieces_stay_tokens(self):
        read = sheet(
            ":root { --h: 210; --rgb: 13, 110, 253; --hsl: 222 47% 11%; --f: initial;"
            " --a: rgba(var(--rgb), .5); --b: hsl(var(--hsl) / 50%); --c: hsl(var(--h) 50% 40%) }"
            ".dark { --rgb: 4, 5, 6; --h: 20 }"
        )
        document = read.document
        self.assertEqual(
            {t.path: t.type for t in document.tokens},
            {
                "h": "number",
                "rgb": "piece",
                "hsl": "piece",
                "f": "piece",
                "a": "color",
                "b": "color",
                "c": "color",
            },
        )
        self.assertEqual(values(read, "a"), {"": "rgba({rgb}, .5)"})
        self.assertEqual(document.token_at("f").values, ())
        resolver = Resolver(document)
        dark = resolver.theme({document.axes[0].key: "dark"})
        self.assertEqual(resolver.resolve(document.token_at("a").key, dark).hex, "#04050680")
        written = css_in_place.write(document)
        for line in ("--rgb: 13, 110, 253;", "--a: rgba(var(--rgb), .5);", "--f: initial;"):
            self.assertIn(line, written)

    def test_types_by_what_is_computed(self):
        read = sheet(
            ':root { --t: 0.2s; --n: 1.5; --f: "Hanken Grotesk", sans-serif; --s: "Boarding"; '
            "--g: var(--f); --m: calc(var(--n) * 2); --w: calc(var(--n) * 4px); --p: 50%;"
            " --zero: 0; --shadow: 0 1px 2px #000; --mixed: calc(50% - 4px); --u: url(x.png) }"
        )
        self.assertEqual(
            {t.path: t.type for t in read.document.tokens},
            {
                "t": "duration", "n": "number", "f": "fontFamily", "s": "string",
                "g": "fontFamily", "m": "number", "w": "dimension", "p": "piece",
                "zero": "number", "shadow": "shadow", "mixed": "piece",
            },
        )  # fmt: skip
        self.assertIn("refers to a file", skipped(read)["--u"])

    def test_other_types_in_another_mode_make_a_piece(self):
        read = sheet(":root { --a: #111; --b: var(--a) } .dark { --a: 4px }")
        self.assertEqual({t.type for t in read.document.tokens}, {"piece"})

    def test_names_with_escapes_and_capitals(self):
        read = sheet(
            r":root { --Brand-Ink: #111; --gap-0\.5: 2px; --\31 0: 4px; --x\{y: 1; --ü: 3 }"
        )
        self.assertEqual(
            [t.path for t in read.document.tokens], ["Brand-Ink", "gap-0_5", "10", "x_y", "ü"]
        )
        written = css_in_place.write(read.document)
        self.assertEqual(
            {t.path: t.values for t in sheet(written).document.tokens},
            {t.path: t.values for t in read.document.tokens},
        )
        self.assertIn("--Brand-Ink: #111111;", css.write(read.document))
        self.assertIn(r"--gap-0\.5: 2px;", css.write(read.document))

    def test_declarations_that_cannot_be_read_are_listed_with_their_line(self):
        read = sheet(
            ":root { --a: #111; /* ; */ --odd name:#123;\r\n --b #fff; *zoom: 1; color red;"
            " &[data-sky=night] { --a: #222; --c } }"
        )
        self.assertEqual(values(read, "a"), {"": "#111", "night": "#222"})
        self.assertEqual([one.name for one in read.skipped], ["--odd name:#123", "--b #fff", "--c"])
        self.assertEqual([one.line for one in read.skipped], [1, 2, 2])

    def test_refused(self):
        with self.assertRaisesMessage(FormatError, "declares no custom property"):
            sheet("p { color: red }")
        with self.assertRaisesMessage(FormatError, "nested deeper than 200 levels"):
            sheet("@media all {" * 300 + ":root { --a: 1 }" + "}" * 300)

    def test_broken_ends_refuse_nothing(self):
        for text in (
            ":root { --a: #111 } }",
            ":root { --a: #111",
            ":root { --a: rgb(17 17 17",
            "} :root { --b: 1 } :root { --a: #111 }",
        ):
            self.assertIn("a", [t.path for t in sheet(text).document.tokens], text)

    def test_a_chain_of_1000_and_20000_properties(self):
        chain = (
            ":root {"
            + "".join(f"--c{i}: var(--c{i + 1});" for i in range(1000))
            + "--c1000: #123456 }"
        )
        read = sheet(chain)
        resolver = Resolver(read.document)
        self.assertEqual(resolver.resolve(read.document.token_at("c0").key, ()).hex, "#123456")
        many = ":root {" + "".join(f"--p{i}: #{i:06x};" for i in range(20_000)) + "}"
        self.assertEqual(len(sheet(many).document.tokens), 20_000)
