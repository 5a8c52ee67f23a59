"""Many cells at once, pasting, names by scheme, a mode from a mode."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.changes import structure
from prism.compare.diff import apply, diff, inverse
from prism.errors import EditError, PrismError
from prism.formats import css
from prism.model.document import Axis, Document, Mode, Pairing, Ramp, Scene, Scheme
from prism.model.values import BASE, Condition, Expression
from prism.naming import scheme as naming
from prism.palette import mapping
from prism.palette.ramp_edits import add_ramp
from prism.resolution.resolver import Resolver
from prism.sheet import bulk, paste
from prism.sheet.cell_commands import Cells, SetOpacity, ShiftCells
from tests import tried
from tests.builders import APPEARANCE, BRAND, counter_keys, document, token

DARK = Condition.of({"appearance": "dark"})
DAY = Axis("day", "day", (Mode("d", "day", "", "light"), Mode("n", "night", "", "dark")), "d")


def small():
    """Two ramps of eleven and tokens on the first, with their own values in the dark."""
    keys = counter_keys()
    built = Document(name="Small", axes=(APPEARANCE, BRAND))
    for name, seed in (("sea", "#1ea1bb"), ("sand", "#c9a25a")):
        built = add_ramp(built, name, {"seed": seed}, keys)
    tokens = (
        token("text.main", "{sea.11}", ({"appearance": "dark"}, "{sea.2}")),
        token("text.muted", "{sea.8}"),
        token("text.loose", "#123456"),
        token("gap", "4px", type="dimension"),
    )
    return structure.add_tokens(built, tokens), keys


def text(built, path, condition=BASE):
    value = built.token_at(path).value(condition)
    return value.text if value else None


class MappingTests(SimpleTestCase):
    def setUp(self):
        self.built, self.keys = small()
        self.resolver = Resolver(self.built)

    def cells(self, *keys, modes=("light",)):
        return mapping.places(self.resolver, keys, "appearance", modes, (0, 0))

    def test_values_move_along_the_ramp_and_stop_at_its_ends(self):
        cells = self.cells("text.main", "text.muted", "text.loose")
        done = mapping.shift(self.built, cells, 2)
        self.assertEqual((text(done.document, "text.main"), done.changed), ("{sea.11}", 1))
        self.assertEqual(text(done.document, "text.muted"), "{sea.10}")
        self.assertEqual(done.skipped, ("text.loose",))
        mirrored = mapping.mirror(self.built, cells).document
        self.assertEqual(text(mirrored, "text.main"), "{sea.1}")
        self.assertEqual(text(mirrored, "text.muted"), "{sea.4}")
        sand = next(ramp.key for ramp in self.built.ramps if ramp.name == "sand")
        mapped = mapping.map_to(self.built, cells, sand).document
        self.assertEqual(text(mapped, "text.muted"), "{sand.8}")

    def test_steps_inside_an_expression_move_and_what_is_no_step_stays(self):
        built = structure.add_tokens(
            self.built,
            (
                token("text.thin", "oklch(from {sea.8} l c h / 60%)"),
                token("text.mixed", "color-mix(in oklab, {sea.8} 30%, {text.main})"),
                token("text.own", "color-mix(in oklab, {text.main}, {text.muted})"),
            ),
        )
        cells = mapping.places(
            Resolver(built),
            ["text.thin", "text.mixed", "text.own"],
            "appearance",
            ["light"],
            (0, 0),
        )
        done = mapping.shift(built, cells, 1)
        self.assertEqual(text(done.document, "text.thin"), "oklch(from {sea.9} l c h / 60%)")
        self.assertEqual(
            text(done.document, "text.mixed"), "color-mix(in oklab, {sea.9} 30%, {text.main})"
        )
        self.assertEqual(done.skipped, ("text.own",))

    @tried(30)
    @given(st.integers(-12, 12))
    def test_mirroring_twice_is_nothing_and_a_shift_goes_back_where_there_is_room(self, by):
        cells = self.cells("text.muted")
        once = mapping.mirror(self.built, cells).document
        resolver = Resolver(once)
        again = mapping.places(resolver, ["text.muted"], "appearance", ["light"], (0, 0))
        self.assertEqual(mapping.mirror(once, again).document, self.built)
        shifted = mapping.shift(self.built, cells, by).document
        if 1 <= 8 + by <= 11:
            resolver = Resolver(shifted)
            back = mapping.places(resolver, ["text.muted"], "appearance", ["light"], (0, 0))
            self.assertEqual(mapping.shift(shifted, back, -by).document, self.built)

    def test_a_cell_writes_where_its_mode_says(self):
        done = mapping.put(self.built, self.cells("text.muted", modes=("dark",)), "sand.3")
        self.assertEqual(text(done.document, "text.muted", DARK), "{sand.3}")
        self.assertEqual(text(done.document, "text.muted"), "{sea.8}")
        cleared = mapping.clear(self.built, self.cells("text.main", "text.muted", modes=("dark",)))
        self.assertIsNone(text(cleared.document, "text.main", DARK))
        self.assertEqual((cleared.changed, cleared.skipped), (1, ("text.muted",)))

    def test_a_mode_is_copied_and_opacity_wrapped(self):
        done = mapping.copy_mode(
            self.resolver, ["text.main", "text.muted"], "appearance", "dark", "light", (0, 0)
        )
        self.assertEqual(text(done.document, "text.main"), "{sea.2}")
        wrapped = mapping.wrap_opacity(self.built, self.cells("text.muted", "gap"), 50)
        self.assertEqual(wrapped.skipped, ("gap",))
        self.assertEqual(Resolver(wrapped.document).resolve("text.muted", (0, 0)).hex[-2:], "80")
        with self.assertRaisesMessage(EditError, "1 to 99 percent"):
            mapping.wrap_opacity(self.built, self.cells("gap"), 0)

    def test_one_wrong_value_leaves_everything_as_it_was(self):
        with self.assertRaisesMessage(PrismError, "gap"):
            mapping.put(self.built, self.cells("text.muted", "gap"), "#ffffff")

    def test_tokens_are_grouped_renamed_ordered_described_and_deleted(self):
        built = bulk.replace_in_paths(
            self.built, ["text.main", "text.muted"], "text", "ink"
        ).document
        self.assertIsNotNone(built.token_at("ink.muted"))
        built = bulk.move_to_group(built, ["text.main"], "words.big").document
        self.assertEqual(built.token("text.main").path, "words.big.main")
        built = bulk.reorder_after(built, ["text.main"], "text.loose").document
        order = [one.key for one in built.tokens]
        self.assertEqual(order.index("text.main"), order.index("text.loose") + 1)
        built = bulk.mark(built, ["text.main"], private=True, uses="board, ticket").document
        self.assertEqual(built.token("text.main").uses, ("board", "ticket"))
        built = bulk.delete(built, ["text.loose", "gap"]).document
        self.assertIsNone(built.token("gap"))
        for act, sentence in (
            (lambda: bulk.replace_in_paths(built, ["text.main"], "zzz", ""), "None of the paths"),
            (lambda: bulk.reorder_after(built, ["text.main"], "no"), "There is no token"),
            (lambda: bulk.mark(built, ["no"], private=True), "no longer there"),
        ):
            with self.assertRaisesMessage(EditError, sentence):
                act()


class FillTests(SimpleTestCase):
    def setUp(self):
        self.built, _ = small()
        self.resolver = Resolver(self.built)

    def cells(self, *keys):
        return mapping.places(self.resolver, keys, "appearance", ("light", "dark"), (0, 0))

    def test_each_column_is_filled_from_its_first_row(self):
        built = mapping.put(self.built, self.cells("text.main")[:1], "sea.3").document
        self.resolver = Resolver(built)
        dark = text(built, "text.main", DARK)
        done = mapping.fill(built, self.cells("text.main", "text.muted"))
        self.assertEqual(text(done.document, "text.muted"), "{sea.3}")
        self.assertEqual(text(done.document, "text.muted", DARK), dark)

    def test_along_the_ramp_until_its_end(self):
        last = len(self.built.ramps[0].steps)
        name = self.built.ramps[0].name
        built = mapping.put(self.built, self.cells("text.main")[:1], f"{name}.{last - 1}").document
        self.resolver = Resolver(built)
        cells = mapping.places(self.resolver, ["text.main", "text.muted"], "", (), (0, 0))
        done = mapping.fill(built, cells, 1)
        self.assertEqual(text(done.document, "text.muted"), f"{{{name}.{last}}}")
        self.resolver = Resolver(done.document)
        cells = mapping.places(self.resolver, ["text.muted", "text.main"], "", (), (0, 0))
        beyond = mapping.fill(done.document, cells, 1)
        self.assertEqual((beyond.changed, beyond.skipped), (0, ("text.main",)))

    def test_one_row_alone_is_said(self):
        with self.assertRaisesMessage(EditError, "nothing below the first row"):
            mapping.fill(self.built, self.cells("text.main"))


class PasteTests(SimpleTestCase):
    def setUp(self):
        self.built, _ = small()
        self.resolver = Resolver(self.built)

    def rows(self, *keys, modes=("light", "dark")):
        return [mapping.places(self.resolver, [key], "appearance", modes, (0, 0)) for key in keys]

    def test_a_range_lands_cell_by_cell_and_one_value_fills_all(self):
        rows = self.rows("text.main", "text.muted")
        done = paste.onto(self.built, rows, "{sea.9}\tsea.3\n\tsand.4\n")
        self.assertEqual(
            [text(done.document, "text.main"), text(done.document, "text.main", DARK)],
            ["{sea.9}", "{sea.3}"],
        )
        self.assertEqual(text(done.document, "text.muted"), "{sea.8}")
        self.assertEqual(text(done.document, "text.muted", DARK), "{sand.4}")
        self.assertEqual(done.skipped, ())
        filled = paste.onto(self.built, rows, "sea.1").document
        self.assertEqual(text(filled, "text.muted", DARK), "{sea.1}")

    def test_what_lies_beyond_the_last_row_or_column_is_said(self):
        rows = self.rows("text.main")
        done = paste.onto(self.built, rows, "sea.1\tsea.2\tsea.3\nsea.4\n\nsea.5\n")
        self.assertEqual(text(done.document, "text.main", DARK), "{sea.2}")
        self.assertEqual(
            done.skipped_words,
            "Skipped: 2 rows beyond the last, 1 column beyond the last.",
        )

    def test_declarations_and_tables_find_their_tokens_by_name(self):
        for pasted in (
            "--text-main: var(--sea-4); --text-muted: #222; --nobody: #333;",
            "text.main\t{sea.4}\ntext.muted\t#222\nnobody\t#333",
        ):
            found = paste.named(self.built, pasted)
            cells = {(row[0].token.key, ""): row[0] for row in self.rows("text.main", "text.muted")}
            done = paste.by_name(self.built, cells, found)
            self.assertEqual(text(done.document, "text.main"), "{sea.4}")
            self.assertEqual(text(done.document, "text.muted"), "#222")
            self.assertEqual(done.skipped[-1].removeprefix("--"), "nobody")
        self.assertIsNone(paste.named(self.built, "sea.1\tsea.2\nsea.3"))

    def test_too_much_and_nothing_is_said(self):
        with self.assertRaisesMessage(EditError, "Nothing that was pasted"):
            paste.onto(self.built, self.rows("text.main"), "\n")
        with self.assertRaisesMessage(EditError, "cells are pasted at once"):
            paste.grid("x\n" * 30_000)


class NamingTests(SimpleTestCase):
    scheme = Scheme(
        "s", "s", (("area", ("text", "surface")), ("state", ("-", "hover")), ("n", ("1", "2")))
    )

    def test_names_are_every_word_with_every_word_in_order(self):
        self.assertEqual(
            naming.paths(self.scheme),
            ("text.1", "text.2", "text.hover.1", "text.hover.2",
             "surface.1", "surface.2", "surface.hover.1", "surface.hover.2"),
        )  # fmt: skip

    def test_struck_names_are_not_made_and_first_values_are_guessed(self):
        built = naming.add(
            Document(name="x", axes=(DAY,)),
            self.scheme,
            {"text.1", "surface.hover.2"},
            counter_keys(),
        )
        semantic = [one.path for one in built.tokens if one.tier == "semantic"]
        self.assertEqual(semantic, ["text.1", "surface.hover.2"])
        resolver = Resolver(built)
        for path in semantic:
            values = {resolver.resolve(built.token_at(path).key, (mode,)).hex for mode in (0, 1)}
            self.assertEqual(len(values), 2, path)

    def test_every_starting_scheme_makes_all_its_names(self):
        for scheme in naming.STARTING:
            paths = naming.paths(scheme)
            built = naming.add(Document(name="x"), scheme, set(paths), counter_keys())
            self.assertTrue(all(built.token_at(path) for path in paths))
            self.assertEqual([name for name in naming.names(built, scheme) if not name.there], [])

    def test_bad_schemes_are_said(self):
        for name, lines, sentence in (
            ("", [("a", "b")], "needs a name"),
            ("x", [("", "")], "at least one part"),
            ("x", [("a", "b"), ("", "c")], "Part 2: These words need a name"),
            ("x", [("a", "b"), ("c", ", ")], "Part 2: This part has no words."),
            ("x", [("a" * 201, "b")], "Part 1: The name has more than 200 characters."),
            ("x", [("a", "{b}")], "cannot be a path"),
            ("x", [(str(i), "a b c d e f g") for i in range(5)], "at most 2000"),
        ):
            with self.assertRaisesMessage(EditError, sentence):
                naming.read(name, lines, "k")
        with self.assertRaisesMessage(EditError, "None of the selected names is new"):
            naming.add(Document(name="x"), self.scheme, set(), counter_keys())


class GroupRenameTests(SimpleTestCase):
    def test_thirty_tokens_and_all_that_hangs_on_them(self):
        inside = [token(f"old name.{i}", f"#0000{i:02x}", key=f"o{i}") for i in range(30)]
        users = [
            token(
                f"use.{i}",
                f"{{old name.{i}}}",
                ({"appearance": "dark"}, f"rgb(from {{old name.{i}}} r g b / 50%)"),
            )
            for i in range(30)
        ]
        built = document(
            *inside,
            *users,
            pairings=(Pairing("p", "o3", ("o4",)),),
            scenes=(Scene("s", "board", bindings=(("ink", "o5"),)),),
        )
        after = structure.rename_group(built, "old name", "new.name")
        before_answers, resolver = Resolver(built), Resolver(after)
        for one in built.tokens:
            for theme in resolver.themes():
                self.assertEqual(
                    before_answers.resolve(one.key, theme), resolver.resolve(one.key, theme)
                )
        self.assertEqual(after.pairings, built.pairings)
        self.assertEqual(after.scenes, built.scenes)
        self.assertEqual(text(after, "use.7"), "{new.name.7}")
        self.assertEqual([t.key for t in after.tokens], [t.key for t in built.tokens])
        self.assertEqual(css.write(after), css.write(built).replace("--old-name-", "--new-name-"))
        self.assertEqual(apply(after, inverse(diff(built, after))), built)

    def test_an_expression_keeps_everything_else_as_it_was_written(self):
        built = document(token("a.b", "#111"), token("c", "color-mix(in oklab,  {a.b} 30%, white)"))
        after = structure.rename_group(built, "a", "z")
        self.assertEqual(
            after.token("c").value(), Expression("color-mix(in oklab,  {z.b} 30%, white)")
        )


def inks(*others):
    """A ramp of five greys, and other tokens."""
    steps = [token(f"ink.{i}", f"#{i}{i}{i}{i}{i}{i}", tier="raw") for i in range(1, 6)]
    ramp = Ramp("ink", "ink", tuple(step.key for step in steps))
    return replace(document(*steps, *others, axes=()), ramps=(ramp,))


class AmongCellsTests(SimpleTestCase):
    def test_an_opacity_for_the_colors_among_the_cells(self):
        built = document(token("gap", "4px", type="dimension"), token("a", "#111111"), axes=())
        done = SetOpacity(Cells(("gap", "a")), 50).outcome(built)
        self.assertEqual((done.changed, done.skipped), (1, ("gap",)))
        self.assertIn("calc(alpha * 0.5)", done.document.token("a").value().text)

    def test_each_reference_that_stands_on_a_ramp_is_turned(self):
        mixed = token("mixed", "color-mix(in oklab, {lone}, {ink.2})")
        built = inks(token("lone", "#abcdef"), mixed)
        done = ShiftCells(Cells(("mixed",)), 1).apply(built)
        self.assertEqual(done.token("mixed").value().text, "color-mix(in oklab, {lone}, {ink.3})")
