"""Ideas, coverage, scales and starting points: what is made can be read and holds together."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from demo import quillhaven
from prism.changes.values import set_value
from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.coverage import additions, needs
from prism.errors import PrismError
from prism.measures import scales
from prism.model.document import Axis, Document, Mode, Ramp
from prism.model.values import BASE, Expression
from prism.palette import ideas, ramp_edits
from prism.palette.ideas import Brief, Idea, NamedColor, named_color
from prism.palette.ramps import oklch
from prism.resolution.contrast import audit, summary
from prism.resolution.resolver import Resolver
from prism.sheet import grid
from studio.standins.word_ideas import THINGS, WordIdeas
from tests import tried
from tests.builders import APPEARANCE, axis, counter_keys, document, token

WORDS = "calm harbor at dusk, one warm light"
DAY = Axis("day", "day", (Mode("d", "day", "", "light"), Mode("n", "night", "", "dark")), "d")


def failing(built):
    """Pairings that fall short in some theme, in words."""
    resolver = Resolver(built)
    return [
        (summary(built, built.pairing(one.pairing)), one.theme, one.shown)
        for one in audit(resolver, built.pairings, list(resolver.themes()))
        if not one.passes
    ]


class IdeaTests(SimpleTestCase):
    source = WordIdeas()

    def test_the_same_words_give_the_same_six_sets_of_named_colors(self):
        found = self.source.ideas(Brief(WORDS))
        self.assertEqual(found, self.source.ideas(Brief(WORDS)))
        self.assertEqual(len({one.colors for one in found}), 6)
        for one in found:
            self.assertEqual([color.role for color in one.colors], list(ideas.ROLES))
            names = [color.name for color in one.colors]
            self.assertEqual(len(set(names)), len(names))
        self.assertIn("stand-in", self.source.notice)

    def test_the_light_that_was_asked_for_is_warm_in_every_set(self):
        for idea in self.source.ideas(Brief(WORDS)):
            accent = next(color for color in idea.colors if color.role == "accent")
            _, chroma, hue = oklch(accent.color)
            self.assertTrue(40 < hue < 110 and chroma > 0.08, (hue, chroma))
            self.assertEqual(accent.name, "light")

    def test_held_colors_are_in_every_set_and_everything_else_moves_around_them(self):
        held = NamedColor("main", "spruce", space.parse("#236b53"))
        free = self.source.ideas(Brief(WORDS))
        for one, other in zip(self.source.ideas(Brief(WORDS, (held,))), free, strict=True):
            self.assertIn(held, one.colors)
            self.assertNotEqual(one.colors, other.colors)

    def test_more_like_one_gives_near_ones(self):
        parent = self.source.ideas(Brief(WORDS))[2]
        for idea in self.source.ideas(Brief(WORDS, like=parent.key)):
            self.assertNotEqual(idea.colors, parent.colors)
            for was, now in zip(parent.colors, idea.colors, strict=True):
                pair = [lab(space.rgba(color.color)[:3]) for color in (was, now)]
                self.assertLess(float(delta_e_2000(*pair)), 25, (was, now))

    @tried(60)
    @given(st.text(min_size=1, max_size=60), st.lists(st.integers(0, 5), max_size=5))
    def test_any_words_give_six_sets_within_srgb(self, words, path):
        if not words.strip():
            return
        for idea in self.source.ideas(Brief(words, like="-".join(map(str, path)))):
            self.assertEqual(len(idea.colors), 5)
            self.assertTrue(all(space.in_gamut(color.color, "srgb") for color in idea.colors))

    def test_bad_briefs_are_refused_in_words(self):
        for brief, sentence in (
            (Brief("  "), "There are no words."),
            (Brief("x" * 300), "At most 200 characters"),
            (Brief("x", like="9"), "cannot be found again"),
            (Brief("x", like="-".join("0" * 40)), "cannot be found again"),
        ):
            with self.assertRaisesMessage(PrismError, sentence):
                self.source.ideas(brief)

    def test_every_thing_known_has_a_color_that_can_be(self):
        for name, (hue, chroma, lightness) in THINGS.items():
            self.assertTrue(0 <= hue < 360 and 0 <= chroma <= 0.25 and 0 < lightness < 1, name)

    def test_taking_one_puts_its_ramps_where_the_old_ones_stood(self):
        built = quillhaven.document()
        idea = self.source.ideas(Brief(WORDS))[0]
        plan = ideas.plan(built, idea)
        self.assertEqual((plan["main"], plan["neutral"], plan["accent"]), ("spruce", "ink", "lamp"))
        after = ideas.take(built, idea, plan, counter_keys())
        resolver = Resolver(after)
        hops = resolver.trace("action.fill", resolver.default_theme)
        made = {ramp.name: ramp for ramp in after.ramps}
        main = next(color.name for color in idea.colors if color.role == "main")
        self.assertIn(hops[-1].token, made[main].steps)
        self.assertEqual(made[main].purpose, "identity")
        self.assertIn("spruce", made)
        with self.assertRaisesMessage(PrismError, "Every color is left out."):
            ideas.take(built, idea, dict.fromkeys(ideas.ROLES, ideas.LEAVE), counter_keys())
        self.assertEqual([one.name for one in ideas.present(built)], ["ink", "spruce", "lamp"])


class CoverageTests(SimpleTestCase):
    def filled(self, built):
        """The document with every gap filled, one after the other."""
        keys = counter_keys("made")
        for _ in range(40):
            gaps = needs.look(built).gaps
            if not gaps:
                return built
            built = additions.fill(built, gaps[0].id, keys)
        self.fail([gap.name for gap in needs.look(built).gaps])

    def test_everything_is_made_from_nothing_and_can_be_read_in_every_mode(self):
        for axes in ((), (DAY,), (DAY, axis("brand", "a", "b"))):
            built = self.filled(Document(name="Empty", axes=axes))
            self.assertEqual(failing(built), [])
            self.assertGreaterEqual(len(built.pairings), 9)

    def test_everything_is_added_at_once(self):
        filled, count = additions.fill_all(Document(name="Empty", axes=(DAY,)), counter_keys())
        self.assertEqual((needs.look(filled).gaps, failing(filled)), ((), []))
        self.assertGreaterEqual(count, 12)
        with self.assertRaisesMessage(PrismError, "Nothing of what is missing can be made"):
            additions.fill_all(filled, counter_keys("more"))

    def test_what_is_there_is_used(self):
        built = self.filled(quillhaven.document())
        self.assertEqual(len(built.ramps), len(quillhaven.document().ramps))
        bare = document(
            token("ink.1", "#fafafa", tier="raw"), token("surface.page", "{ink.1}"), axes=(DAY,)
        )
        names = {gap.id for gap in needs.look(bare).gaps}
        self.assertNotIn("page", names)
        self.assertIn("text", names)

    def test_a_token_that_lacks_a_mode_is_a_gap_there_and_is_completed(self):
        built = document(
            token("white", "#fff", tier="raw"),
            token("surface.page", ({"appearance": "light"}, "{white}")),
            axes=(APPEARANCE,),
        )
        gap = needs.look(built).gaps[0]
        self.assertEqual((gap.id, gap.where), ("page", "dark"))
        after = additions.fill(built, gap.id, counter_keys())
        self.assertEqual(Resolver(after).resolve("surface.page", (1,)).hex, "#ffffff")
        with self.assertRaisesMessage(PrismError, "Nothing by that name is missing."):
            additions.fill(built, "nothing", counter_keys())


class MeasureTests(SimpleTestCase):
    def test_every_scale_follows_its_base_and_factor(self):
        built, keys = Document(name="x"), counter_keys()
        for kind in scales.KINDS:
            built = scales.add_scale(
                built, kind, kind.group, kind.base, kind.factor, kind.values, keys
            )
        self.assertTrue(all(scales.is_measure(one) for one in built.tokens))

        def comes_to(path):
            return Resolver(built).resolve(built.token_at(path).key, ()).css

        self.assertEqual((comes_to("space.6"), comes_to("size.4")), ("24px", "20px"))
        self.assertEqual(comes_to("shadow.2").split(" rgb")[0], "0px 3.6px 10.8px 0px")
        self.assertEqual(comes_to("duration.1"), "80ms")
        for path, text in (("space.base", "5px"), ("size.factor", "1.5"), ("shadow.base", "4px")):
            built = set_value(built, built.token_at(path).key, BASE, Expression(text))
        self.assertEqual((comes_to("space.6"), comes_to("size.4")), ("30px", "24px"))
        self.assertEqual(comes_to("shadow.2").split(" rgb")[0], "0px 7.2px 21.6px 0px")
        blocks = grid.blocks(Resolver(built), None, (), built.tokens)
        self.assertEqual([block.name for block in blocks], [kind.group for kind in scales.KINDS])
        self.assertEqual(blocks[0].lines[0].cells[0].length, 5)

    def test_bad_scales_are_refused_in_words(self):
        space_kind = scales.kind_of("space")
        for base, values, sentence in (
            ("4px", "", "1 to 24 values"),
            ("4px", "x", "“x” is not a number."),
            ("red", "1", "red"),
            ("4px", " ".join("1" * 30), "not 30"),
        ):
            with self.assertRaisesMessage(PrismError, sentence):
                scales.add_scale(
                    Document(name="x"), space_kind, "space", base, "", values, counter_keys()
                )
        with self.assertRaisesMessage(PrismError, "whole numbers"):
            size = scales.kind_of("size")
            scales.add_scale(Document(name="x"), size, "s", "1px", "2", "0.5", counter_keys())

    def test_copy_stands_by_the_axis_it_differs_on(self):
        language = axis("language", "english", "portuguese")
        built = document(
            token("title", "Tickets", ({"language": "portuguese"}, "Bilhetes"), type="string"),
            token("close", "Close", type="string"),
            axes=(APPEARANCE, language),
        )
        self.assertEqual(scales.usual_axis(built, "texts"), language)
        lines = grid.lines(Resolver(built), language, (0, 0), built.tokens)
        self.assertEqual(
            [[(cell.text, cell.inherited) for cell in line.cells] for line in lines],
            [[("Tickets", False), ("Bilhetes", False)], [("Close", False), ("Close", True)]],
        )


def inks(*others):
    """A ramp of five greys, and other tokens."""
    steps = [token(f"ink.{i}", f"#{i}{i}{i}{i}{i}{i}", tier="raw") for i in range(1, 6)]
    ramp = Ramp("ink", "ink", tuple(step.key for step in steps))
    return replace(document(*steps, *others, axes=()), ramps=(ramp,))


class LeftOutTests(SimpleTestCase):
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

    def test_the_nearest_step_in_lightness(self):
        built = inks(token("lone", "#313131", tier="raw"))
        self.assertEqual(ramp_edits.nearest(built, "lone", ["ink.1", "ink.3", "ink.5"]), "ink.3")
