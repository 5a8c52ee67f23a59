"""What a proposed mode can be asked to be: dimmer, lower in contrast, in other hues, with other measures."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from demo import quillhaven
from prism.color import space
from prism.color.contrast import lightness
from prism.coverage import additions
from prism.errors import EditError
from prism.model.document import Mode
from prism.model.values import BASE, Condition, Expression
from prism.modes.review import Asked, review
from prism.modes.source import Start
from prism.modes.starting_rows import hues_of
from prism.palette.course import oklch
from prism.resolution.resolver import Resolver
from prism.solver import Watch
from tests import roles, tried
from tests.builders import axis, document

NEW = Mode("new", "new")


def light(resolver, key, theme):
    """The L* of a token."""
    return float(lightness(space.rgba(resolver.resolve(key, theme).color)[:3]))


class DemoTests(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.whole = quillhaven.document()
        cls.ramps = {ramp.name: ramp.key for ramp in cls.whole.ramps}

    def made(self, axis, source, intent, **asked):
        made = review(self.whole, Asked(axis, source, NEW, intent=intent, **asked), Watch(0.6))
        return made, Resolver(made.document)

    def test_a_dim_mode_is_dark_and_softer_than_the_dark_one(self):
        for source in ("light", "dark"):
            made, after = self.made("appearance", source, "dim")
            self.assertEqual(made.short, ())
            dim, dark = (after.theme({"appearance": mode}) for mode in ("new", "dark"))
            page = light(after, "surface.page", dim)
            self.assertTrue(8 < page < 35, page)
            self.assertGreaterEqual(page, light(after, "surface.page", dark))
            self.assertLessEqual(light(after, "text.main", dim), light(after, "text.main", dark))
            rising = [
                light(after, f"surface.{name}", dim)
                for name in ("card", "raised", "floating", "modal")
            ]
            self.assertEqual(rising, sorted(rising))

    def test_less_contrast_draws_texts_and_lines_nearer_and_still_passes(self):
        for source in ("light", "dark"):
            made, after = self.made("appearance", source, "lower")
            self.assertEqual(made.short, ())
            now, then = (after.theme({"appearance": mode}) for mode in (source, "new"))
            for key in ("text.main", "line.soft"):
                gaps = [
                    abs(light(after, key, theme) - light(after, "surface.page", theme))
                    for theme in (now, then)
                ]
                self.assertLess(gaps[1], gaps[0])

    def test_other_hues_take_the_same_steps_of_another_ramp(self):
        hues = ((self.ramps["spruce"], self.ramps["coral"]),)
        made, after = self.made("brand", "tarnmoor", "hues", hues=hues)
        self.assertEqual(made.short, ())
        there = after.theme({"brand": "new"})
        was = Resolver(self.whole).default_theme
        before = Resolver(self.whole)
        coral = oklch(after.resolve("coral.8", there).color)[2]
        fill = oklch(after.resolve("action.fill", there).color)
        self.assertAlmostEqual(fill[2], coral, delta=4)
        self.assertAlmostEqual(
            fill[0], oklch(before.resolve("action.fill", was).color)[0], delta=0.06
        )
        self.assertIn("spruce becomes coral", {row.words for row in made.rows})
        start = Start(self.whole, "brand", "tarnmoor", "new")
        names = [ramp.name for ramp in hues_of(start)]
        self.assertIn("spruce", names)
        self.assertNotIn("heather", names)
        for theme in list(before.themes())[::37]:
            here = after.theme(before.picks(theme))
            for token in self.whole.tokens:
                self.assertEqual(before.resolve(token.key, theme), after.resolve(token.key, here))

    def test_no_hue_chosen_changes_none_and_a_ramp_that_is_gone_is_said(self):
        made, _ = self.made("brand", "tarnmoor", "hues")
        self.assertEqual([row for row in made.rows if row.reason == "other hue"], [])
        with self.assertRaisesMessage(EditError, "One of the ramps is no longer there."):
            self.made("brand", "tarnmoor", "hues", hues=(("gone", self.ramps["coral"]),))

    def test_measures_are_multiplied_to_whole_pixels_and_no_color_moves(self):
        made, after = self.made("density", "roomy", "scaled", factor=0.75)
        self.assertEqual({row.reason for row in made.rows}, {"scaled"})
        self.assertEqual({row.token.type for row in made.rows}, {"dimension"})
        before = Resolver(self.whole)
        now, then = before.default_theme, after.theme({"density": "new"})
        for row in made.rows:
            was, will = (
                float(r.resolve(row.token.key, t).css.removesuffix("px"))
                for r, t in ((before, now), (after, then))
            )
            self.assertAlmostEqual(will, was * 0.75, delta=0.51)
            self.assertEqual(will, int(will))
        for wrong in (0.0, 5.0, float("nan")):
            with self.assertRaisesMessage(EditError, "from 0.25 to 4"):
                self.made("density", "roomy", "scaled", factor=wrong)


class EarlierAxisTests(SimpleTestCase):
    """A mode of a later axis leaves what modes of earlier axes hold, unless it is moved there too."""

    def test_values_of_earlier_axes_hold_in_the_new_mode(self):
        whole = quillhaven.document()
        token = whole.token_at("text.link")
        there = Condition.of({"brand": "osprelle"})
        values = (*token.values, (there, Expression("{coral.8}")))
        whole = replace(
            whole,
            tokens=tuple(replace(t, values=values) if t is token else t for t in whole.tokens),
        )
        asked = Asked("contrast", "standard", NEW, intent="lower", solves=False)
        made = review(whole, asked)
        after = Resolver(made.document)
        for row in made.rows:
            if row.token.value(there) is not None:
                held = dict(row.others)[Condition.of({"brand": "osprelle", "contrast": "new"})]
                self.assertEqual(held, row.token.value(there))
        picks = {"brand": "osprelle", "contrast": "new"}
        self.assertEqual(
            after.resolve("text.link", after.theme(picks)).hex,
            after.resolve("coral.8", after.default_theme).hex,
        )

    @tried(30)
    @given(
        st.integers(0, 10**6), st.sampled_from(["dim", "lower", "quieter", "scaled", "counterpart"])
    )
    def test_no_intent_changes_a_theme_that_was_there(self, seed, intent):
        built = roles.random_document(seed)
        if not built.axes:
            return
        axis = built.axes[-1]
        asked = Asked(axis.key, axis.default, NEW, intent=intent, solves=False, factor=2.0)
        made = review(built, asked)
        before, after = Resolver(built), Resolver(made.document)
        for theme in list(before.themes())[:16]:
            there = after.theme(before.picks(theme))
            for token in built.tokens:
                self.assertEqual(before.resolve(token.key, theme), after.resolve(token.key, there))
        self.assertEqual(
            [row for row in made.rows if row.token.value(BASE) is None and row.now is None], []
        )


class DarkByNameTests(SimpleTestCase):
    def test_modes_are_dark_by_their_name_where_nothing_else_says_so(self):
        look = axis("look", "day", "night", "noche", "tide")
        night = [dict(at.picks)["look"] for at in additions.dark_conditions(document(axes=(look,)))]
        self.assertEqual(night, ["night", "noche"])
        told = replace(look.modes[3], color_scheme="dark")
        look = replace(look, modes=(*look.modes[:3], told))
        night = [dict(at.picks)["look"] for at in additions.dark_conditions(document(axes=(look,)))]
        self.assertEqual(night, ["night", "noche", "tide"])
