"""What tells two colors apart that look alike to somebody: the nearest step of one of them that does.

Nothing is offered with which another two of the set come closer, or a pairing falls short that did not.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial

from prism.model.document import Document, TellingApart
from prism.model.values import Condition, Value
from prism.resolution.answer_tables import Fixed
from prism.roles.grounds import Guess
from prism.solver.decisions import Move, State
from prism.solver.nearest import Search
from prism.solver.regressions import Harm
from prism.vision.distances import every_two, readings


@dataclass(frozen=True, slots=True)
class Telling:
    """What tells two tokens apart: which of them is moved, by key, the moves, and how far they are apart at least,
    CIEDE2000, before and after."""

    token: str
    moves: tuple[Move, ...]
    before: float
    after: float

    @property
    def settings(self) -> list[tuple[str, Condition, Value]]:
        """The values to store."""
        return [(move.token, move.condition, move.after) for move in self.moves]


def fixes(judged: Document, members: TellingApart, first: str, second: str) -> list[Telling]:
    """How two tokens of a set, by key, can be told apart in every theme by every kind of eye, without color
    apart: by moving one or the other. ``judged`` is a document with all pairings that count."""
    state = State(judged)
    offered = []
    for key in (first, second):
        with_key = [pair for pair in every_two(members.tokens) if key in pair]
        close = partial(_close, pairs=[(first, second)])
        moves = Search(state, key, close, partial(_harms, key, with_key)).moves()
        if moves:
            after = state
            for move in moves:
                after = after.moved(move)
            least = [_least(side, (first, second)) for side in (state, after)]
            offered.append(Telling(key, tuple(moves), *least))
    return offered


def _least(state: State, pair: tuple[str, str]) -> float:
    colored = (r for r in readings(state.tables, [pair]) if r.vision.id != "gray")
    return min((reading.difference for reading in colored), default=0.0)


def _close(state: State, pairs: Sequence[tuple[str, str]]) -> list[Fixed]:
    """Where some pairs are not told apart by an eye that sees color."""
    return [
        reading.fixed
        for reading in readings(state.tables, pairs)
        if reading.verdict != "apart" and reading.vision.id != "gray"
    ]


def _harms(key: str, pairs: Sequence[tuple[str, str]], before: State, after: State) -> bool:
    """Whether some pairs are close in more themes now that a token was moved, or a pairing falls short that did not."""
    for pair in pairs:
        now, was = (sum(map(s.tables.share, set(_close(s, [pair])))) for s in (after, before))
        if now > was:
            return True
    return Harm(before, [key]).is_in(after)


def sets_by_role(document: Document, roles: dict[str, Guess]) -> list[tuple[str, tuple[str, ...]]]:
    """Colors that should be told apart by what they are for, in sets that are not there yet: each a name and
    keys of tokens."""
    there = {frozenset(members.tokens) for members in document.telling_apart}
    sets = []
    for name, wanted in (
        ("Status texts", ("status", "text")),
        ("Status fills", ("status", "fill")),
        ("Chart series", ("chart", "")),
    ):
        keys = tuple(
            token.key
            for token in document.tokens
            if (known := roles.get(token.key)) is not None
            and token.type == "color"
            and (known.role.kind, known.role.detail, known.role.state) == (*wanted, "")
        )
        if len(keys) > 1 and not any(set(keys) <= known_set for known_set in there):
            sets.append((name, keys))
    return sets
