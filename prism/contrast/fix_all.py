"""What falls short moved until it passes, in every mode: the fewest and smallest moves, mode by mode, so that what
one mode needs leaves the others as they are."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from prism import solver
from prism.changes.values import set_values
from prism.model.document import Axis, Document
from prism.model.values import Condition
from prism.resolution.current import resolver_of
from prism.solver import Contradiction, Move, Place, SearchResult, Short, Solved, Wanted, Watch


@dataclass(frozen=True, slots=True)
class Fixed:
    """The document with what was moved, what fell short before and still does, and why."""

    document: Document
    moves: tuple[Move, ...]
    before: tuple[Short, ...]
    short: tuple[Short, ...]
    contradictions: tuple[Contradiction, ...]
    proven: bool


def fix(
    document: Document,
    wanted: Wanted,
    watch: Watch | None = None,
    earlier: SearchResult | None = None,
) -> Fixed:
    """Let every pairing that is not aside pass, or as many as can, in every theme, or in those of the modes
    ``wanted.within``; ``earlier`` is what was found before for the same document."""
    before = tuple(solver.falling_short(document, wanted))
    if earlier is not None:
        solved = solver.restored(
            document, wanted, earlier.moves, earlier.contradictions, proven=earlier.proven
        )
        after, short = solved.document, solved.short
        return Fixed(after, earlier.moves, before, short, earlier.contradictions, earlier.proven)
    moves: dict[Place, Move] = {}
    contradictions: list[Contradiction] = []
    proven, changed = True, document
    watch = watch or Watch()
    modes = [wanted.within] if wanted.within else _modes(document)
    for within in modes if before or wanted.levels else ():
        if watch.stopped():
            proven = False
            break
        watch.phase(_named(document, within))
        solved = solver.solve(changed, replace(wanted, within=within), watch)
        placed = [_placed(changed, move, within) for move in solved.moves]
        changed = set_values(
            changed, [(move.place.token, move.place.condition, move.after) for move in placed]
        )
        moves |= {move.place: move for move in placed}
        contradictions += [c for c in solved.contradictions if c not in contradictions]
        proven = proven and solved.proven
    short = tuple(solver.falling_short(changed, wanted))
    return Fixed(changed, tuple(moves.values()), before, short, tuple(contradictions), proven)


def _named(document: Document, within: Mapping[str, str]) -> str:
    """The modes that are fixed, by name."""
    names = [
        mode.name
        for axis in document.axes
        for mode in axis.modes
        if within.get(axis.key) == mode.key
    ]
    return ", ".join(names)


def modes_axis(document: Document) -> Axis | None:
    """The axis of light and dark, whose modes are fixed one after the other."""
    return next(
        (axis for axis in document.axes if any(mode.color_scheme for mode in axis.modes)), None
    )


def _modes(document: Document) -> Sequence[dict[str, str]]:
    """The modes that are fixed one after the other, or one of none."""
    axis = modes_axis(document)
    return [{axis.key: mode.key} for mode in axis.modes] if axis else [{}]


def _placed(document: Document, move: Move, within: Mapping[str, str]) -> Move:
    """A move of the default mode as one of the value that holds everywhere, where no other mode takes
    that."""
    picks = dict(move.place.condition.picks)
    token = document.token(move.place.token)
    for key, mode in within.items():
        axis = document.axis(key)
        rest = Condition.of({a: m for a, m in picks.items() if a != key})
        held = token.value(rest) if token is not None else None
        named = token is not None and token.value(move.place.condition) is not None
        if axis is None or mode != axis.default or held is None or named:
            continue
        if not _is_taken_elsewhere(document, move.place.token, rest, key, mode):
            return replace(move, place=Place(move.place.token, rest))
    return move


def _is_taken_elsewhere(
    document: Document, token: str, condition: Condition, axis: str, mode: str
) -> bool:
    """Whether the value under a condition is the one of a token in another mode of an axis."""
    resolver = resolver_of(document)
    owner = document.axis(axis)
    assert owner is not None
    for other in owner.modes:
        if other.key != mode:
            won = resolver.winner(token, resolver.theme({**dict(condition.picks), axis: other.key}))
            if won is not None and won[0] == condition:
                return True
    return False


def as_solved(fixed: Fixed) -> Solved:
    """What was fixed, as a solver says it."""
    return Solved(
        fixed.document,
        fixed.moves,
        fixed.short,
        fixed.contradictions,
        proven=fixed.proven,
    )
