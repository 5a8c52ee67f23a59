"""What lets a surface lift off the one below it: held by the check of elevation, run afresh."""

import random

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism import checks
from prism.analysis import Analysis
from prism.elevation.commands import LiftSurface
from prism.elevation.fixes import liftings
from prism.elevation.view import lifts, stands
from prism.errors import EditError
from prism.model.document import Pairing
from prism.resolution.current import resolver_of
from prism.roles.guess import guess
from prism.sheet.token_commands import DeleteTokens
from prism.solver import levels as solver_levels
from tests import tried
from tests.builders import axis, counter_keys, document, token

LOOK = axis("look", "day", "night")
GREYS = ("#ffffff", "#e8e8e8", "#c8c8c8", "#909090", "#4c4c4c", "#303030", "#1c1c1c", "#101010")


def steps():
    return [token(f"ink.{i}", grey, tier="raw") for i, grey in enumerate(GREYS, 1)]


def levels(*pairs):
    """Surfaces from the page up, each with its steps by day and by night."""
    names = ("page", "card", "raised", "floating")
    return [
        token(f"surface.{name}", f"{{ink.{day}}}", ({"look": "night"}, f"{{ink.{night}}}"))
        for name, (day, night) in zip(names, pairs, strict=False)
    ]


def built(*tokens, **more):
    return document(*steps(), *tokens, axes=(LOOK,), **more)


def kinds(made, under="surface.page", over="surface.card"):
    return {one.kind: one for one in liftings(made, under, over, counter_keys())}


def found(made):
    return {one.tokens for one in checks.run(Analysis(made), "elevation")}


class LiftingTests(SimpleTestCase):
    def test_the_nearest_step_at_night_alone(self):
        one = kinds(built(*levels((2, 8), (1, 8))))["step"]
        self.assertEqual(one.words, "surface.card to ink.7 for look night")
        self.assertEqual(found(one.document), set())

    def test_what_is_darker_above_gets_lighter_and_no_line_is_offered(self):
        made = built(*levels((2, 6), (1, 8)), token("line.soft", "{ink.4}"))
        offered = kinds(made)
        self.assertNotIn("line", offered)
        self.assertEqual(offered["step"].words, "surface.card to ink.5 for look night")

    def test_a_color_between_two_steps(self):
        one = kinds(built(*levels((2, 8), (1, 8))))["between"]
        self.assertEqual(
            one.words, "surface.card to color-mix(in oklab, {ink.7} 50%, {ink.8}) for look night"
        )
        self.assertEqual(found(one.document), set())

    def test_a_line_of_its_own_parts_them_at_night_and_it_alone(self):
        line = token("line.soft", "{ink.3}", ({"look": "night"}, "{ink.5}"))
        made = built(*levels((2, 8), (1, 8), (1, 8)), line)
        one = kinds(made)["line"]
        added = one.document.token_at("line.card")
        self.assertEqual((added.role, added.belongs_to), ("line", "surface.card"))
        self.assertEqual(
            found(made), {("surface.card", "surface.page"), ("surface.raised", "surface.card")}
        )
        self.assertEqual(found(one.document), {("surface.raised", "surface.card")})

    def test_a_line_that_cannot_be_seen_there_is_not_offered(self):
        line = token("line.soft", "{ink.3}", ({"look": "night"}, "#111111"))
        self.assertNotIn("line", kinds(built(*levels((2, 8), (1, 8)), line)))

    def test_a_shadow_by_day_where_the_document_has_none(self):
        one = kinds(built(*levels((1, 8), (1, 7))))["shadow"]
        added = one.document.token_at("shadow.card")
        self.assertEqual((added.type, added.belongs_to), ("shadow", "surface.card"))
        self.assertEqual(found(one.document), set())
        self.assertNotIn("shadow", kinds(built(*levels((2, 8), (1, 8)))), "none shows at night")

    def test_no_step_that_lets_a_text_fall_short(self):
        text = token("text.main", "{ink.4}")
        pairing = Pairing("p", "text.main", ("surface.card",), "text", 4.5)
        made = built(*levels((2, 8), (8, 8)), text, pairings=(pairing,))
        before = Analysis(made).failing.keys()
        for one in kinds(made).values():
            self.assertEqual(Analysis(one.document).failing.keys(), before, one.words)

    def test_what_is_shown_is_what_is_stored(self):
        made = built(
            *levels((2, 8), (1, 8)), token("line.soft", "{ink.3}", ({"look": "night"}, "{ink.5}"))
        )
        analysis = Analysis(made)
        now = stands(analysis, "surface.page", "surface.card")
        self.assertEqual(
            [(stand.fails, stand.words) for stand in now], [(True, "night"), (False, "day")]
        )
        for lift in lifts(analysis, "surface.page", "surface.card"):
            command = LiftSurface("k", "surface.card", "surface.page", lift.kind, lift.words)
            after = Analysis(command.apply(made))
            self.assertEqual(stands(after, "surface.page", "surface.card"), list(lift.stands))
            self.assertFalse(any(stand.fails for stand in lift.stands))
            other = LiftSurface("k", "surface.card", "surface.page", lift.kind, "something else")
            with self.assertRaisesMessage(EditError, "The fix is another by now"):
                other.apply(made)

    def test_what_is_gone_or_cannot_be_is_said(self):
        made = built(*levels((2, 8), (1, 8)))
        gone = DeleteTokens(("surface.card",)).apply(made)
        for at, kind, sentence in (
            (gone, "step", "That surface is no longer there."),
            (made, "line", "No line that is there lifts surface.card off surface.page"),
            (made, "wings", "Nothing of this kind lifts"),
        ):
            with self.assertRaisesMessage(EditError, sentence):
                LiftSurface("k", "surface.card", "surface.page", kind).apply(at)

    @tried(60)
    @given(st.integers(0, 10**6))
    def test_whatever_is_offered_ends_the_finding_and_makes_no_other(self, seed):
        rng = random.Random(seed)
        surfaces = levels(*((rng.randint(1, 4), rng.randint(5, 8)) for _ in range(4)))
        lines = [token("line.soft", f"{{ink.{rng.randint(1, 8)}}}")] if rng.random() < 0.7 else []
        text = token("text.main", f"{{ink.{rng.randint(5, 8)}}}", ({"look": "night"}, "{ink.2}"))
        pairs = tuple(Pairing(s.key, "text.main", (s.key,), "text", 4.5) for s in surfaces)
        made = built(*surfaces, *lines, text, pairings=pairs)
        was, short = found(made), Analysis(made).failing.keys()
        for over, under in was:
            for one in liftings(made, under, over, counter_keys()):
                with self.subTest(seed=seed, kind=one.kind, words=one.words):
                    self.assertLessEqual(found(one.document), was - {(over, under)})
                    self.assertLessEqual(Analysis(one.document).failing.keys(), short)


class NoLevelTests(SimpleTestCase):
    def surfaces(self, *values):
        """Surfaces on these values, beside a ladder of five steps, and the roles of all."""
        steps = [token(f"ink.{n}", f"#{n}{n}{n}", tier="raw") for n in range(2, 7)]
        built = document(
            *steps,
            token("white", "#ffffff", tier="raw"),
            token("fig", "{ink.2}"),
            *(token(f"surface.{place}", value) for place, value in enumerate(values)),
        )
        resolver = resolver_of(built)
        return solver_levels.find(resolver, resolver.default_theme, guess(built, resolver))

    def test_surfaces_that_let_through_stand_on_no_level(self):
        found = self.surfaces("{ink.3}", "{ink.4}", "rgb(from {ink.5} r g b / 50%)")
        self.assertEqual(set(found.ranks), {"surface.0", "surface.1"})

    def test_surfaces_that_follow_another_stand_on_no_level(self):
        found = self.surfaces("{ink.3}", "{ink.4}", "{fig}")
        self.assertEqual(set(found.ranks), {"surface.0", "surface.1"})
