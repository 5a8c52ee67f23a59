"""Design Tokens in and out.

What the two modules (2025.10) ask is taken from memory of them.
"""

import json
import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import HealthCheck, assume, given
from hypothesis import strategies as st

from prism import checks
from prism.analysis import Analysis
from prism.changes import values as edit
from prism.compare.diff import diff
from prism.errors import PrismError
from prism.formats import resolver, resolver_writer
from prism.model.values import BASE, Condition, Expression, Listing
from prism.resolution.resolver import Resolver
from tests import few, tried
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
        said = [
            finding.what
            for finding in checks.run(Analysis(self.document), "elevation", *checks.ids("hygiene"))
        ]
        self.assertEqual(
            said,
            [
                "Ground.page hardly lifts off Ground.sunken: 0.0 L* apart.",
                "Ground.card hardly lifts off Ground.page: 0.0 L* apart.",
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
    @tried(120, suppress_health_check=[HealthCheck.filter_too_much])
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
        for seed in range(few(60)):
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
