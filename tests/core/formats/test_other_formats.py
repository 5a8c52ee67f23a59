"""Style sheets, palettes, CSV and plain JSON, in and out."""

import json
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import assume, given
from hypothesis import strategies as st

from prism.color import space
from prism.compare.diff import diff
from prism.compare.match import align
from prism.errors import FormatError
from prism.formats import files, palettes, plain
from prism.formats.duplicates import DuplicateError
from prism.model.values import BASE, Condition, Expression
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import counter_keys, document, random_document, token

seeds = st.integers(0, 10_000)
quick = tried(40)


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


class DuplicateTests(SimpleTestCase):
    TABLE = b"name,value\nink,#111111\ngap,8px\nink,#222222\nink,#111111\ngap,red\n"

    def read(self, choice):
        read = files.read({"x.csv": self.TABLE}, counter_keys(), choice=choice)
        values = {one.path: (one.type, one.value().text) for one in read.document.tokens}
        return values, [skipped.name for skipped in read.skipped]

    def test_which_of_two_values_counts_is_chosen(self):
        with self.assertRaisesMessage(DuplicateError, "“ink” appears twice"):
            self.read("")
        values, skipped = self.read("first")
        self.assertEqual(values, {"ink": ("color", "#111111"), "gap": ("dimension", "8px")})
        self.assertEqual(skipped, ["ink (x.csv, row 4)", "gap (x.csv, row 6)"])
        values, _ = self.read("last")
        self.assertEqual(values, {"ink": ("color", "#111111"), "gap": ("color", "red")})
        values, _ = self.read("number")
        self.assertEqual(
            values,
            {
                "ink": ("color", "#111111"), "gap": ("dimension", "8px"),
                "ink 2": ("color", "#222222"), "gap 2": ("color", "red"),
            },
        )  # fmt: skip


class NamedByFileTests(SimpleTestCase):
    def test_the_name_of_plain_json_is_that_of_its_file(self):
        built = files.read({"one/two/three.json": b'{"a": "#123456"}'}, counter_keys()).document
        self.assertEqual(built.name, "three")
