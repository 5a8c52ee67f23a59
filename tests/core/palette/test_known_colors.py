"""Curves and points of ramps, colors that are there already, and those that could stand in for others."""

from dataclasses import replace

from django.test import SimpleTestCase

from prism.model.document import Ramp
from prism.palette import plot, ramp_edits, sections
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from tests.builders import APPEARANCE, counter_keys, document, token


def inks(*others):
    """A ramp of five greys, and other tokens."""
    steps = [token(f"ink.{i}", f"#{i}{i}{i}{i}{i}{i}", tier="raw") for i in range(1, 6)]
    ramp = Ramp("ink", "ink", tuple(step.key for step in steps))
    return replace(document(*steps, *others, axes=()), ramps=(ramp,))


class RampViewTests(SimpleTestCase):
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


class KnownColorTests(SimpleTestCase):
    def test_the_same_color_in_another_notation_is_one(self):
        built = document(token("sea", "oklch(0.5 0.08 230)", tier="raw"))
        same, known = ramp_edits.raw_color(built, "oklch(50% 0.08 230)", "new", counter_keys())
        self.assertIs(same, built)
        self.assertEqual(known.path, "sea")
        wide = document(token("p3", "color(display-p3 0 1 0)", tier="raw"), gamut="display-p3")
        same, known = ramp_edits.raw_color(wide, "color(display-p3 0 1 0)", "new", counter_keys())
        self.assertEqual((same, known.path), (wide, "p3"))

    def test_translucent_and_missing_steps_have_no_point(self):
        built = document(
            token("r.1", "#eeeeff", tier="raw"),
            token("r.2", "#22448880", tier="raw"),
            token("r.3", ({"appearance": "dark"}, "#224488"), tier="raw"),
            axes=(APPEARANCE,),
        )
        ramp = Ramp("r", "r", ("r.1", "r.2", "r.3"))
        shown = plot.plot(resolver_of(built), (0,), ramp)
        self.assertEqual([point.key for point in shown.points], ["r.1"])
        left, top, width, height = map(float, shown.view_box.split())
        self.assertEqual((left, top), (-8, -14))
        self.assertEqual((width, height), (shown.width + 16, shown.height + 32))
