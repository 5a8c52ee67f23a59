"""A mapping to be found, as numbers alone: what each slot can take, at what cost, and what must hold."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

#: Which combinations are allowed: an axis for each slot, an entry for each of its candidates.
Table = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Demand:
    """What must hold of one slot or several together.

    ``tables`` are alternatives: one of them allows what the ``slots`` take. Demands of one ``family``
    take the same alternative, as all states of a fill get lighter or all get darker. ``weight`` is what
    it costs not to be met, 0 where it must be; ``group`` is the number of what it comes from.
    """

    slots: tuple[int, ...]
    tables: tuple[Table, ...]
    weight: int = 0
    group: int = -1
    family: int = -1

    def met_by(self, choice: Sequence[int]) -> list[bool]:
        """Whether each alternative allows a choice."""
        place = tuple(choice[slot] for slot in self.slots)
        return [bool(table[place]) for table in self.tables]


@dataclass(frozen=True, slots=True)
class Problem:
    """Slots by the costs of their candidates, whole numbers from 0, and what is demanded of them."""

    costs: tuple[tuple[int, ...], ...]
    demands: tuple[Demand, ...]

    def cost(self, choice: Sequence[int]) -> int | None:
        """What a choice of one candidate for each slot costs; None where it is not allowed."""
        total = sum(costs[taken] for costs, taken in zip(self.costs, choice, strict=True))
        families: dict[int, list[Demand]] = {}
        for place, demand in enumerate(self.demands):
            families.setdefault(demand.family if demand.family >= 0 else ~place, []).append(demand)
        for members in families.values():
            least: int | None = None
            for way in range(len(members[0].tables)):
                unmet = [demand for demand in members if not demand.met_by(choice)[way]]
                if all(demand.weight for demand in unmet):
                    paid = sum(demand.weight for demand in unmet)
                    least = paid if least is None else min(least, paid)
            if least is None:
                return None
            total += least
        return total

    def softened(self, choice: Sequence[int], weight: int) -> Problem:
        """The problem in which what a choice does not meet need not be met, at a cost."""
        return replace(
            self,
            demands=tuple(
                demand
                if demand.weight or any(demand.met_by(choice))
                else replace(demand, weight=weight)
                for demand in self.demands
            ),
        )


@dataclass(frozen=True, slots=True)
class Bundled:
    """A problem in which some slots take the same candidate; ``places`` gives the slot that stands for
    each slot of the whole one."""

    problem: Problem
    places: tuple[int, ...]

    def whole(self, choice: Sequence[int]) -> tuple[int, ...]:
        """A choice of the bundled problem as one of the whole problem."""
        return tuple(choice[place] for place in self.places)


def bundled(problem: Problem, bundles: Iterable[Sequence[int]]) -> Bundled:
    """The problem in which all slots of each bundle, which have the same candidates, take the same one."""
    first = list(range(len(problem.costs)))
    for bundle in bundles:
        for slot in bundle:
            first[slot] = bundle[0]
    kept = sorted(set(first))
    place_of = {slot: place for place, slot in enumerate(kept)}
    places = tuple(place_of[slot] for slot in first)
    costs = [[0] * len(problem.costs[slot]) for slot in kept]
    for slot, place in enumerate(places):
        for taken, cost in enumerate(problem.costs[slot]):
            costs[place][taken] += cost
    demands = []
    for demand in problem.demands:
        axes = [places[slot] for slot in demand.slots]
        slots = tuple(dict.fromkeys(axes))
        grid = np.indices([len(costs[slot]) for slot in slots])
        where = tuple(grid[slots.index(slot)] for slot in axes)
        demands.append(
            replace(demand, slots=slots, tables=tuple(table[where] for table in demand.tables))
            if len(slots) < len(axes)
            else replace(demand, slots=slots)
        )
    return Bundled(Problem(tuple(map(tuple, costs)), merged(demands)), places)


def merged(demands: Iterable[Demand]) -> tuple[Demand, ...]:
    """Demands that say the same of the same slots as one, and without those that say nothing. Those
    of different groups stay apart, and those that hold now from those that do not."""
    known: dict[tuple[object, ...], Demand] = {}
    for number, demand in enumerate(demands):
        if demand.family < 0 and demand.tables[0].all():
            continue
        if demand.family >= 0 or len(demand.tables) > 1:
            known[("own", number)] = demand
            continue
        holds = bool(demand.tables[0][(0,) * len(demand.slots)])
        key: tuple[object, ...] = (demand.slots, demand.group, demand.weight, holds)
        before = known.get(key)
        if before is not None and not demand.weight:
            demand = replace(demand, tables=(before.tables[0] & demand.tables[0],))
        elif before is not None:
            key = (*key, demand.tables[0].tobytes())
        known[key] = demand
    return tuple(known.values())
