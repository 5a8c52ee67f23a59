"""What is skipped, missing or out of place does not end what follows it, nor change it."""

from dataclasses import replace

from django.test import SimpleTestCase

from prism import edits
from prism.analysis import Analysis
from prism.changes.merging import merge_tokens
from prism.changes.structure import remove_tokens
from prism.color import notation, space
from prism.commands.project import RenameProject
from prism.compare.diff import diff
from prism.compare.match import describe
from prism.coverage import additions
from prism.errors import EditError
from prism.expressions import typed_input
from prism.expressions.values import encode
from prism.measures.commands import AddMeasure
from prism.model.document import Pairing, Ramp, Scene
from prism.model.values import Expression, Listing
from prism.palette import building, ideas, plot, sections
from prism.palette.ideas import Idea, named_color
from prism.resolution.resolver import Resolver
from prism.sheet import grid, rays
from prism.sheet.cell_commands import Cells, SetOpacity, ShiftCells
from prism.sheet.completion import complete
from prism.sheet.token_commands import DescribeToken, MarkTokens
from tests.builders import axis, counter_keys, document, token


def inks(*others):
    """A ramp of five greys, and other tokens."""
    steps = [token(f"ink.{i}", f"#{i}{i}{i}{i}{i}{i}", tier="raw") for i in range(1, 6)]
    ramp = Ramp("ink", "ink", tuple(step.key for step in steps))
    return replace(document(*steps, *others, axes=()), ramps=(ramp,))


class EditTests(SimpleTestCase):
    def test_a_token_that_refers_to_what_it_is_to_be_merged_with(self):
        built = document(token("a", "{b}"), token("b", "#111111"), axes=())
        with self.assertRaisesMessage(EditError, "a itself refers to {b}."):
            merge_tokens(built, "a", "b")

    def test_modes_are_dark_by_their_name_where_nothing_else_says_so(self):
        look = axis("look", "day", "night", "noche", "tide")
        night = [dict(at.picks)["look"] for at in additions.dark_conditions(document(axes=(look,)))]
        self.assertEqual(night, ["night", "noche"])
        told = replace(look.modes[3], color_scheme="dark")
        look = replace(look, modes=(*look.modes[:3], told))
        night = [dict(at.picks)["look"] for at in additions.dark_conditions(document(axes=(look,)))]
        self.assertEqual(night, ["night", "noche", "tide"])

    def test_one_unknown_token_refuses_all(self):
        built = document(token("a", "#111111"), token("b", "#222222"), axes=())
        with self.assertRaisesMessage(EditError, "That token is no longer there."):
            remove_tokens(built, ["a", "gone"])

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

    def test_a_color_of_an_idea_that_is_left_out_first(self):
        built = inks()
        colors = (
            named_color("neutral", "slate", "#445566"),
            named_color("main", "dusk", "#884422"),
        )
        made = ideas.take(
            built, Idea("i", "t", colors), {"neutral": "leave", "main": "new"}, counter_keys("n")
        )
        self.assertEqual([ramp.name for ramp in made.ramps], ["ink", "dusk"])

    def test_a_color_of_an_idea_has_as_many_steps_as_the_ramp_it_stands_in_for(self):
        idea = Idea("i", "t", (named_color("main", "dusk", "#884422"),))
        made = ideas.take(inks(), idea, {"main": "ink"}, counter_keys("n"))
        self.assertEqual([len(ramp.steps) for ramp in made.ramps], [5, 5])

    def test_a_measure_comes_behind_the_other_measures(self):
        raw = (
            token("gap.1", "4px", type="dimension", tier="raw"),
            token("late", "#111", tier="raw"),
        )
        built = AddMeasure("k", "gap.2", "dimension", "8px").apply(document(*raw, axes=()))
        self.assertEqual([one.path for one in built.tokens], ["gap.1", "gap.2", "late"])
        only = AddMeasure("k", "gap.2", "dimension", "8px").apply(
            document(raw[1], token("s", "#222"), axes=())
        )
        self.assertEqual([one.path for one in only.tokens], ["late", "gap.2", "s"])

    def test_what_a_description_does_not_say_stays_at_its_default(self):
        built = document(token("a", "#111111"), axes=())
        told = DescribeToken("a", "a", "words").apply(built).token("a")
        self.assertEqual((told.private, told.description, told.deprecated), (False, "words", None))

    def test_sentences_of_roles(self):
        built = document(token("a", "#111111"), axes=())
        said = [MarkTokens(("a",), role=role).sentence(built) for role in (" text ", "")]
        self.assertEqual(
            said,
            ["Set the role of 1 token to text", "Set the role of 1 token to what is guessed"],
        )

    def test_written_commands_and_values_keep_their_letters(self):
        self.assertIn("Größe", edits.written(RenameProject("Größe")))
        self.assertIn("Größe", encode(Listing((Expression("Größe"),))))

    def test_what_looks_like_parts_and_is_none_is_kept_as_text(self):
        built = document(token("a", "#111111"), axes=())
        for text in ("[1, 2", '{"a" 1}', "[]]"):
            self.assertEqual(typed_input.read_typed(built, text, built.tokens[0]).text, text)


class OperationTests(SimpleTestCase):
    def test_a_binding_of_a_token_that_goes_too(self):
        one = replace(token("night.sky", "#111111"), key="k7")
        scene = Scene("s", "Board", "", (("page", "k7"),))
        before = replace(document(one, axes=()), scenes=(scene,))
        after = replace(document(axes=()), scenes=(replace(scene, bindings=()),))
        for was, now in ((before, after), (after, before)):
            told = [describe(one, was, now) for one in diff(was, now) if one.kind == "binding"]
            self.assertEqual(len(told), 1)
            self.assertIn("night.sky", told[0])

    def test_a_value_that_goes_with_its_token(self):
        before = document(token("night.sky", "#111111"), axes=())
        told = [describe(one, before, document(axes=())) for one in diff(before, document(axes=()))]
        self.assertTrue(any("night.sky" in words for words in told), told)


class ViewTests(SimpleTestCase):
    def test_a_pairing_that_cannot_be_read_leaves_the_next_one(self):
        built = replace(
            document(token("text", "#767676"), token("none"), token("page", "#ffffff"), axes=()),
            pairings=(Pairing("p", "text", ("none",)), Pairing("q", "text", ("page",))),
        )
        found = Resolver(built)
        (line,) = grid.lines(found, None, (), [built.token("text")])
        self.assertEqual(line.cells[0].worst.shown, "4.54")  # WCAG 2.2: #767676 on white

    def test_a_ramp_that_shows_through_has_no_curve_and_ends_none(self):
        clear = [token(f"clear.{i}", f"#11223{i}80", tier="raw") for i in range(1, 6)]
        built = inks(*clear)
        ramps = (Ramp("clear", "clear", tuple(c.key for c in clear)), *built.ramps)
        built = replace(built, ramps=ramps)
        found = plot.curves(Resolver(built), (), built.ramps[1])
        self.assertEqual([curve.name for curve in found], ["ink"])

    def test_other_colors_that_can_stand_in_for_a_step(self):
        built = inks(token("lone", "#abcdef", tier="raw"))
        offered = [one.path for one in sections.step_options(Resolver(built), "ink.2", ())]
        self.assertEqual(offered, ["ink.1", "ink.3", "ink.4", "ink.5", "lone"])

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

    def test_the_nearest_step_in_lightness(self):
        built = inks(token("lone", "#313131", tier="raw"))
        self.assertEqual(building.nearest(built, "lone", ["ink.1", "ink.3", "ink.5"]), "ink.3")

    def test_an_opaque_color_is_written_without_its_alpha(self):
        for kind in ("rgb", "hsl", "oklch", "p3"):
            self.assertNotIn("/", notation.write(space.parse("#336699"), kind))
            self.assertIn(" / 0.5", notation.write(space.parse("rgb(51 102 153 / .5)"), kind))

    def test_colors_are_written_in_hex_where_hex_holds_them(self):
        self.assertEqual(space.css_text(space.parse("rgb(51 102 153 / 0.2)")), "#33669933")
        self.assertEqual(space.css_text(space.parse("#336699")), "#336699")
        self.assertIn("/ 0.5", space.css_text(space.parse("rgb(51 102 153 / 0.5)")))

    def test_remainders_by_minus_one(self):
        # CSS Values 4, rem() and mod(): a whole number leaves nothing.
        built = document(
            token("n", "rem(5.5, -1)", type="number"),
            token("m", "mod(5, -1)", type="number"),
            axes=(),
        )
        found = Resolver(built)
        self.assertEqual([found.resolve(key, ()).value for key in "nm"], [0.5, 0])

    def test_a_numbered_chart_color_that_others_use_has_a_role(self):
        built = document(
            token("chart.1", "#336699", tier="raw"), token("trend.line", "{chart.1}"), axes=()
        )
        self.assertEqual(str(Analysis(built).roles["chart.1"].role), "chart")

    def test_an_accent_surface_is_colored_where_it_is_vivid_and_dark_enough(self):
        # OKLCH by coloraide: #b3d4ff has chroma 0.07 and 1.5 on white; #555555 has none.
        for text, role in (
            ("#b3d4ff", "surface"),
            ("#555555", "surface"),
            ("#1d4ed8", "surface colored"),
        ):
            built = document(token("page", "#ffffff"), token("accent.surface", text), axes=())
            self.assertEqual(str(Analysis(built).roles["accent.surface"].role), role, text)
