"""A document whose colors are solved: what is moved and why, and what cannot be met."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

from prism.changes.values import set_values
from prism.color.contrast import truncate_ratio
from prism.derive.solving import cpsat
from prism.derive.solving.cpsat import Watch
from prism.derive.solving.demands import Asked, Demands
from prism.derive.solving.places import Place, Places, Slot
from prism.derive.solving.problem import Problem, bundled
from prism.model.document import Document, Pairing, shown_path
from prism.model.values import Condition, Value
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.contrast import Reading, audit, summary
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Theme
from prism.roles.grounds import Guess

#: What it costs where a pairing stays below what it must reach, as it can only where all cannot be met.
_SHORT = 1_000_000
#: Colors computed from others are taken as they are, and looked at again at most so many times.
_ROUNDS = 4
#: Contradictions named at most; of more demands than so many none are looked for.
_NAMED, _TOO_MANY = 8, 3000
#: Shares of what is required at which a lower ratio is tried. Common practice, no source.
_SHARES = (0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6)


@dataclass(frozen=True, slots=True)
class Move:
    """A value that was moved: where, before and after, and why."""

    place: Place
    before: Value
    after: Value
    why: str


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Pairings that contradict one another: together they cannot be met, and without any one of them the
    others can. ``free`` says what would free them."""

    pairings: tuple[Pairing, ...]
    free: tuple[str, ...]


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


@dataclass(frozen=True, slots=True)
class Wanted:
    """What to solve for: ``pairs`` and the roles of tokens, in themes of the modes ``within`` by axis,
    ``like`` those they are made from; ``held`` are tokens, by key, and places that stay; ``new_colors`` says whether colors
    between the steps of the palette may be made."""

    pairs: Sequence[Pairing]
    guesses: Mapping[str, Guess]
    within: Mapping[str, str] = field(default_factory=dict)
    like: Mapping[str, str] = field(default_factory=dict)
    held: frozenset[str | Place] = frozenset()
    new_colors: bool = False


def solve(document: Document, wanted: Wanted, watch: Watch | None = None) -> Solved:
    """The values nearest to those of a document with which every pairing passes.

    Where that cannot be, as many as possible do, none falls short that did not, and the contradictions
    are named. ``watch`` says how long to look.
    """
    watch = watch or Watch()
    settled = _Settled(document, wanted)
    for number in range(_ROUNDS):
        again = settled.round(watch, first=number == 0)
        if not again:
            break
    return settled.solved()


class _Settled:
    """What is settled so far."""

    def __init__(self, document: Document, wanted: Wanted) -> None:
        self.wanted = wanted
        self.started = document
        self.document = document
        self.moves: dict[Place, Move] = {}
        self.contradictions: tuple[Contradiction, ...] = ()
        self.cost = self.bound = 0
        self.proven = True
        #: What is paid for demands that are not met, which another round cannot mend.
        self._unmet = 0

    def round(self, watch: Watch, *, first: bool) -> bool:
        """Solve once; whether it has to be looked at again, as something was moved."""
        view = _View(self.document, self.wanted, {*self.moves})
        problem = view.problem
        zeros = (0,) * len(problem.costs)
        now = problem.cost(zeros)
        if now is not None and now <= self._unmet:
            return False
        solution, bundles = _together(problem, view.demands.equals(), watch)
        if solution is None:
            if first:
                self.contradictions = tuple(view.contradictions())
            solution = _as_many(problem.softened(zeros, _SHORT), bundles, watch)
        if solution is None or solution.choice == zeros:
            return False
        self._take(view, solution)
        return view.places.computes

    def _take(self, view: _View, solution: cpsat.Solution) -> None:
        after = set_values(self.document, view.settings(solution.choice))
        moved = [
            (slot, slot.values[taken])
            for slot, taken in zip(view.places.slots, solution.choice, strict=True)
            if taken
        ]
        reasons = view.reasons(after, [slot for slot, _ in moved])
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


class _View:
    """A document with its slots and demands. What was ``moved`` before may be moved again."""

    def __init__(self, document: Document, wanted: Wanted, moved: Collection[Place]) -> None:
        self.document = document
        self.wanted = wanted
        self.resolver = resolver_of(document)
        surfaces = [k for k, one in wanted.guesses.items() if one.role.kind in ("page", "surface")]
        self.places = Places(self.resolver, wanted.within, wanted.held, wanted.new_colors, surfaces)
        asked = Asked(wanted.pairs, wanted.guesses, wanted.within, wanted.like)
        self.demands = Demands(asked, self.places, AnswerTables(self.resolver))
        self.problem: Problem = self.demands.problem()

    def contradictions(self) -> Iterator[Contradiction]:
        """Sets of pairings that contradict one another, each without those named before."""
        if len(self.problem.demands) > _TOO_MANY:
            return
        left = set(range(len(self.wanted.pairs)))
        for _ in range(_NAMED):
            kept = [d for d in self.problem.demands if not d.weight and d.group in left]
            core = cpsat.contradiction(Problem(self.problem.costs, tuple(kept)))
            if not core:
                return
            pairings = tuple(self.wanted.pairs[group] for group in core)
            yield Contradiction(pairings, tuple(self._free(core)))
            left -= set(core)

    def _free(self, core: Sequence[int]) -> Iterator[str]:
        """What would free pairings that contradict one another."""
        tied = {
            s for d in self.problem.demands if d.group in core and not d.weight for s in d.slots
        }
        held = [
            shown_path(token.path)
            for slot in (self.places.slots[number] for number in sorted(tied))
            if slot.place.token in self.wanted.held or slot.place in self.wanted.held
            if (token := self.document.token(slot.place.token)) is not None
        ]
        if held:
            yield f"another value for {_listed(sorted(set(held)))}, which you decided"
        if not self.wanted.new_colors:
            alone = [self.wanted.pairs[group] for group in core]
            wider = replace(self.wanted, pairs=alone, new_colors=True)
            view = _View(self.document, wider, ())
            hard = tuple(d for d in view.problem.demands if not d.weight)
            solution = cpsat.solve(Problem(view.problem.costs, hard), Watch(cpsat.ASKING))
            if solution is not None:
                fresh = [
                    shown_path(token.path)
                    for slot, taken in zip(view.places.slots, solution.choice, strict=True)
                    if taken and not slot.keys[taken]
                    if (token := self.document.token(slot.place.token)) is not None
                ]
                if fresh:
                    yield f"a new color between the steps for {_listed(sorted(set(fresh)))}"
        for group in core:
            pairing = self.wanted.pairs[group]
            ratio = self._reachable(core, group)
            if ratio:
                words = summary(self.document, pairing)
                yield f"{words} at {truncate_ratio(ratio)} instead of {pairing.required:g}"

    def _reachable(self, core: Sequence[int], group: int) -> float:
        """The ratio that one of some pairings reaches where all others are met, nearly; 0 for none that
        is worth it."""
        own = self.wanted.pairs[group]
        others = [self.wanted.pairs[other] for other in core if other != group]
        for share in _SHARES:
            eased = replace(own, required=share * own.required)
            view = _View(self.document, replace(self.wanted, pairs=[eased, *others]), ())
            hard = tuple(d for d in view.problem.demands if not d.weight)
            solution = cpsat.solve(Problem(view.problem.costs, hard), Watch(cpsat.ASKING))
            if solution is not None and not view.demands.stuck:
                after = resolver_of(set_values(self.document, view.settings(solution.choice)))
                themes = self.demands.themes([own.foreground, *own.backgrounds])
                readings = audit(after, [own], themes)
                return min((one.ratio for one in readings if not one.missing), default=0.0)
        return 0.0

    def settings(self, choice: Sequence[int]) -> list[tuple[str, Condition, Value]]:
        """The values that a choice stores."""
        return [
            (slot.place.token, slot.place.condition, slot.values[taken])
            for slot, taken in zip(self.places.slots, choice, strict=True)
            if taken
        ]

    def reasons(self, after: Document, moved: Sequence[Slot]) -> dict[Place, str]:
        """Why each slot was moved: the pairing of its token that fell short by most, and what it reads
        now; else what it stays in step with."""
        then = resolver_of(after)
        reasons = {}
        for slot in moved:
            token = slot.place.token
            reached = {token, *self.resolver.graph.users({token})}
            worst: tuple[float, Pairing, Reading, Reading] | None = None
            for pairing in self.wanted.pairs:
                if not reached & {pairing.foreground, *pairing.backgrounds, pairing.page}:
                    continue
                themes = self.demands.themes([pairing.foreground, *pairing.backgrounds])
                was = audit(self.resolver, [pairing], themes)
                now = audit(then, [pairing], themes)
                for before, reading in zip(was, now, strict=True):
                    short = before.ratio / (before.required or 1)
                    if before.fails and (worst is None or short < worst[0]):
                        worst = short, pairing, before, reading
            reasons[slot.place] = self._reason(slot, worst)
        return reasons

    def _reason(self, slot: Slot, worst: tuple[float, Pairing, Reading, Reading] | None) -> str:
        if worst is not None:
            _, pairing, before, now = worst
            words = summary(self.document, pairing)
            return f"so that {words} reads {now.shown}, not {before.shown}"
        known = self.wanted.guesses.get(slot.place.token)
        role = known.role if known else None
        if role is not None and role.kind in ("page", "surface"):
            return "so that levels stay apart"
        if role is not None and role.state:
            return "so that its states go one way"
        return "along with what is equal to it or lies on it"


def falling_short(document: Document, wanted: Wanted) -> Iterator[Short]:
    """The readings that fall short, pairing by pairing, one for each pair of colors."""
    resolver = resolver_of(document)
    places = Places(resolver, wanted.within, wanted.held, False)
    asked = Asked(wanted.pairs, wanted.guesses, wanted.within, wanted.like)
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
        seen = set()
        for reading in readings.get(number, ()):
            colors = (reading.foreground, reading.background)
            if reading.fails and colors not in seen:
                seen.add(colors)
                yield Short(pairing, reading)


def _listed(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
