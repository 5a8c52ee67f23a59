"""What pages show, as plain values: axes, copy, heads of ramps; and small things around them."""

import json
from dataclasses import replace

from django.test import SimpleTestCase

from demo import quillhaven
from prism import edits
from prism.analysis import Analysis
from prism.errors import EditError
from prism.formats import files, resolver_writer
from prism.measures.scales import usual_axis
from prism.model.document import Pairing, Ramp
from prism.model.imported import Entry, Source
from prism.model.values import Condition
from prism.modes import axes_view as axes
from prism.palette import mapping, text_colors
from prism.palette import sections as palette
from prism.resolution.resolver import Resolver
from prism.sheet import completion, grid, rays
from prism.sheet import paste as pasting
from prism.sheet.completion import complete
from tests.builders import axis, counter_keys, document, token

WHOLE = quillhaven.document()
LANGUAGE = axis("language", "english", "portuguese")
LOOK = axis("look", "light", "dark", follows=None)


class AxisRowTests(SimpleTestCase):
    def test_each_axis_with_its_modes_values_and_preferences(self):
        rows = axes.rows(Analysis(WHOLE))
        self.assertEqual([row.axis.key for row in rows], [axis.key for axis in WHOLE.axes])
        appearance = rows[0]
        self.assertEqual([mode.mode.key for mode in appearance.modes], ["light", "dark", "dim"])
        dark = appearance.modes[1]
        self.assertEqual(dark.follows, ("prefers-color-scheme: dark",))
        own = [
            (t.key, condition)
            for t in WHOLE.tokens
            for condition, _ in t.values
            if condition.mode_on("appearance") == "dark"
        ]
        self.assertEqual(dark.values, len(own))
        varying = {
            t.key for t in WHOLE.tokens for c, _ in t.values if c.mode_on("appearance") is not None
        }
        self.assertEqual(appearance.tokens, len(varying))


class CopyTests(SimpleTestCase):
    def texts(self, *values, axes=(LOOK, LANGUAGE)):
        return document(token("copy.a", *values, type="string"), axes=axes)

    def test_the_columns_are_the_modes_by_which_texts_differ(self):
        differing = self.texts('"Day"', ({"look": "dark"}, '"Night"'))
        self.assertEqual(usual_axis(differing, "texts").key, "look")

    def test_or_those_of_the_language(self):
        same = self.texts('"Day"')
        self.assertEqual(usual_axis(same, "texts").key, "language")
        plain = self.texts('"Day"', axes=())
        self.assertIsNone(usual_axis(plain, "texts"))

    def test_measures_have_columns_of_their_own(self):
        gap = token("gap", "4px", type="dimension", tier="raw")
        built = document(gap, axes=(LOOK, axis("density", "roomy", "compact")))
        self.assertEqual(usual_axis(built, "measures").key, "density")


class HeadTests(SimpleTestCase):
    def test_heads_stand_where_two_strips_have_all_steps(self):
        resolver = Resolver(WHOLE)
        sections = palette.sections(resolver, resolver.default_theme)
        self.assertEqual(
            [head.name for head in palette.heads(sections)], [str(n) for n in range(1, 12)]
        )
        one = [replace(section, strips=section.strips[:1]) for section in sections[:1]]
        self.assertEqual(palette.heads(one), ())


class PasteTests(SimpleTestCase):
    def places(self, *keys):
        resolver = Resolver(self.document)
        return [mapping.places(resolver, [key], "", (), resolver.default_theme) for key in keys]

    def setUp(self):
        self.document = document(
            token("a", "#111"), token("b", "#222"), token("c", "#333"), axes=()
        )

    def paste(self, text, *keys):
        after = pasting.onto(self.document, self.places(*keys), text).document
        return [t.values[0][1].text for t in after.tokens]

    def test_rows_of_unequal_length(self):
        self.assertEqual(self.paste("#444\t#555\n\n#666", "a", "b", "c"), ["#444", "#222", "#666"])

    def test_fewer_rows_than_cells(self):
        self.assertEqual(self.paste("#444\n#555", "a", "b", "c"), ["#444", "#555", "#333"])

    def test_one_value_fills_all_and_empty_ones_change_nothing(self):
        self.assertEqual(self.paste("#444", "a", "b", "c"), ["#444"] * 3)
        with self.assertRaisesMessage(EditError, "Nothing that was pasted fits here."):
            self.paste("\n\n", "a", "b")


class SmallTests(SimpleTestCase):
    def test_labels_before_and_behind_colors(self):
        for text, label in (
            ("sea #123456", "sea"), ("#123456 sea", "sea"),
            ("sea #123456 fog", "sea"),
        ):  # fmt: skip
            first = text_colors.find(text)[0]
            self.assertEqual(first.name, label, text)

    def test_deprecations(self):
        for stated, expected in ((False, None), (True, ""), ("Use b.", "Use b.")):
            tree = {"a": {"$type": "color", "$value": "#fff", "$deprecated": stated}}
            read = files.read({"x.json": json.dumps(tree).encode()}, counter_keys()).document
            self.assertEqual(read.tokens[0].deprecated, expected)

    def test_numbers_of_commands(self):
        for by in ("1.5", "x", True, None):
            with self.assertRaisesMessage(EditError, "is not a whole number."):
                edits.from_fields("move-axis", {"axis": "brand", "by": by})
        self.assertEqual(edits.from_fields("move-axis", {"axis": "brand", "by": " -1 "}).by, -1)

    def test_values_on_one_axis_and_on_several_are_told_apart(self):
        built = document(
            token("a", "#111", ({"look": "dark"}, "#222"), ({"look": "dark", "language": "english"}, "#333")),
            axes=(LOOK, LANGUAGE),
        )  # fmt: skip
        remarks = resolver_writer.write(built).remarks
        self.assertEqual(
            [remark for remark in remarks if "several axes" in remark],
            ["Values on several axes stand under $extensions only: a."],
        )

    def test_removed_tokens_leave_the_entries_of_their_files(self):
        source = Source(
            "file", "a.json", (Entry("a", "", "a"), Entry("note", "{}"), Entry("b", "", "b"))
        )
        built = document(token("a", "#111"), token("b", "#222"), axes=(), sources=(source,))
        after = edits.from_fields("delete-tokens", {"tokens": ["a"]}).apply(built)
        self.assertEqual([entry.path for entry in after.sources[0].entries], ["note", "b"])

    def test_a_condition_of_letters_beyond_ascii_is_written_as_it_is(self):
        built = document(token("a", "#111", ({"l": "é"}, "#222")), axes=(axis("l", "é", "x"),))
        written, _ = files.write(built, "csv", (0,))
        self.assertIn('"{""l"": ""é""}"', next(iter(written.values())))

    def test_conditions_are_compared_in_any_order(self):
        first = Condition.of({"look": "dark", "language": "english"})
        self.assertEqual(first, Condition.of({"language": "english", "look": "dark"}))


def inks(*others):
    """A ramp of five greys, and other tokens."""
    steps = [token(f"ink.{i}", f"#{i}{i}{i}{i}{i}{i}", tier="raw") for i in range(1, 6)]
    ramp = Ramp("ink", "ink", tuple(step.key for step in steps))
    return replace(document(*steps, *others, axes=()), ramps=(ramp,))


class FoundTests(SimpleTestCase):
    def test_a_pairing_that_cannot_be_read_leaves_the_next_one(self):
        built = replace(
            document(token("text", "#767676"), token("none"), token("page", "#ffffff"), axes=()),
            pairings=(Pairing("p", "text", ("none",)), Pairing("q", "text", ("page",))),
        )
        found = Resolver(built)
        (line,) = grid.lines(found, None, (), [built.token("text")])
        self.assertEqual(line.cells[0].worst.shown, "4.54")  # WCAG 2.2: #767676 on white

    def test_an_opaque_color_finds_opaque_ones(self):
        built = inks(token("clear", "#33333380", tier="raw"), token("use", "#000000"))
        found = complete(built, "#333333", built.token("use"), resolver=Resolver(built))
        self.assertEqual(found[0].path, "ink.3")
        self.assertNotIn("clear", [option.path for option in found])
        through = complete(built, "#33333380", built.token("use"), resolver=Resolver(built))
        self.assertEqual([option.path for option in through], ["clear"])

    def test_ways_of_a_ray_that_are_not_drawn(self):
        (ray,) = rays.rays(Resolver(inks(token("a", "{ink.1}"))), "a", ())
        counts = [replace(ray, ways=ray.ways * times).not_drawn for times in (1, 4, 5, 7)]
        self.assertEqual(counts, [0, 0, 1, 3])


class OfferedFirstTests(SimpleTestCase):
    def test_what_is_used_most_is_offered_first(self):
        built = document(
            token("raw.a", "#111", tier="raw"),
            token("raw.b", "#222", tier="raw"),
            token("one", "{raw.b}"),
            token("two", "{raw.b}"),
            token("new", "#333"),
        )
        options = completion.complete(built, "", built.token("new"))
        self.assertEqual(options[0].token.key, "raw.b")
