"""Style sheets, palettes, CSV and plain JSON, in and out."""

import json
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from prism.color import space
from prism.compare.diff import diff
from prism.compare.match import align
from prism.errors import FormatError
from prism.formats import css, css_reader, css_selectors, files, palettes, plain
from prism.model.values import BASE, Condition, Expression
from prism.resolution.resolver import Resolver
from tests.builders import counter_keys, document, random_document, token

seeds = st.integers(0, 10_000)
quick = settings(max_examples=40, deadline=None)


def sheet(text, **maps):
    return css_reader.read(text.encode(), "x.css", counter_keys(), maps)


def values(read, path):
    """A token's values by mode names."""
    built = read.document
    names = {(a.key, m.key): m.name for a in built.axes for m in a.modes}
    return {
        ",".join(names[pick] for pick in condition.picks): value.text
        for condition, value in built.token_at(path).values
    }


class SelectorTests(SimpleTestCase):
    def test_what_selectors_mean(self):
        for selector, preferences, expected in (
            (":root", [], ()),
            ("html", [], ()),
            (":where(:root)", [], ()),
            ("[data-theme=dark]", [], (("theme", "dark"),)),
            (':root[data-theme="dark"]', [], (("theme", "dark"),)),
            ("html[lang=pt]", [], (("lang", "pt"),)),
            (".dark", [], (("appearance", "dark"),)),
            (":root.theme-light", [], (("appearance", "light"),)),
            ("[data-brand='a'][data-theme=dark]", [], (("brand", "a"), ("theme", "dark"))),
            (":root", [("prefers-color-scheme", "dark")], (("appearance", "dark"),)),
            (":root", [("prefers-contrast", "more")], (("contrast", "more"),)),
            (":root:not([data-theme])", [("prefers-color-scheme", "dark")], (("theme", "dark"),)),
            (":root:not([data-theme=dark])", [], ()),
        ):
            with self.subTest(selector):
                found = css_selectors.read(selector, preferences, {})
                self.assertEqual((found.picks, found.reason), (expected, ""))

    def test_what_is_skipped(self):
        for selector, reason in (
            (".card", "names no mode"),
            (".card .title", "names no mode"),
            ("[type=submit]", "part of the page"),
            ("main > p", "part of the page"),
            (":root:not(:focus)", "holds only where"),
            (":host([data-theme=dark])", "shadow roots"),
        ):
            with self.subTest(selector):
                self.assertIn(reason, css_selectors.read(selector, [], {}).reason)

    def test_a_map_overrides(self):
        found = css_selectors.read('[data-skin="x"]', [], {"[data-skin=x]": ("brand", "osprelle")})
        self.assertEqual(found.picks, (("brand", "osprelle"),))


class CssReaderTests(SimpleTestCase):
    def test_modes_from_a_class_an_attribute_and_a_preference(self):
        read = sheet(
            ":root { --ink: #111; --gap: 4px } .dark { --ink: #eee }"
            "[data-density=compact] { --gap: 2px }"
            "@media (prefers-contrast: more) { :root { --ink: #000 } }"
        )
        axes = [(a.name, [m.name for m in a.modes]) for a in read.document.axes]
        self.assertEqual(
            axes,
            [
                ("appearance", ["light", "dark"]),
                ("density", ["standard", "compact"]),
                ("contrast", ["standard", "more"]),
            ],
        )
        self.assertEqual(values(read, "ink"), {"": "#111", "dark": "#eee", "more": "#000"})
        self.assertEqual(values(read, "gap"), {"": "4px", "compact": "2px"})
        self.assertEqual(read.document.axes[2].follows.feature, "prefers-contrast")

    def test_var_becomes_a_reference_and_a_fallback_stands_in_for_what_is_not_there(self):
        read = sheet(
            ":root { --a: #111; --b: var(--a); --c: var(--none, #222); --d: color-mix(in oklab, var(--a), white) }"
        )
        self.assertEqual(values(read, "b"), {"": "{a}"})
        self.assertEqual(values(read, "c"), {"": "#222"})
        self.assertEqual(values(read, "d"), {"": "color-mix(in oklab, {a}, white)"})

    def test_light_dark_becomes_two_modes(self):
        read = sheet(":root { --a: light-dark(#fff, var(--b)); --b: #000 }")
        self.assertEqual(values(read, "a"), {"light": "#fff", "dark": "{b}"})

    def test_pieces_of_values_are_written_into_what_uses_them(self):
        read = sheet(
            ":root { --rgb: 1, 2, 3; --a: rgba(var(--rgb), 0.5) } .dark { --rgb: 4, 5, 6 }"
        )
        self.assertEqual(
            values(read, "a"), {"": "rgba(1, 2, 3, 0.5)", "dark": "rgba(4, 5, 6, 0.5)"}
        )
        self.assertEqual({one.name for one in read.skipped}, {"--rgb"})

    def test_types_and_what_is_none_is_listed(self):
        read = sheet(
            ':root { --t: 0.2s; --n: 1.5; --f: "Hanken Grotesk", sans-serif; --s: "Boarding"; '
            "--shadow: 0 1px 2px #000; --u: url(x.png) } @media (min-width: 9px) { :root { --n: 2 } }"
        )
        types = {one.path: one.type for one in read.document.tokens}
        self.assertEqual(types, {"t": "duration", "n": "number", "f": "fontFamily", "s": "string"})
        self.assertEqual([one.name for one in read.skipped], ["--n", "--shadow", "--u"])

    def test_nested_rules_are_read_and_nothing_is_dropped_unsaid(self):
        read = sheet(
            ":root { --a: #111; &[data-sky=night] { --a: #222 } "
            "@media (prefers-contrast: more) { --a: #000 } .card { --b: #333 } "
            "@container (min-width: 1px) { --c: #444 } }"
            "@media (min-width: 9px) { @supports (color: red) { :root { --d: #555 } } }"
        )
        self.assertEqual(values(read, "a"), {"": "#111", "night": "#222", "more": "#000"})
        self.assertEqual([one.name for one in read.skipped], ["--b", "--c", "--d"])
        self.assertIn("@container", read.skipped[1].reason)

    def test_declarations_that_cannot_be_read_are_listed(self):
        read = sheet(
            ":root { --a: #111; /* ; */ --odd name:#123;\r\n --b #fff; *zoom: 1; color red;"
            " &[data-sky=night] { --a: #222; --c } }"
        )
        self.assertEqual(values(read, "a"), {"": "#111", "night": "#222"})
        self.assertEqual([one.name for one in read.skipped], ["--odd name:#123", "--b #fff", "--c"])

    def test_names_keep_their_capitals_on_the_way_out(self):
        read = sheet(":root { --Brand-Ink: #111 }")
        self.assertIn("--Brand-Ink: #111111;", css.write(read.document))

    def test_refused(self):
        for text, sentence in (
            ("p { color: red }", "declares no custom property"),
            (":root { --a: var(--b); --b: var(--a); --c: #111 }", ""),
            (":root { --a: #111 } }", "cannot be read"),
        ):
            if sentence:
                with self.subTest(text), self.assertRaisesMessage(FormatError, sentence):
                    sheet(text)
        read = sheet(":root { --a: var(--b); --b: var(--a); --c: #111 }")
        self.assertEqual([one.path for one in read.document.tokens], ["c"])

    @quick
    @given(seeds)
    def test_our_own_sheet_reads_back_to_the_same_colors(self, seed):
        built = random_document(seed)
        built = replace(
            built,
            axes=tuple(replace(axis, follows=None) for axis in built.axes),
            tokens=tuple(replace(t, private=False) for t in built.tokens if t.type == "color"),
        )
        resolver = Resolver(built)
        if any(
            resolver.resolve(t.key, theme).broken
            for theme in resolver.themes()
            for t in built.tokens
        ):
            return
        text = css.write(built)
        read = css_reader.read(
            text.encode(), "x.css", counter_keys(), {"[data-zone]": ("zone", "on")}
        )
        again = Resolver(read.document)
        names = {one.path: one.key for one in read.document.tokens}
        for theme in resolver.themes():
            picks = {}
            for axis, index in zip(built.axes, theme, strict=True):
                found = next(
                    (
                        a
                        for a in read.document.axes
                        if a.name == axis.name.lower().replace(" ", "-")
                    ),
                    None,
                )
                mode = axis.modes[index].name.replace(" ", "-")
                if found is not None and any(m.name == mode for m in found.modes):
                    picks[found.key] = next(m.key for m in found.modes if m.name == mode)
                elif found is not None:
                    return
            for one in built.tokens:
                key = names.get(one.path.replace(" ", "-").replace(".", "-"))
                answer = resolver.resolve(one.key, theme)
                if answer.color and key:
                    # Written decimals may tip a channel that lies half way between two.
                    found = again.resolve(key, again.theme(picks)).color
                    near = zip(space.rgba8(found)[:3], space.rgba8(answer.color)[:3], strict=True)
                    self.assertLessEqual(max(abs(a - b) for a, b in near), 1, one.path)
                    self.assertAlmostEqual(found.alpha, answer.color.alpha, 5, one.path)


class PlainTests(SimpleTestCase):
    @quick
    @given(seeds)
    def test_json_and_csv_come_back_whole(self, seed):
        built = random_document(seed)
        resolver = Resolver(built)
        if any(
            resolver.resolve(t.key, theme).broken and not resolver.resolve(t.key, theme).passed_on
            for theme in resolver.themes()
            for t in built.tokens
        ):
            return
        held = replace(
            built,
            axes=tuple(replace(axis, follows=None) for axis in built.axes),
            tokens=tuple(replace(t, private=False) for t in built.tokens),
            groups=(),
            pairings=(),
            gamut="srgb",
            name="x",
        )
        for text, read in (
            (plain.write_json(held), plain.read_json),
            (plain.write_csv(held), plain.read_csv),
        ):
            again = read(text.encode(), "x.csv", counter_keys("n"))
            self.assertEqual(diff(held, align(again, held)), [])

    def test_simple_files_are_read_too(self):
        nested = plain.read_json(
            b'{"ink": {"11": "#111111"}, "gap": "4px", "n": 2}', "x.json", counter_keys()
        )
        self.assertEqual(
            [(t.path, t.type) for t in nested.tokens],
            [("ink.11", "color"), ("gap", "dimension"), ("n", "number")],
        )
        table = plain.read_csv(b"name,value\nink,#111111\nGap big,8px\n", "x.csv", counter_keys())
        self.assertEqual(
            [(t.path, t.type) for t in table.tokens], [("ink", "color"), ("Gap big", "dimension")]
        )

    def test_bad_rows_are_named(self):
        for data, place in (
            (plain.write_csv(document(token("a", "#111111"))).replace("#111111", "#11"), "row 8"),
            ("kind,name,type,tier,when,value,description\nzoo,,,,,,", "row 2"),
            ("a\n", "row 1"),
            ("", "x.csv"),
        ):
            with self.subTest(data), self.assertRaises(FormatError) as caught:
                plain.read_csv(data.encode(), "x.csv", counter_keys())
            self.assertIn(place, caught.exception.place)


class PaletteTests(SimpleTestCase):
    built = document(
        token("Deep Sky.11", "#1d2121"), token("white", "#ffffff"), token("veil", "#00000080")
    )

    def test_a_gimp_palette_keeps_names_order_and_bytes(self):
        text, left_out = palettes.write_gpl("Quill", palettes.colors(self.built, (0, 0)))
        self.assertEqual(left_out, ["veil"])
        read = palettes.read_gpl(text.encode(), "x.gpl", counter_keys())
        self.assertEqual(
            [(t.path, t.value(BASE).text) for t in read.tokens],
            [("Deep Sky.11", "#1d2121"), ("white", "#ffffff")],
        )
        self.assertEqual(read.name, "Quill")

    def test_swatches_keep_names_order_bytes_and_translucency(self):
        text = palettes.write_svg("Q & R", palettes.colors(self.built, (0, 0)))
        read = palettes.read_svg(text.encode(), "x.svg", counter_keys())
        self.assertEqual(
            [(t.path, t.value(BASE).text) for t in read.tokens],
            [("Deep Sky.11", "#1d2121"), ("white", "#ffffff"), ("veil", "#00000080")],
        )
        self.assertEqual(read.name, "Q & R")

    @quick
    @given(seeds)
    def test_any_theme_comes_back_with_names_order_and_bytes(self, seed):
        built = random_document(seed)
        theme = Resolver(built).default_theme
        found = palettes.colors(built, theme)
        assume(found)
        read = palettes.read_svg(palettes.write_svg("x", found).encode(), "x.svg", counter_keys())
        expected = [(path, space.hex_text(color)) for path, color in found]
        self.assertEqual([(t.path, t.value(BASE).text) for t in read.tokens], expected)
        text, left_out = palettes.write_gpl("x", found)
        opaque = [(path, color) for path, color in expected if path not in left_out]
        self.assertTrue(all(len(color) == 7 for _, color in opaque))
        if opaque:
            read = palettes.read_gpl(text.encode(), "x.gpl", counter_keys())
            self.assertEqual([(t.path, t.value(BASE).text) for t in read.tokens], opaque)

    def test_hostile_pictures_and_bad_lines_are_refused(self):
        bomb = b'<!DOCTYPE svg [<!ENTITY a "x">]><svg><title>&a;</title></svg>'
        for read, data, sentence in (
            (palettes.read_svg, bomb, "document type declaration"),
            (palettes.read_svg, b"<svg>", "not SVG"),
            (palettes.read_svg, b"<svg></svg>", "no color with a name"),
            (palettes.read_gpl, b"GIMP Palette\n300 0 0 x", "is not a color"),
            (palettes.read_gpl, b"nothing", "not “GIMP Palette”"),
            (palettes.read_gpl, b"GIMP Palette\n0 0 0 x\n1 1 1 x\n", "Two colors have the name"),
        ):
            with self.subTest(sentence), self.assertRaisesMessage(FormatError, sentence):
                read(data, "x", counter_keys())


class KindTests(SimpleTestCase):
    def test_a_file_is_known_by_its_name_or_by_what_it_holds(self):
        for name, data, kind in (
            ("a.tokens.json", b"{}", "tokens"),
            ("a.json", b'{"a": {"$value": 1}}', "tokens"),
            ("a.json", b'{"a": "#111"}', "json"),
            ("-", b":root { --a: 1 }", "css"),
            ("-", b"GIMP Palette\n", "gpl"),
            ("-", b" <svg/>", "svg"),
            ("-", b"a,b\n", "csv"),
        ):
            self.assertEqual(files.kind_of(name, data), kind)

    def test_several_files_are_read_together_only_as_design_tokens(self):
        with self.assertRaisesMessage(FormatError, "only where all are Design Tokens"):
            files.read({"a.css": b"", "b.json": b"{}"}, counter_keys())
        one = json.dumps({"a": {"$type": "color", "$value": "#111"}}).encode()
        self.assertEqual(len(files.read({"a.json": one}, counter_keys()).document.tokens), 1)
        self.assertEqual(Condition.of({}), BASE)
        self.assertEqual(Expression("x").text, "x")
