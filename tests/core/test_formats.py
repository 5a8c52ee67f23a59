"""Design Tokens in and out.

What the two modules (2025.10) ask is taken from memory of them.
"""

import json
import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import HealthCheck, assume, given, settings
from hypothesis import strategies as st

from prism import checks
from prism.analysis import Analysis
from prism.changes import values as edit
from prism.compare.diff import diff
from prism.errors import FormatError, PrismError
from prism.formats import archive, resolver, resolver_writer
from prism.model.values import BASE, Condition, Expression, Listing
from prism.resolution.resolver import Resolver
from tests.builders import (
    counter_keys,
    observatory,
    observatory_expected,
    observatory_files,
    random_condition,
    random_document,
    theme_named,
    token,
    without_provenance,
)


def without_extensions(text):
    """A file as bytes without any member of ours."""

    def bare(node):
        if isinstance(node, list):
            return [bare(part) for part in node]
        if not isinstance(node, dict):
            return node
        return {name: bare(part) for name, part in node.items() if name != "$extensions"}

    return json.dumps(bare(json.loads(text))).encode()


def read(**files):
    """A document from Python values; ``__`` in a name stands for a dot."""
    data = {n.replace("__", "."): json.dumps(raw).encode() for n, raw in files.items()}
    return resolver.read(data, counter_keys())


def back(written):
    files = {name: text.encode() for name, text in written.files.items()}
    return resolver.read(files, counter_keys("back"))


class ObservatoryTests(SimpleTestCase):
    """The set in tests/data/observatory; its expected.json was computed by another program."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.document = observatory()
        cls.resolver = Resolver(cls.document)

    def test_types_and_colors_in_all_six_themes(self):
        expected = observatory_expected()
        self.assertEqual(len(expected), 6)
        for one in expected:
            theme = theme_named(self.resolver, one["theme"])
            found = {}
            for token_ in self.document.tokens:
                answer = self.resolver.resolve(token_.key, theme)
                self.assertEqual(answer.broken, "")
                if not answer.absent:
                    found[token_.path] = {"type": answer.type}
                    found[token_.path] |= {"hex": answer.hex} if answer.hex else {}
            self.assertEqual(found.keys(), one["tokens"].keys())
            for path, said in one["tokens"].items():
                self.assertEqual(found[path]["type"], said["type"], path)
                self.assert_close(found[path].get("hex", ""), said.get("hex", ""), path)

    def assert_close(self, found, expected, path):
        """Equal to 1/255 a channel, as the data's README allows."""
        self.assertEqual(len(found), len(expected), path)
        for i in range(1, len(expected), 2):
            self.assertLessEqual(
                abs(int(found[i : i + 2], 16) - int(expected[i : i + 2], 16)), 1, path
            )

    def test_names_and_order_are_those_of_the_files(self):
        day = next(one for one in observatory_expected() if one["theme"]["sky"] == "night")
        self.assertEqual([t.path for t in self.document.tokens], list(day["tokens"]))

    def test_axes_in_the_order_of_the_resolution_with_modes_and_defaults(self):
        axes = [
            (axis.name, [mode.name for mode in axis.modes], axis.mode(axis.default).name)
            for axis in self.document.axes
        ]
        self.assertEqual(
            axes,
            [
                ("site", ["North Ridge", "South Dome"], "North Ridge"),
                ("sky", ["day", "night", "red light"], "day"),
            ],
        )

    def test_descriptions_deprecation_and_extension_are_kept(self):
        by_path = {one.path: one for one in self.document.tokens}
        self.assertEqual(by_path["Text.main"].description, "Headings and body")
        self.assertEqual(by_path["old teal"].deprecated, "Use {Deep Sky.$root}")
        self.assertEqual(by_path["Ticket.gap"].extends_from, "Dome Panel")
        self.assertEqual(by_path["Ticket.gap"].value(), Expression("{Dome Panel.gap}"))
        self.assertEqual(by_path["Accent.ring"].value(), Expression("{Accent.$root}"))
        self.assertIsInstance(by_path["face.body"].value(), Listing)

    def test_what_it_tells_is_found_and_nothing_else(self):
        said = [finding.what for finding in Analysis(self.document).findings]
        self.assertEqual(
            said,
            [
                "Ground.page for site = South Dome never shows: the set “meaning” comes later "
                "and overrides it.",
                "Glow.rim is there only under sky night and red light.",
                "Signal.hold holds a literal among references.",
                "Brass.warm is unused.",
                "Aurora.grey is unused.",
                "old teal is unused and deprecated: Use {Deep Sky.$root}.",
            ],
        )

    def test_tiers_are_guessed_per_group(self):
        tiers = {one.path: one.tier for one in self.document.tokens}
        self.assertEqual(tiers["basalt.50"], "raw")
        self.assertEqual(tiers["Signal.hold"], "semantic")
        self.assertEqual(tiers["Dome Panel.gap"], "component")
        self.assertEqual(tiers["Ticket.stub"], "component")

    def test_written_again_the_files_are_the_same_member_by_member(self):
        written = resolver_writer.write(self.document)
        self.assertEqual(written.remarks, ())
        for name, data in observatory_files().items():
            text = json.loads(written.files[name])
            text.pop("$extensions", None)
            self.assertEqual(json.dumps(text), json.dumps(json.loads(data)), name)
        self.assertEqual(set(written.files), set(observatory_files()))

    def test_an_edit_changes_its_own_line_and_no_other(self):
        sky = self.document.axes[1]
        main = self.document.token_at("Text.main")
        night = Condition.of({sky.key: sky.modes[1].key})
        changed = edit.set_value(self.document, main.key, night, Expression("{basalt.100}"))
        written = resolver_writer.write(changed)
        for name, data in observatory_files().items():
            before, after = json.loads(data), json.loads(written.files[name])
            after.pop("$extensions", None)
            if name == "sky-night.tokens.json":
                self.assertEqual(after["Text"]["main"]["$value"], "{basalt.100}")
                after["Text"]["main"] = before["Text"]["main"]
            self.assertEqual(after, before)


class RoundTripTests(SimpleTestCase):
    @settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.filter_too_much])
    @given(st.integers(0, 10_000))
    def test_random_documents_come_back_whole(self, seed):
        document = random_document(seed)
        resolver = Resolver(document)
        answers = [
            resolver.resolve(t.key, theme) for theme in resolver.themes() for t in document.tokens
        ]
        # A document from outside may hold nothing broken, so such a one is refused.
        assume(not any(answer.broken and not answer.passed_on for answer in answers))
        again = back(resolver_writer.write(document))
        self.assertEqual(diff(without_provenance(document), without_provenance(again)), [])

    def test_an_edited_import_comes_back_whole(self):
        for seed in range(60):
            document = self.edited(seed)
            again = back(resolver_writer.write(document))
            self.assertEqual(diff(without_provenance(document), without_provenance(again)), [])

    def edited(self, seed):
        rng = random.Random(seed)
        document = observatory()
        colors = [one for one in document.tokens if one.type == "color"]
        for _ in range(rng.choice((1, 4, 9))):
            one = rng.choice(colors)
            texts = ["#123456", "oklch(0.5 0.1 20)", "{" + rng.choice(colors).path + "}"]
            condition = rng.choice((BASE, random_condition(rng, document.axes)))
            try:
                if rng.random() < 0.3:
                    held = rng.choice(document.token(one.key).values)[0]
                    document = edit.clear_value(document, one.key, held)
                else:
                    value = Expression(rng.choice(texts))
                    document = edit.set_value(document, one.key, condition, value)
            except (PrismError, IndexError):
                continue
        place = rng.randrange(len(document.tokens))
        new = (
            token(f"New.one {seed}", "#445566", key=f"n{seed}", tier="raw", description="Put in"),
        )
        return replace(
            document,
            tokens=document.tokens[:place] + new + document.tokens[place:],
            axes=document.axes[::-1] if rng.random() < 0.2 else document.axes,
        )

    def test_without_our_members_other_readers_see_single_axis_values(self):
        sky = observatory().axes[1]
        document = observatory()
        link = document.token_at("Text.link")
        red = Condition.of({sky.key: sky.modes[2].key})
        document = edit.set_value(document, link.key, red, Expression("{red.300}"))
        written = resolver_writer.write(document)
        files = {name: without_extensions(text) for name, text in written.files.items()}
        alone = resolver.read(files, counter_keys())
        again = alone.token_at("Text.link")
        self.assertEqual([v.text for _, v in again.values], ["{Accent.$root}", "{red.300}"])

    def answers(self, document):
        """The value of every token by its path in every theme, by the names of its modes."""
        found = Resolver(document)
        return {
            (token.path, frozenset(zip((a.name for a in document.axes), modes, strict=True))): str(
                found.resolve(token.key, theme).value
            )
            for theme in found.themes()
            for modes in [
                [axis.modes[at].name for axis, at in zip(document.axes, theme, strict=True)]
            ]
            for token in document.tokens
        }

    def test_a_cleared_value_is_cleared_for_other_readers_too(self):
        """A context of two files: what the second one no longer says must not show the first."""
        document = observatory()
        single = [(t, c) for t in document.tokens for c, _ in t.values if c.picks]
        self.assertGreater(len(single), 20)
        for one, condition in single:
            cleared = edit.clear_value(document, one.key, condition)
            written = resolver_writer.write(cleared)
            wanted = self.answers(cleared)
            whole = {name: text.encode() for name, text in written.files.items()}
            bare = {name: without_extensions(text) for name, text in written.files.items()}
            for files in (whole, bare):
                back = resolver.read(files, counter_keys())
                self.assertEqual(self.answers(back), wanted, (one.path, condition))
            self.assertEqual(written.remarks, ())
            again = resolver.read(whole, counter_keys()).token_at(one.path)
            self.assertEqual(len(again.values), len(one.values) - 1)

    def test_values_on_two_axes_are_said_to_be_ours_alone(self):
        document = observatory()
        site, sky = document.axes
        both = Condition.of({site.key: site.modes[1].key, sky.key: sky.modes[1].key})
        link = document.token_at("Text.link")
        document = edit.set_value(document, link.key, both, Expression("{red.300}"))
        written = resolver_writer.write(document)
        self.assertEqual(
            written.remarks, ("Values on several axes stand under $extensions only: Text.link.",)
        )


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
            [finding.what for finding in Analysis(document).findings],
            ["a is unused.", "sky names no default, so its first mode is used."],
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
