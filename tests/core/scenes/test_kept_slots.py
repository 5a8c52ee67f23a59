"""What an edit must not take along: slots of scenes through renames, ramps of a brand that goes; what is said of it."""

import random

from django.test import SimpleTestCase

from demo import quillhaven
from prism.analysis import Analysis
from prism.brands.commands import AddBrand
from prism.changes import axes, structure
from prism.changes.outcome import Outcome
from prism.modes.commands import RemoveMode
from prism.resolution.resolver import Resolver
from prism.roles import kept_slots
from prism.sheet import details, preview, trace
from tests.builders import document, token


def bindings(built):
    return {slot: known.key for slot, known in Analysis(built).bindings.items()}


class SlotTests(SimpleTestCase):
    """A slot keeps its token, guessed or bound, whatever that is called."""

    def assert_kept(self, before, after):
        was, now = bindings(before), bindings(after)
        self.assertEqual({slot: now.get(slot) for slot in was}, was)

    def test_through_renames_of_tokens_and_groups(self):
        built = quillhaven.document()
        for old, new in (
            ("surface", "zzz"),
            ("text", "surface"),
            ("action", "wait"),
            ("copy", "words"),
        ):
            with self.subTest(old):
                self.assert_kept(built, structure.rename_group(built, old, f"{new}.{old}x"))
        for path, name in (
            ("surface.page", "a.b"),
            ("text.main", "surface.page2"),
            ("action.fill", "x"),
        ):
            with self.subTest(path):
                found = built.token_at(path) or built.token_at(f"{path}.$root")
                self.assert_kept(built, structure.rename_token(built, found.key, name))

    def test_through_renames_of_chance(self):
        rng = random.Random("kept")
        built = quillhaven.document()
        for number in range(12):
            before = built
            one = rng.choice([t for t in built.tokens if t.tier != "raw" and "$" not in t.path])
            words = rng.sample(("surface", "text", "page", "action", "line", "go", "zz"), 2)
            built = structure.rename_token(built, one.key, ".".join((*words, f"n{number}")))
            self.assert_kept(before, built)

    def test_a_rename_that_changes_nothing_binds_nothing(self):
        built = quillhaven.document()
        found = built.token_at("ink.5")
        self.assertEqual(structure.rename_token(built, found.key, "ink.five").scenes, built.scenes)

    def test_the_preview_of_a_rename_says_what_it_does_to_scenes(self):
        built = document(token("page.color", "#ffffff"), token("text.main", "#111111"))
        after = structure.rename_group(built, "page", "zz")
        told = preview.change(built, Outcome(after, 1))
        self.assertIn("On the scenes, page keeps its token, bound from now on.", told.scenes)
        self.assertEqual([], list(kept_slots.changes(built, after)))

    def test_what_changed_is_counted_by_what_it_is(self):
        built = document(token("a", "#111111"), token("b", "{a}"))
        self.assertEqual(
            preview.summary(built, structure.rename_token(built, "a", "c")), "1 name, 1 value"
        )
        ordered = structure.reorder_tokens(built, ["b"])
        self.assertEqual(preview.summary(built, ordered), "the order of tokens")
        told = preview.change(
            built,
            Outcome(
                structure.describe_token(
                    built,
                    "a",
                    path="a",
                    description="",
                    export_name="",
                    deprecated=None,
                    private=True,
                    uses="x, y",
                ),
                1,
            ),
        )
        self.assertEqual(
            [(row.where, row.before, row.after) for row in told.rows],
            [("uses", "none", "x, y"), ("private", "no", "yes")],
        )


class BrandTests(SimpleTestCase):
    def test_a_brand_goes_with_its_ramps_where_that_is_asked_for(self):
        before = quillhaven.document()
        built = AddBrand("k", "Moor", (("moor", "#8a2f6b"),)).apply(before)
        brand = next(a for a in built.axes if any(m.name == "Moor" for m in a.modes))
        mode = next(m for m in brand.modes if m.name == "Moor")
        own = {ramp.name for ramp in built.ramps} - {ramp.name for ramp in before.ramps}
        found = axes.ramps_of_mode(built, brand.key, mode.key)
        self.assertTrue(own)
        self.assertEqual({ramp.name for ramp in found}, own)
        kept = RemoveMode(brand.key, mode.key).apply(built)
        self.assertEqual({r.name for r in kept.ramps}, {r.name for r in built.ramps})
        gone = RemoveMode(brand.key, mode.key, with_ramps=True)
        self.assertEqual(gone.apply(built).ramps, before.ramps)
        self.assertEqual(len(gone.apply(built).tokens), len(before.tokens))
        self.assertIn("with 1 ramp: moor", gone.sentence(built))

    def test_ramps_that_something_else_uses_are_not_asked_for(self):
        built = quillhaven.document()
        for axis in built.axes:
            for mode in axis.modes:
                for ramp in axes.ramps_of_mode(built, axis.key, mode.key):
                    after = RemoveMode(axis.key, mode.key, with_ramps=True).apply(built)
                    self.assertNotIn(ramp.key, [r.key for r in after.ramps])


class ToldTests(SimpleTestCase):
    def test_same_color_compares_colors(self):
        built = document(
            token("sea.5", "#123456", tier="raw"),
            token("a", "{sea.5}"),
            token("b", "#123456"),
            token("c", "color-mix(in srgb, {sea.5}, white 40%)"),
            token("d", "color-mix(in srgb, {sea.5}, {sea.5})"),
        )
        resolver = Resolver(built)
        found = details.same_color(resolver, "a", resolver.default_theme)
        self.assertEqual([one.path for one in found], ["b", "d"])

    def test_a_mix_is_a_step_of_its_own_with_its_parts(self):
        built = document(
            token("sea.5", "#123456", tier="raw"),
            token("foam", "#ffffff", tier="raw"),
            token("soft", "color-mix(in oklch, {sea.5}, {foam} 30%)"),
            token("plain", "{soft}"),
        )
        resolver = Resolver(built)
        picture = trace.picture(resolver, "plain", resolver.default_theme)
        labels = [node.label for node in picture.nodes]
        self.assertEqual(labels, ["plain", "soft", "color-mix(in oklch, sea.5, foam 30%)", "sea.5"])
