"""Files as they are read: what is refused, with its place, and archives."""

import json

from django.test import SimpleTestCase

from prism import checks
from prism.analysis import Analysis
from prism.errors import FormatError
from prism.formats import archive, resolver, resolver_writer
from prism.model.values import Expression
from prism.resolution.resolver import Resolver
from tests.builders import (
    counter_keys,
)
from tests.core.formats.test_design_tokens import read


class ReadingTests(SimpleTestCase):
    def test_a_plain_file_is_one_set_without_axes(self):
        document = read(
            a__tokens__json={
                "ink": {"$type": "color", "950": {"$value": "#000"}, "50": {"$value": "#fff"}}
            }
        )
        self.assertEqual([t.path for t in document.tokens], ["ink.950", "ink.50"])
        self.assertEqual(document.axes, ())

    def test_two_files_without_a_resolver_document_are_merged_in_order(self):
        document = read(
            one__json={"a": {"$type": "color", "$value": "#111111"}},
            two__json={"b": {"$value": "{a}"}, "a": {"$type": "color", "$value": "#222222"}},
        )
        self.assertEqual(Resolver(document).resolve(document.token_at("b").key, ()).hex, "#222222")

    def test_what_groups_say_of_themselves_is_kept_and_written(self):
        group = {"$type": "color", "$description": "Everything printed", "a": {"$value": "#111"}}
        document = read(
            a__json={"ink": group, "night": {"$extends": "{ink}", "$extensions": {"org.x": [1]}}}
        )
        told = {group.path: group for group in document.groups}
        self.assertEqual(
            (told["ink"].description, told["ink"].type), ("Everything printed", "color")
        )
        self.assertEqual(told["night"].extends, "ink")
        self.assertEqual(json.loads(told["night"].extensions), {"org.x": [1]})
        self.assertEqual([t.path for t in document.tokens], ["ink.a", "night.a"])
        (tree,) = (
            json.loads(text)
            for name, text in resolver_writer.write(document).files.items()
            if not name.endswith(".resolver.json")
        )
        self.assertEqual(tree["ink"]["$description"], "Everything printed")
        self.assertEqual(tree["night"]["$extends"], "{ink}")
        self.assertEqual(tree["night"]["$extensions"]["org.x"], [1])

    def test_clashing_names_in_css_are_numbered_once(self):
        document = read(
            a__json={
                "$type": "color",
                "on accent": {"$value": "#111"},
                "on-accent": {"$value": "#222"},
            }
        )
        self.assertEqual(dict(document.tokens[1].export_names), {"css": "on-accent-2"})

    def refused(self, sentence, place="", **files):
        with self.assertRaises(FormatError) as caught:
            read(**files)
        self.assertIn(sentence, str(caught.exception))
        self.assertIn(place, caught.exception.place)

    def test_what_cannot_be_read_is_refused_with_its_place(self):
        color = {"$type": "color"}
        self.refused("{c} does not exist", "x.json, a", x__json={"a": {"$value": "{c}"}})
        self.refused(
            "“#12” is not a color", "x.json, a.b", x__json={"a": {"b": {**color, "$value": "#12"}}}
        )
        self.refused("has no type", "x.json, a", x__json={"a": {"$value": "#123456"}})
        self.refused(
            "“paint” is not a type", "x.json, a", x__json={"a": {"$type": "paint", "$value": 1}}
        )
        self.refused("not a plain value", "x.json, a", x__json={"a": 3})
        self.refused(
            "points outside",
            "x.json, a",
            x__json={"a": {**color, "$value": {"$ref": "https://example.org/x"}}},
        )
        self.refused(
            "extends itself",
            "",
            x__json={"a": {"$extends": "{a}", "b": {**color, "$value": "#000"}}},
        )
        self.refused(
            "color in one place and a dimension in another",
            "",
            one__json={"a": {**color, "$value": "#000"}},
            two__json={"a": {"$type": "dimension", "$value": "1px"}},
        )

    def test_what_is_broken_is_kept_as_text_and_listed_with_its_theme(self):
        tree = {
            "a": {"$type": "color", "$value": "#111111"},
            "b": {"$value": "{a}"},
            "c": {"$type": "color", "$value": "{nothing}"},
            "d": {"$type": "dimension", "$value": "1px"},
            "e": {"$type": "color", "$value": "{d}"},
        }
        night = {"a": {"$type": "color", "$value": "{b}"}}
        built = read(
            x__resolver__json={
                "sets": {"base": {"sources": [tree]}},
                "modifiers": {"sky": {"contexts": {"day": [], "night": [night]}, "default": "day"}},
                "resolutionOrder": [{"$ref": "#/sets/base"}, {"$ref": "#/modifiers/sky"}],
            }
        )
        self.assertEqual(built.token_at("c").value(), Expression("{nothing}"))
        found = [(f.what, f.where) for f in checks.run(Analysis(built), "broken")]
        self.assertEqual(
            found,
            [
                ("a has no result: Circular reference: a → b → a.", "sky night"),
                ("b has no result: Circular reference: a → b → a.", "sky night"),
                ("c has no result: {nothing} does not exist.", ""),
                ("e has no result: {d} is a dimension, and a color is needed here.", ""),
            ],
        )
        files = {name: text.encode() for name, text in resolver_writer.write(built).files.items()}
        self.assertEqual(resolver.read(files, counter_keys()).tokens, built.tokens)

    def test_text_that_is_no_json_is_refused_with_line_and_column(self):
        for data, sentence in (
            (b'{"a": ', "line 1, column 7"),
            (b"\xff\xfe", "not UTF-8"),
            (b"[1]", "no JSON object"),
            (b'{"a": 1, "a": 2}', "appears twice"),
            (b'{"a": NaN}', "cannot be read"),
            (b'{"a":' * 210 + b"1" + b"}" * 210, "nested"),
            (b"[" * 100_000, "nested"),
            (b" " * (9 * 1024 * 1024), "at most"),
        ):
            with self.subTest(data[:12]), self.assertRaises(FormatError) as caught:
                resolver.read({"x.json": data}, counter_keys())
            self.assertIn(sentence, str(caught.exception))
            self.assertIn("x.json", caught.exception.place)

    def test_a_resolver_document_that_names_a_file_that_did_not_come(self):
        self.refused(
            "was not imported",
            "x.resolver.json, set base",
            x__resolver__json={
                "sets": {"base": {"sources": [{"$ref": "gone.json"}]}},
                "resolutionOrder": [{"$ref": "#/sets/base"}],
            },
        )

    def test_a_default_that_is_not_named_is_a_finding(self):
        document = read(
            x__resolver__json={
                "sets": {"base": {"sources": [{"a": {"$type": "color", "$value": "#111"}}]}},
                "modifiers": {"sky": {"contexts": {"day": [], "night": []}}},
                "resolutionOrder": [{"$ref": "#/sets/base"}, {"$ref": "#/modifiers/sky"}],
            }
        )
        self.assertEqual(
            [found.what for found in checks.run(Analysis(document), *checks.ids("hygiene"))],
            [
                "a is unused.",
                "sky: day and night are the same in every token.",
                "sky names no default, so its first mode is used.",
            ],
        )


class ArchiveTests(SimpleTestCase):
    def test_a_folder_comes_without_its_name_and_other_files_are_named(self):
        data = archive.write({"set/a.tokens.json": "{}", "set/b.json": "{}"})
        self.assertEqual(archive.read(data, "x.zip")[0], {"a.tokens.json": b"{}", "b.json": b"{}"})
        files, skipped = archive.read(archive.write({"a.json": "{}", "notes.txt": ""}), "x.zip")
        self.assertEqual((list(files), skipped), (["a.json"], ["notes.txt"]))

    def test_paths_that_climb_out_are_refused(self):
        for name in ("../a.json", "a/../../b.json", "/etc/a.json", "..\\a.json", "C:/a.json"):
            with self.subTest(name), self.assertRaisesMessage(FormatError, "points outside"):
                archive.read(archive.write({name: "{}"}), "x.zip")

    def test_too_many_too_large_or_no_archive_at_all(self):
        for data, sentence in (
            (b"PK nothing", "not a zip archive"),
            (archive.write({f"{i}.json": "{}" for i in range(301)}), "more than 300 files"),
            (archive.write({"a.json": " " * (25 * 1024 * 1024)}), "unpacks to more than"),
        ):
            with self.assertRaisesMessage(FormatError, sentence):
                archive.read(data, "x.zip")
