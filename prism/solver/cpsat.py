"""Problems solved exactly, by OR-Tools CP-SAT.

One worker, a fixed seed and a limit in deterministic time: the same problem gives the same answer on any
machine. Of candidates at the same cost the first one is taken.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterable
from dataclasses import dataclass
from types import ModuleType
from typing import TYPE_CHECKING, Any

import numpy as np

from prism.solver.problem import Demand, Problem, Table

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

#: A literal of CP-SAT, or its negation.
_Literal = Any

#: Costs are multiplied by this, so that ties are decided by the order of candidates.
_SCALE = 256
#: Deterministic seconds for a whole problem, and for one question about a contradiction; a clock ends that only where a
#: machine is busy beyond measure, so that all give the same answer.
LIMIT, ASKING, _ASKED = 3.0, 0.5, 30.0


@dataclass(frozen=True, slots=True)
class Solution:
    """The candidate that each slot takes, what that costs, the least that anything could cost, and
    whether this is proven to be it."""

    choice: tuple[int, ...]
    cost: int
    bound: int
    proven: bool


@dataclass(frozen=True, slots=True)
class Watch:
    """How long to look, in deterministic seconds, and at most in ``seconds`` of a clock, where somebody
    waits.

    ``stopped`` says whether somebody asked to stop, ``progress`` is told of each better answer with its cost
    and the least there could be, ``phase`` of what is looked at, and ``searching`` is handed what ends a
    search from another thread, and None when the search is over.
    """

    limit: float = LIMIT
    seconds: float = 600.0
    stopped: Callable[[], bool] = lambda: False
    progress: Callable[[int, int], None] = lambda cost, bound: None
    phase: Callable[[str], None] = lambda words: None
    searching: Callable[[Callable[[], None] | None], None] = lambda stop: None


def solve(
    problem: Problem, watch: Watch | None = None, hint: Collection[int] = ()
) -> Solution | None:
    """The cheapest choice that is allowed, or the cheapest found where the limit is reached; None where
    nothing is allowed, or nothing was found in time. ``hint`` is a choice to begin with."""
    watch = watch or Watch()
    model = _Model(problem)
    for slot, taken in enumerate(hint):
        for number, literal in enumerate(model.takes[slot]):
            model.model.add_hint(literal, number == taken)
    solver = _solver(watch.limit, watch.seconds)
    watch.searching(solver.stop_search)
    try:
        status = solver.solve(model.model, _listener(watch))
    finally:
        watch.searching(None)
    engine = load()
    if status not in (engine.OPTIMAL, engine.FEASIBLE):
        return None
    choice = tuple(
        next(place for place, literal in enumerate(literals) if solver.boolean_value(literal))
        for literals in model.takes
    )
    cost = problem.cost(choice)
    assert cost is not None
    bound = int(-(-solver.best_objective_bound // _SCALE))
    proven = status == engine.OPTIMAL
    return Solution(choice, cost, cost if proven else min(max(bound, 0), cost), proven)


def is_impossible(problem: Problem, limit: float = ASKING) -> bool:
    """Whether it is proven that no choice is allowed."""
    model = _Model(problem, with_costs=False)
    return bool(_solver(limit, _ASKED).solve(model.model) == load().INFEASIBLE)


def contradiction(problem: Problem) -> tuple[int, ...]:
    """Groups whose demands contradict one another: together they allow nothing, and without any one of
    them something. Empty where that cannot be proven."""
    model = _Model(problem, with_costs=False, guarded=True)
    solver = _solver(ASKING, _ASKED)
    if solver.solve(model.model) != load().INFEASIBLE:
        return ()
    named = set(solver.sufficient_assumptions_for_infeasibility())
    core = [group for group, guard in model.guards.items() if guard.index in named]
    core = core or list(model.guards)
    for group in list(core):
        rest = [other for other in core if other != group]
        if is_impossible(_only(problem, rest)):
            core = rest
    return tuple(core) if is_impossible(_only(problem, core)) else ()


def _only(problem: Problem, groups: Iterable[int]) -> Problem:
    """The problem with what these groups demand alone, and what holds whatever is asked for."""
    kept = {*groups, -1}
    demands = [demand for demand in problem.demands if not demand.weight and demand.group in kept]
    return Problem(problem.costs, tuple(demands))


def load() -> ModuleType:
    """The solver's module, loaded when something is solved: that takes half a second."""
    from ortools.sat.python import cp_model

    return cp_model


def _solver(limit: float, seconds: float = 600.0) -> cp_model.CpSolver:
    solver: cp_model.CpSolver = load().CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 0
    solver.parameters.linearization_level = 2
    solver.parameters.max_deterministic_time = limit
    solver.parameters.max_time_in_seconds = seconds
    return solver


def _listener(watch: Watch) -> Any:
    """What tells of each better answer, and ends the search where somebody asked to stop."""

    class Listener(load().CpSolverSolutionCallback):  # type: ignore[misc]
        def on_solution_callback(self) -> None:
            cost, bound = self.objective_value, self.best_objective_bound
            watch.progress(int(cost // _SCALE), int(bound // _SCALE))
            if watch.stopped():
                self.stop_search()

    return Listener()


class _Model:
    """A problem as a model of CP-SAT: a literal for each candidate of each slot."""

    def __init__(self, problem: Problem, *, with_costs: bool = True, guarded: bool = False) -> None:
        self.model: cp_model.CpModel = load().CpModel()
        self.takes = [[self.model.new_bool_var("") for _ in costs] for costs in problem.costs]
        #: A literal for each group whose demands hold while it does.
        self.guards: dict[int, cp_model.IntVar] = {}
        self._guarded = guarded
        self._ways: dict[int, list[cp_model.IntVar]] = {}
        self._paid: list[tuple[int, _Literal]] = []
        for literals in self.takes:
            self.model.add_exactly_one(literals)
        for demand in problem.demands:
            self._demand(demand)
        if self.guards:
            self.model.add_assumptions(list(self.guards.values()))
        if with_costs:
            total: Any = sum(
                (cost * _SCALE + min(place, _SCALE - 1)) * literal
                for costs, literals in zip(problem.costs, self.takes, strict=True)
                for place, (cost, literal) in enumerate(zip(costs, literals, strict=True))
            ) + sum(weight * _SCALE * literal for weight, literal in self._paid)
            self.model.minimize(total)

    def _demand(self, demand: Demand) -> None:
        holding: list[_Literal] = []
        if demand.weight:
            met = self.model.new_bool_var("")
            self._paid.append((demand.weight, met.negated()))
            holding.append(met)
        elif self._guarded and demand.group >= 0:
            guard = self.guards.get(demand.group)
            if guard is None:
                guard = self.guards[demand.group] = self.model.new_bool_var("")
            holding.append(guard)
        if len(demand.tables) == 1:
            self._allow(demand.slots, demand.tables[0], holding)
            return
        for way, table in zip(self._ways_of(demand), demand.tables, strict=True):
            self._allow(demand.slots, table, [*holding, way])

    def _ways_of(self, demand: Demand) -> list[cp_model.IntVar]:
        """A literal for each alternative, shared in a family."""
        key = demand.family if demand.family >= 0 else ~len(self._ways)
        if key not in self._ways:
            ways = [self.model.new_bool_var("") for _ in demand.tables]
            self.model.add_exactly_one(ways)
            self._ways[key] = ways
        return self._ways[key]

    def _allow(self, slots: tuple[int, ...], table: Table, holding: list[_Literal]) -> None:
        """Allow what a table allows, while all of ``holding`` hold."""
        unless = [literal.negated() for literal in holding]
        first, rest = self.takes[slots[0]], slots[1:]
        if not rest:
            for literal, allowed in zip(first, table, strict=True):
                if not allowed:
                    self.model.add_bool_or([*unless, literal.negated()])
            return
        if len(rest) == 1:
            self._allow_two(first, self.takes[rest[0]], table, unless)
            return
        for place, below in enumerate(table):
            if not below.all():
                self._allow(rest, below, [*holding, first[place]])

    def _allow_two(
        self,
        first: list[cp_model.IntVar],
        second: list[cp_model.IntVar],
        table: Table,
        unless: list[_Literal],
    ) -> None:
        for ones, others, rows in ((first, second, table), (second, first, table.T)):
            for place, allowed in enumerate(rows):
                if not allowed.all():
                    fits = [others[i] for i in np.flatnonzero(allowed)]
                    self.model.add_bool_or([*unless, ones[place].negated(), *fits])
