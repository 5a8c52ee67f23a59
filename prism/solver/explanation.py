"""Why colors were moved, and what cannot pass together, in words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from prism.changes.values import set_values
from prism.color.contrast import truncate_ratio
from prism.model.document import Document, Pairing, shown_path
from prism.resolution.contrast import Reading, audit, summary
from prism.resolution.current import resolver_of
from prism.solver import cpsat
from prism.solver.cpsat import Watch
from prism.solver.places import Place, Slot
from prism.solver.problem import Problem
from prism.solver.view import View

#: Contradictions named at most; of more demands than so many none are looked for.
_NAMED, _TOO_MANY = 5, 3000
#: Lower ratios are looked for in contradictions of at most so many pairings.
_FEW = 3
#: Seconds of a clock that one such question takes at most.
_ASKED = 30.0
#: Shares of what is required at which a lower ratio is tried. Common practice, no source.
_SHARES = (0.95, 0.9, 0.85, 0.8, 0.75, 0.7, 0.65, 0.6)


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Pairings that contradict one another: together they cannot be met, and without any one of them the
    others can. ``free`` says what would free them."""

    pairings: tuple[Pairing, ...]
    free: tuple[str, ...]


def contradictions(view: View, watch: Watch | None = None) -> Iterator[Contradiction]:
    """Sets of pairings that contradict one another, each without those named before, until nobody waits
    for more."""
    watch = watch or Watch()
    if len(view.problem.demands) > _TOO_MANY:
        return
    left = set(range(len(view.wanted.pairs)))
    for _ in range(_NAMED):
        if watch.stopped():
            return
        kept = [d for d in view.problem.demands if not d.weight and d.group in {*left, -1}]
        core = cpsat.contradiction(Problem(view.problem.costs, tuple(kept)))
        if not core:
            return
        pairings = tuple(view.wanted.pairs[group] for group in core)
        yield Contradiction(pairings, tuple(_free(view, core)))
        left -= set(core)


def _free(view: View, core: Sequence[int]) -> Iterator[str]:
    """What would free pairings that contradict one another."""
    tied = {s for d in view.problem.demands if d.group in core and not d.weight for s in d.slots}
    held = [
        shown_path(token.path)
        for slot in (view.places.slots[number] for number in sorted(tied))
        if slot.place.token in view.wanted.held or slot.place in view.wanted.held
        if (token := view.document.token(slot.place.token)) is not None
    ]
    if held:
        yield f"another value for {_listed(sorted(set(held)))}, which you decided"
    if not view.wanted.new_colors:
        alone = [view.wanted.pairs[group] for group in core]
        wider = replace(view.wanted, pairs=alone, new_colors=True)
        other = View(view.document, wider)
        hard = tuple(d for d in other.problem.demands if not d.weight)
        solution = cpsat.solve(
            Problem(other.problem.costs, hard), Watch(cpsat.ASKING, seconds=_ASKED)
        )
        if solution is not None:
            fresh = [
                shown_path(token.path)
                for slot, taken in zip(other.places.slots, solution.choice, strict=True)
                if taken and not slot.keys[taken]
                if (token := view.document.token(slot.place.token)) is not None
            ]
            if fresh:
                yield f"a new color between the steps for {_listed(sorted(set(fresh)))}"
    for group in core if len(core) <= _FEW else ():
        pairing = view.wanted.pairs[group]
        ratio = _reachable(view, core, group)
        if ratio:
            words = summary(view.document, pairing)
            yield f"{words} at {truncate_ratio(ratio)} instead of {pairing.required:g}"


def _reachable(view: View, core: Sequence[int], group: int) -> float:
    """The ratio that one of some pairings reaches where all others are met, nearly; 0 for none that
    is worth it."""
    own = view.wanted.pairs[group]
    others = [view.wanted.pairs[other] for other in core if other != group]
    for share in _SHARES:
        eased = replace(own, required=share * own.required)
        eased_view = View(view.document, replace(view.wanted, pairs=[eased, *others]))
        hard = tuple(d for d in eased_view.problem.demands if not d.weight)
        solution = cpsat.solve(
            Problem(eased_view.problem.costs, hard), Watch(cpsat.ASKING, seconds=_ASKED)
        )
        if solution is not None and not eased_view.demands.stuck:
            after = resolver_of(set_values(view.document, eased_view.settings(solution.choice)))
            themes = view.demands.themes([own.foreground, *own.backgrounds])
            readings = audit(after, [own], themes)
            return min((reading.ratio for reading in readings if not reading.missing), default=0.0)
    return 0.0


def reasons(view: View, after: Document, moved: Sequence[Slot]) -> dict[Place, str]:
    """Why each slot was moved: the pairing of its token that fell short by most, and what it reads
    now; else what it stays in step with."""
    then = resolver_of(after)
    pairs = [p for place, p in enumerate(view.wanted.pairs) if place not in view.wanted.aside]
    known: dict[int, list[tuple[Reading, Reading]]] = {}

    def read(pairing: Pairing) -> list[tuple[Reading, Reading]]:
        """Its readings that fall short and are better now, with what they are."""
        if id(pairing) not in known:
            themes = view.demands.themes([pairing.foreground, *pairing.backgrounds])
            was, now = (audit(resolver, [pairing], themes) for resolver in (view.resolver, then))
            both = zip(was, now, strict=True)
            known[id(pairing)] = [
                (before, reading)
                for before, reading in both
                if before.fails and reading.ratio > before.ratio
            ]
        return known[id(pairing)]

    reasons = {}
    for slot in moved:
        token = slot.place.token
        reached = {token, *view.resolver.graph.users({token})}
        worst: tuple[float, Pairing, Reading, Reading] | None = None
        for pairing in pairs:
            if not reached & {pairing.foreground, *pairing.backgrounds, pairing.page}:
                continue
            for before, reading in read(pairing):
                short = before.ratio / (before.required or 1)
                if worst is None or short < worst[0]:
                    worst = short, pairing, before, reading
        reasons[slot.place] = _reason(view, slot, worst)
    return reasons


def _reason(view: View, slot: Slot, worst: tuple[float, Pairing, Reading, Reading] | None) -> str:
    if worst is not None:
        _, pairing, before, now = worst
        words = summary(view.document, pairing)
        return f"so that {words} reads {now.shown}, not {before.shown}"
    known = view.wanted.guesses.get(slot.place.token)
    role = known.role if known else None
    if role is not None and role.kind in ("page", "surface"):
        return "so that levels stay apart"
    if role is not None and role.state:
        return "so that its states go one way"
    return "along with what is equal to it or lies on it"


def _listed(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"
