"""A document whose colors are solved: what is moved and why, and what cannot be met."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from prism.changes.values import set_values
from prism.model.document import Document, Pairing
from prism.model.values import Value
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.contrast import Reading, audit
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Theme
from prism.solver import cpsat, explanation
from prism.solver.cpsat import Watch
from prism.solver.demands import Asked, Demands
from prism.solver.explanation import Contradiction
from prism.solver.places import Place, Places
from prism.solver.problem import Problem, bundled
from prism.solver.view import View, Wanted

#: What it costs where a pairing stays below what it must reach, as it can only where all cannot be met.
_SHORT = 1_000_000
#: Colors computed from others are taken as they are, and looked at again at most so many times.
_ROUNDS = 4


@dataclass(frozen=True, slots=True)
class Move:
    """A value that was moved: where, before and after, and why."""

    place: Place
    before: Value
    after: Value
    why: str


@dataclass(frozen=True, slots=True)
class Short:
    """A pairing that stays below what it must reach, with its reading."""

    pairing: Pairing
    reading: Reading


@dataclass(frozen=True, slots=True)
class Solved:
    """The document with what was moved.

    ``short`` are the readings that still fall short, and ``contradictions`` say why. ``cost`` is how far
    everything was moved, in tenths of L*, ``bound`` the least that could be, and ``proven`` whether
    nothing is nearer.
    """

    document: Document
    moves: tuple[Move, ...] = ()
    short: tuple[Short, ...] = ()
    contradictions: tuple[Contradiction, ...] = ()
    cost: int = 0
    bound: int = 0
    proven: bool = True


def solve(document: Document, wanted: Wanted, watch: Watch | None = None) -> Solved:
    """The values nearest to those of a document with which every pairing passes.

    Where that cannot be, as many as possible do, none falls short that did not, and the contradictions
    are named. ``watch`` says how long to look.
    """
    watch = watch or Watch()
    settled = _Settled(document, wanted)
    for number in range(_ROUNDS):
        again = settled.round(watch, first=number == 0)
        if not again or watch.stopped():
            break
    return settled.solved()


def restored(
    document: Document,
    wanted: Wanted,
    moves: Sequence[Move],
    contradictions: Sequence[Contradiction],
    *,
    proven: bool,
) -> Solved:
    """What ``solve`` gave for the same document, from what was kept of it."""
    values = [(move.place.token, move.place.condition, move.after) for move in moves]
    after = set_values(document, values)
    short = tuple(falling_short(after, wanted))
    return Solved(after, tuple(moves), short, tuple(contradictions), proven=proven)


class _Settled:
    """What is settled so far."""

    def __init__(self, document: Document, wanted: Wanted) -> None:
        self.wanted = wanted
        self.document = document
        self.moves: dict[Place, Move] = {}
        self.contradictions: tuple[Contradiction, ...] = ()
        self.cost = self.bound = 0
        self.proven = True
        #: What is paid for demands that are not met, which another round cannot fix.
        self._unmet = 0

    def round(self, watch: Watch, *, first: bool) -> bool:
        """Solve once; whether it has to be looked at again, as something was moved."""
        view = View(self.document, self.wanted)
        problem = view.problem
        zeros = (0,) * len(problem.costs)
        now = problem.cost(zeros)
        if now is not None and now <= self._unmet:
            return False
        solution, bundles = _together(problem, view.demands.equals(), watch)
        if solution is None:
            if first:
                self.contradictions = tuple(explanation.contradictions(view, watch))
            solution = _as_many(problem.softened(zeros, _SHORT), bundles, watch)
        if solution is None or solution.choice == zeros:
            return False
        self._take(view, solution)
        return view.places.computes

    def _take(self, view: View, solution: cpsat.Solution) -> None:
        after = set_values(self.document, view.settings(solution.choice))
        moved = [
            (slot, slot.values[taken])
            for slot, taken in zip(view.places.slots, solution.choice, strict=True)
            if taken
        ]
        reasons = explanation.reasons(view, after, [slot for slot, _ in moved])
        for slot, value in moved:
            before = self.moves.get(slot.place)
            self.moves[slot.place] = Move(
                slot.place, before.before if before else slot.values[0], value, reasons[slot.place]
            )
        self.document = after
        self.cost += solution.cost
        self.bound += solution.bound
        self.proven = self.proven and solution.proven
        moved_by = zip(view.problem.costs, solution.choice, strict=True)
        self._unmet = solution.cost - sum(costs[taken] for costs, taken in moved_by)

    def solved(self) -> Solved:
        short = tuple(falling_short(self.document, self.wanted))
        return Solved(
            self.document,
            tuple(self.moves.values()),
            short,
            self.contradictions,
            self.cost,
            self.bound,
            self.proven,
        )


def _together(
    problem: Problem, bundles: list[list[int]], watch: Watch
) -> tuple[cpsat.Solution | None, list[list[int]]]:
    """The solution in which as many bundles of slots stay together as can, and these; None where there is
    none even without them."""
    while True:
        solution = _bundled(problem, bundles, watch)
        if solution is not None or not bundles:
            return solution, bundles
        small = bundled(problem, bundles)
        core = set(cpsat.contradiction(small.problem))
        tied = {
            slot for d in problem.demands if d.group in core and not d.weight for slot in d.slots
        }
        left = [bundle for bundle in bundles if not tied & set(bundle)]
        if len(left) == len(bundles):
            return None, bundles
        bundles = left


def _bundled(problem: Problem, bundles: list[list[int]], watch: Watch) -> cpsat.Solution | None:
    plain = [d if d.weight else replace(d, group=-1) for d in problem.demands]
    small = bundled(Problem(problem.costs, tuple(plain)), bundles)
    solution = cpsat.solve(small.problem, watch, hint=(0,) * len(small.problem.costs))
    return solution and replace(solution, choice=small.whole(solution.choice))


def _as_many(problem: Problem, bundles: list[list[int]], watch: Watch) -> cpsat.Solution | None:
    """The solution in which as little as can be is not met, and of what is met then the nearest."""
    counted = Problem(tuple((0,) * len(costs) for costs in problem.costs), problem.demands)
    first = _bundled(counted, bundles, watch)
    if first is None:
        return None
    met = tuple(
        replace(demand, weight=0) for demand in problem.demands if any(demand.met_by(first.choice))
    )
    nearest = _bundled(Problem(problem.costs, met), bundles, watch)
    return replace(nearest or first, proven=False)


def falling_short(document: Document, wanted: Wanted) -> Iterator[Short]:
    """The readings that fall short, pairing by pairing, one for each pair of colors; those aside are left out."""
    resolver = resolver_of(document)
    places = Places(resolver, wanted.within, wanted.held, False)
    asked = Asked(wanted.pairs, wanted.guesses, wanted.within, wanted.like, wanted.aside)
    demands = Demands(asked, places, AnswerTables(resolver))
    together: dict[tuple[Theme, ...], list[int]] = {}
    for number, pairing in enumerate(wanted.pairs):
        themes = tuple(demands.themes([pairing.foreground, *pairing.backgrounds]))
        together.setdefault(themes, []).append(number)
    readings: dict[int, list[Reading]] = {}
    for themes, numbers in together.items():
        pairs = [wanted.pairs[number] for number in numbers]
        for place, reading in enumerate(audit(resolver, pairs, themes)):
            readings.setdefault(numbers[place // len(themes)], []).append(reading)
    for number, pairing in enumerate(wanted.pairs):
        if number in wanted.aside:
            continue
        seen = set()
        for reading in readings.get(number, ()):
            colors = (reading.foreground, reading.background)
            if reading.fails and colors not in seen:
                seen.add(colors)
                yield Short(pairing, reading)
