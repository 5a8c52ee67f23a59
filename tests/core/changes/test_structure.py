"""Edits to tokens, groups, axes and modes."""

import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.analysis import Analysis
from prism.changes import axes, merging, structure
from prism.changes.merging import merge_tokens
from prism.changes.structure import remove_tokens
from prism.errors import EditError, PrismError
from prism.model.document import Mode, Pairing, Scene
from prism.model.values import BASE, Condition, Expression
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import axis, document, observatory, random_document, token

DARK = {"appearance": "dark"}
seeds = st.integers(0, 10_000)
quick = tried(60)


def small():
    return document(
        token("ink.11", "#1d2121", tier="raw"),
        token("accent.$root", "{ink.11}", (DARK, "#94d9be")),
        token("accent.quiet", "oklch(from {accent} l calc(c * 0.5) h)"),
        token("text.main", "{ink.11}", (DARK, "color-mix(in oklab,  {accent.$root} 30%, white)")),
        pairings=(Pairing("p", "text.main", ("accent.quiet",)),),
        scenes=(Scene("s", "Board", bindings=(("ink", "text.main"),)),),
    )


def answers(built):
    """What every token is in every theme, by key; a broken one counts as broken alone."""
    resolver = Resolver(built)
    found = []
    for theme in resolver.themes():
        here = {one.key: resolver.resolve(one.key, theme) for one in built.tokens}
        found.append({key: "broken" if one.broken else one.value for key, one in here.items()})
    return found


class RenameTests(SimpleTestCase):
    def test_every_reference_follows_and_all_else_of_the_text_stays(self):
        changed = structure.rename_token(small(), "accent.$root", "brand.$root")
        texts = [value.text for one in changed.tokens for _, value in one.values]
        self.assertIn("oklch(from {brand} l calc(c * 0.5) h)", texts)
        self.assertIn("color-mix(in oklab,  {brand.$root} 30%, white)", texts)
        self.assertEqual(answers(changed), answers(small()))
        self.assertEqual(changed.pairings, small().pairings)

    def test_a_group_takes_its_tokens_inner_groups_and_files_along(self):
        built = observatory()
        changed = structure.rename_group(built, "Dome Panel", "Parts.Dome Panel")
        self.assertEqual(changed.token_at("Ticket.gap").extends_from, "Parts.Dome Panel")
        self.assertEqual(
            changed.token_at("Ticket.gap").value(), Expression("{Parts.Dome Panel.gap}")
        )
        self.assertEqual(answers(changed), answers(built))

    @quick
    @given(seeds)
    def test_there_and_back_is_the_identity(self, seed):
        built = random_document(seed)
        one = random.Random(seed).choice(built.tokens)
        there = structure.rename_token(built, one.key, "moved.else where")
        self.assert_back(structure.rename_token(there, one.key, one.path), built)
        group = structure.rename_group(built, "group 1", "other.group")
        self.assert_back(structure.rename_group(group, "other.group", "group 1"), built)

    def assert_back(self, back, built):
        """All is as it was; slots that were bound on the way take what they took."""
        self.assertEqual(replace(back, scenes=built.scenes), built)
        was, now = Analysis(built).bindings, Analysis(back).bindings
        self.assertEqual({slot: now[slot] for slot in was}, was)

    def test_the_observatory_there_and_back(self):
        there = structure.rename_group(observatory(), "Deep Sky", "Sea")
        self.assertEqual(structure.rename_group(there, "Sea", "Deep Sky"), observatory())

    def test_refused(self):
        for path, sentence in (
            ("text.main", "There is a token “text.main” already."),
            ("a..b", "cannot be a path"),
            ("a.{b}", "cannot be a path"),
            ("text", "would be a token and a group"),
            ("text.main.faint", "would be a token and a group"),
        ):
            with self.subTest(path), self.assertRaisesMessage(EditError, sentence):
                structure.rename_token(small(), "ink.11", path)


class MembershipTests(SimpleTestCase):
    def test_new_tokens_stand_where_they_are_put(self):
        new = token("ink.12", "#000000", tier="raw")
        changed = structure.add_tokens(small(), [new], after="ink.11")
        self.assertEqual([one.path for one in changed.tokens][:2], ["ink.11", "ink.12"])
        with self.assertRaisesMessage(PrismError, "does not exist"):
            structure.add_tokens(small(), [token("x", "{nothing}")])

    def test_what_is_used_is_not_removed(self):
        with self.assertRaisesMessage(EditError, "{ink.11} is used by accent."):
            structure.remove_tokens(small(), ["ink.11"])
        changed = structure.remove_tokens(small(), ["text.main"])
        self.assertEqual(changed.pairings, ())
        self.assertEqual(changed.scenes[0].bindings, ())

    def test_moving_changes_the_group_and_the_place(self):
        changed = structure.move_tokens(small(), ["text.main"], "words", after="ink.11")
        self.assertEqual([one.path for one in changed.tokens][1], "words.main")
        self.assertEqual(answers(changed)[0].keys(), answers(small())[0].keys())
        front = structure.reorder_tokens(small(), ["text.main", "accent.quiet"])
        self.assertEqual([one.path for one in front.tokens][:2], ["text.main", "accent.quiet"])

    def test_a_type_changes_only_where_every_value_is_one_of_it(self):
        built = document(token("a", "4", type="number"), token("b", "{a}", type="number"))
        with self.assertRaisesMessage(PrismError, "is needed here"):
            structure.change_type(built, "a", "dimension")
        self.assertEqual(
            structure.change_type(built, "b", "fontWeight").token("b").type, "fontWeight"
        )

    def test_split_by_who_uses_it(self):
        built = document(
            token("white", "#ffffff", tier="raw"),
            token("page", "{white}"),
            token("label", "{white}"),
        )
        changed = merging.split_token(built, "white", "w2", "white label", ["label"])
        self.assertEqual(changed.token("label").value(), Expression("{white label}"))
        self.assertEqual(changed.token("page").value(), Expression("{white}"))
        self.assertEqual(answers(changed)[0]["label"], answers(built)[0]["label"])
        merged = merging.merge_tokens(changed, "white", "w2")
        self.assertEqual(merged, built)

    def test_merging_follows_pairings_and_bindings(self):
        built = small()
        built = structure.add_tokens(built, [token("text.other", "#000000")])
        changed = merging.merge_tokens(built, "text.other", "text.main")
        self.assertEqual(changed.pairings[0].foreground, "text.other")
        self.assertEqual(changed.scenes[0].bindings, (("ink", "text.other"),))

    def test_a_reference_replaced_throughout_may_make_no_circle(self):
        built = document(token("a", "#111111"), token("b", "{a}"), token("c", "{b}"))
        self.assertEqual(
            structure.replace_reference(built, "b", "a").token("c").value(), Expression("{a}")
        )
        with self.assertRaisesMessage(EditError, "Circular reference"):
            structure.replace_reference(built, "a", "c")


class AxisTests(SimpleTestCase):
    def test_another_order_of_axes_that_lets_a_wrong_value_win_is_refused(self):
        built = document(
            token("size", "4", type="number"),
            token(
                "use",
                "#000000",
                ({"look": "night"}, "{size}"),
                ({"brand": "rail"}, "#111111"),
                ({"brand": "sea"}, "#222222"),
            ),
            axes=(axis("look", "light", "night"), axis("brand", "rail", "sea")),
        )
        with self.assertRaisesMessage(EditError, "{size} is a number, and a color is needed"):
            axes.reorder_axes(built, ["brand", "look"])

    @quick
    @given(seeds)
    def test_removing_an_axis_leaves_every_remaining_theme_as_it_was(self, seed):
        built = random_document(seed)
        rng = random.Random(seed)
        owner = rng.choice(built.axes)
        stays = rng.choice(owner.modes).key
        changed = axes.remove_axis(built, owner.key, stays)
        self.assertEqual(len(changed.axes), len(built.axes) - 1)
        was, now = Resolver(built), Resolver(changed)
        for theme in now.themes():
            before = was.theme(now.picks(theme) | {owner.key: stays})
            for one in built.tokens:
                here, there = now.resolve(one.key, theme), was.resolve(one.key, before)
                self.assertEqual((here.value, here.broken), (there.value, there.broken), one.path)

    @quick
    @given(seeds)
    def test_changing_a_default_or_adding_a_mode_changes_no_theme(self, seed):
        built = random_document(seed)
        rng = random.Random(seed)
        owner = rng.choice(built.axes)
        changed = axes.change_default(built, owner.key, rng.choice(owner.modes).key)
        self.assertEqual(answers(changed), answers(built))
        source = rng.choice(owner.modes).key
        grown = axes.add_mode(built, owner.key, Mode("new", "New"), copy_of=source)
        was, now = Resolver(built), Resolver(grown)
        for theme in now.themes():
            picks = now.picks(theme)
            before = was.theme(picks | ({owner.key: source} if picks[owner.key] == "new" else {}))
            for one in built.tokens:
                self.assertEqual(
                    now.resolve(one.key, theme).value, was.resolve(one.key, before).value
                )

    @quick
    @given(seeds)
    def test_removing_a_mode_leaves_the_others_as_they_were(self, seed):
        built = random_document(seed)
        rng = random.Random(seed)
        owner = rng.choice(built.axes)
        gone = rng.choice(owner.modes).key
        lost = axes.lost_with_mode(built, owner.key, gone)
        changed = axes.remove_mode(built, owner.key, gone)
        kept = sum(len(one.values) for one in changed.tokens)
        self.assertEqual(kept + len(lost), sum(len(one.values) for one in built.tokens))
        was, now = Resolver(built), Resolver(changed)
        for theme in now.themes():
            before = was.theme(now.picks(theme))
            for one in built.tokens:
                self.assertEqual(
                    now.resolve(one.key, theme).value, was.resolve(one.key, before).value
                )

    def test_reordering_axes_decides_between_equals(self):
        built = document(
            token("a", "#000000", (DARK, "#111111"), ({"brand": "osprelle"}, "#222222"))
        )
        both = Condition.of(DARK | {"brand": "osprelle"})
        self.assertEqual(both.mode_on("brand"), "osprelle")
        turned = axes.reorder_axes(built, ["brand", "appearance"])
        resolver = Resolver(turned)
        self.assertEqual(resolver.resolve("a", resolver.theme(dict(both.picks))).hex, "#111111")

    def test_names_are_given_once(self):
        built = document(token("a", "#000000"))
        with self.assertRaisesMessage(EditError, "Two axes have the same name."):
            axes.rename_axis(built, "brand", "appearance")
        with self.assertRaisesMessage(EditError, "Two modes have the same name."):
            axes.rename_mode(built, "appearance", "dark", "light")
        with self.assertRaisesMessage(EditError, "It is the only mode."):
            axes.remove_mode(document(axes=(axis("x", "one"),)), "x", "one")
        added = axes.add_axis(built, axis("status", "running", "late"), position=1)
        self.assertEqual([one.name for one in added.axes], ["appearance", "status", "brand"])
        self.assertEqual(replace(added, axes=built.axes), built)
        self.assertEqual(built.tokens[0].value(BASE), Expression("#000000"))


class MergedTests(SimpleTestCase):
    def test_a_token_that_refers_to_what_it_is_to_be_merged_with(self):
        built = document(token("a", "{b}"), token("b", "#111111"), axes=())
        with self.assertRaisesMessage(EditError, "a itself refers to {b}."):
            merge_tokens(built, "a", "b")

    def test_one_unknown_token_refuses_all(self):
        built = document(token("a", "#111111"), token("b", "#222222"), axes=())
        with self.assertRaisesMessage(EditError, "That token is no longer there."):
            remove_tokens(built, ["a", "gone"])
