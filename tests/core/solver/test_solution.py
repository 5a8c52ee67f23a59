"""Colors solved exactly: against brute force, on the demo, and on documents of foreign kind."""

import itertools
import random
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism import solver
from prism.model.document import Document, Mode, Pairing
from prism.modes import proposal
from prism.modes.review import Asked, review
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.roles.guess import guess
from prism.solver import Wanted, Watch, cpsat
from prism.solver.problem import Demand, Problem, bundled, merged
from tests import by_turns, roles, tried
from tests.builders import axis, document, token

NIGHT = Mode("night", "night", color_scheme="dark")


def random_problem(seed):
    """A few slots of a few candidates with demands of all kinds."""
    rng = random.Random(seed)
    sizes = [rng.randint(2, 5) for _ in range(rng.randint(2, 4))]
    costs = tuple((0, *(rng.randint(0, 9) for _ in range(size - 1))) for size in sizes)
    demands = []
    for group in range(rng.randint(2, 8)):
        slots = tuple(rng.sample(range(len(sizes)), rng.randint(1, min(3, len(sizes)))))
        shape = [sizes[slot] for slot in slots]
        ways = rng.choice((1, 1, 1, 2))
        share = rng.choice((0.3, 0.5, 0.7))
        tables = tuple(
            np.array([rng.random() < share for _ in range(int(np.prod(shape)))]).reshape(shape)
            for _ in range(ways)
        )
        family = rng.randint(0, 1) if ways == 2 else -1
        demands.append(Demand(slots, tables, rng.choice((0, 0, 3)), group, family))
    return Problem(costs, tuple(demands))


def choices(problem):
    return itertools.product(*(range(len(costs)) for costs in problem.costs))


def cheapest(problem):
    """By brute force; None where nothing is allowed."""
    costs = [problem.cost(choice) for choice in choices(problem)]
    return min((cost for cost in costs if cost is not None), default=None)


class ExactTests(SimpleTestCase):
    def test_nothing_is_cheaper(self):
        impossible = 0
        for seed in range(200):
            problem = random_problem(seed)
            solution = cpsat.solve(replace(problem, demands=merged(problem.demands)))
            best = cheapest(problem)
            with self.subTest(seed):
                if best is None:
                    self.assertIsNone(solution)
                    impossible += 1
                else:
                    self.assertEqual((solution.cost, solution.proven), (best, True))
                    self.assertEqual(problem.cost(solution.choice), best)
        self.assertGreater(impossible, 15)

    def test_a_contradiction_is_true_and_irreducible(self):
        found = 0
        for seed in range(200):
            problem = random_problem(seed)
            if cheapest(problem) is not None:
                continue
            hard = [demand for demand in problem.demands if not demand.weight]

            def possible(groups, problem=problem, hard=hard):
                kept = tuple(demand for demand in hard if demand.group in groups)
                return cheapest(Problem(problem.costs, kept)) is not None

            core = cpsat.contradiction(problem)
            with self.subTest(seed):
                self.assertFalse(possible(core))
                for group in core:
                    self.assertTrue(possible(set(core) - {group}))
                found += 1
        self.assertGreater(found, 15)

    def test_the_same_problem_has_the_same_answer(self):
        for seed in range(20):
            problem = random_problem(seed)
            self.assertEqual(cpsat.solve(problem), cpsat.solve(problem))

    def test_of_equal_candidates_the_first_one_is_taken(self):
        problem = Problem(((0, 5, 5, 5),), (Demand((0,), (np.array([False, True, True, True]),)),))
        self.assertEqual(cpsat.solve(problem).choice, (1,))

    def test_bundled_slots_take_the_same(self):
        for seed in range(100):
            problem = random_problem(seed)
            sizes = [len(costs) for costs in problem.costs]
            pair = next(
                (
                    [a, b]
                    for a, b in itertools.combinations(range(len(sizes)), 2)
                    if sizes[a] == sizes[b]
                ),
                None,
            )
            if pair is None:
                continue
            small = bundled(problem, [pair])
            alike = [c for c in choices(problem) if c[pair[0]] == c[pair[1]]]
            costs = [problem.cost(choice) for choice in alike]
            best = min((cost for cost in costs if cost is not None), default=None)
            solution = cpsat.solve(small.problem)
            with self.subTest(seed):
                self.assertEqual(solution.cost if solution else None, best)
                if solution:
                    whole = small.whole(solution.choice)
                    self.assertEqual(whole[pair[0]], whole[pair[1]])
                    self.assertEqual(problem.cost(whole), best)

    def test_looking_ends_where_somebody_stops_it(self):
        told = []
        watch = Watch(stopped=lambda: True, progress=lambda cost, bound: told.append(cost))
        solution = cpsat.solve(random_problem(3), watch)
        self.assertEqual(len(told), 1)
        self.assertIsNotNone(solution)


class ForeignTests(SimpleTestCase):
    def test_every_rule_passes_in_documents_of_foreign_kind(self):
        for name in by_turns(roles.names(*roles.LARGE), 3):
            built = roles.read(name).document
            if built.axes:
                start, source = built.axes[0].key, built.axes[0].default
            else:
                built, start, source = proposal.with_appearance(built, "k")
            scheme = "light" if name == "spanish" else "dark"
            new = Mode("new", "new", color_scheme=scheme)
            made = review(built, Asked(start, source, new), Watch(0.4))
            with self.subTest(name):
                # What its style sheet shows may ask for more than one color gives: that is named as short, no more.
                shown = {pairing.key for pairing in built.pairings}
                falling = {s.pairing.foreground for s in made.short if s.pairing.key not in shown}
                self.assertLessEqual(falling, roles.see_through(made.document))
                if all(short.pairing.key not in shown for short in made.short):
                    self.assertEqual(bool(falling), bool(made.contradictions))

    @tried(40)
    @given(st.integers(0, 10**6))
    def test_nothing_falls_short_that_did_not(self, seed):
        built = roles.random_document(seed)
        start = proposal.with_appearance(built, "k") if not built.axes else None
        document, own, source = start or (built, built.axes[0].key, built.axes[0].default)
        plain = review(document, Asked(own, source, NIGHT, solves=False))
        made = review(document, Asked(own, source, NIGHT), Watch(0.4))
        pairs = [pairing for pairing in made.pairs if pairing.required]
        before, after = Resolver(plain.document), Resolver(made.document)
        themes = [t for t in before.themes() if before.picks(t)[own] == "night"][:12]
        was, now = audit(before, pairs, themes), audit(after, pairs, themes)
        self.assertEqual(
            [one for one, then in zip(was, now, strict=True) if then.fails and not one.fails], []
        )
        resolver = Resolver(document)
        for theme in list(resolver.themes())[:12]:
            there = after.theme(resolver.picks(theme))
            for one in document.tokens:
                self.assertEqual(resolver.resolve(one.key, theme), after.resolve(one.key, there))


class ContradictionTests(SimpleTestCase):
    def greys(self, *texts):
        return [token(f"grey.{i}", text, tier="raw") for i, text in enumerate(texts, 1)]

    def solved(self, built, pairs, **wanted):
        guesses = guess(built, Resolver(built))
        return solver.solve(built, Wanted(pairs, guesses, **wanted))

    def test_a_palette_without_a_step_is_told_what_is_missing(self):
        built = document(
            *self.greys("#ffffff", "#aaaaaa", "#999999"),
            token("text.hint", "{grey.2}"),
            token("surface.card", "{grey.1}"),
        )
        pair = Pairing("p", "text.hint", ("surface.card",), "text", 4.5)
        made = self.solved(built, [pair], held=frozenset({"surface.card"}))
        (short,) = made.short
        self.assertEqual(short.reading.shown, "2.32")
        (contradiction,) = made.contradictions
        self.assertEqual(contradiction.pairings, (pair,))
        self.assertEqual(
            contradiction.free,
            (
                "another value for surface.card, which you decided",
                "a new color between the steps for text.hint",
                "text.hint on surface.card at 2.84 instead of 4.5",
            ),
        )
        freed = self.solved(built, [pair], held=frozenset({"surface.card"}), new_colors=True)
        self.assertEqual((freed.short, freed.contradictions), ((), ()))

    def test_an_overlay_takes_another_opacity_where_new_colors_may_be_made(self):
        built = document(
            *self.greys("#ffffff", "#111111"),
            token("veil.60", "#00000099", tier="raw"),
            token("text.main", "{grey.2}"),
            token("surface.card", "{grey.1}"),
            token("veil.hover", "{veil.60}"),
        )
        pair = Pairing("p", "text.main", ("veil.hover", "surface.card"), "text", 4.5)
        held = frozenset({"text.main", "surface.card"})
        self.assertTrue(self.solved(built, [pair], held=held).short)
        made = self.solved(built, [pair], held=held, new_colors=True)
        self.assertEqual(made.short, ())
        (move,) = made.moves
        color = Resolver(made.document).resolve("veil.hover", ()).color
        self.assertEqual(move.place.token, "veil.hover")
        self.assertTrue(0 < color.alpha < 0.6, color)

    def test_a_label_that_must_read_on_light_and_dark(self):
        built = document(
            *self.greys("#ffffff", "#808080", "#000000"),
            token("label", "{grey.2}"),
            token("day", "{grey.1}"),
            token("night", "{grey.3}"),
        )
        pairs = [
            Pairing("d", "label", ("day",), "text", 4.5),
            Pairing("n", "label", ("night",), "text", 4.5),
        ]
        made = self.solved(built, pairs, held=frozenset({"day", "night"}))
        self.assertEqual([one.pairings for one in made.contradictions], [tuple(pairs)])
        self.assertEqual(len(made.short), 1)

    def test_one_value_a_brand_where_brands_have_their_own(self):
        built = document(
            *self.greys("#ffffff", "#bbbbbb", "#777777", "#555555", "#111111"),
            token("text.main", "{grey.3}", ({"brand": "b"}, "{grey.2}")),
            token("page", "{grey.1}"),
            axes=(axis("brand", "a", "b"),),
        )
        pair = Pairing("p", "text.main", ("page",), "text", 4.5)
        made = self.solved(built, [pair], held=frozenset({"page"}))
        moved = {move.place.condition.picks: move.after.text for move in made.moves}
        self.assertEqual(moved, {(): "{grey.4}", (("brand", "b"),): "{grey.4}"})
        self.assertIn("so that text.main on page reads", made.moves[0].why)

    def test_nothing_to_judge_is_nothing_to_move(self):
        built = Document(tokens=(token("text.main", "#111111"),))
        made = self.solved(built, [])
        self.assertEqual((made.document, made.moves, made.proven), (built, (), True))
