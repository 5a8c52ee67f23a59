"""What tells two colors apart that look alike to somebody: the nearest step of one of them that does.

Nothing is offered with which another two of the set come closer, or a pairing falls short that did not.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from prism.derive.deciding import Deciding, Move, State, candidates
from prism.derive.passing import is_new
from prism.model.document import Document, TellingApart
from prism.model.values import Condition, Value
from prism.resolution.answer_tables import Fixed
from prism.resolution.apart import Apart, every_two, readings
from prism.roles.grounds import Guess

#: Values that are tried at most for one move.
_MOST_TRIED = 30


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
    found = []
    for key in (first, second):
        moves = list(_Search(state, members, (first, second), key).moves())
        if moves:
            after = state
            for move in moves:
                after = after.moved(move)
            least = [_least(side, (first, second)) for side in (state, after)]
            found.append(Telling(key, tuple(moves), *least))
    return found


def _least(state: State, pair: tuple[str, str]) -> float:
    colored = (r for r in readings(state.tables, [pair]) if r.vision.id != "gray")
    return min((reading.difference for reading in colored), default=0.0)


class _Search:
    """The moves of one of two tokens."""

    def __init__(
        self, state: State, members: TellingApart, pair: tuple[str, str], key: str
    ) -> None:
        self._start, self._pair, self._key = state, pair, key
        self._with_key = [both for both in every_two(members.tokens) if key in both]

    def moves(self) -> Iterator[Move]:
        """Every move that is needed; none where one of them is not to be had."""
        made: list[Move] = []
        state, settled = self._start, set[Deciding]()
        while close := self._close(state, [self._pair]):
            theme = state.tables.theme(close[0].fixed)
            decided = state.deciding(self._key, theme)
            if decided is None or decided[0] in settled:
                return
            moved = self._nearest(state, decided, close[0].fixed)
            if moved is None:
                return
            move, state = moved
            settled.add(Deciding(move.token, move.condition))
            made.append(move)
        yield from made

    def _close(self, state: State, pairs: Sequence[tuple[str, str]]) -> list[Apart]:
        """Where some pairs are not told apart by an eye that sees color."""
        return [
            reading
            for reading in readings(state.tables, pairs)
            if reading.verdict != "apart" and reading.vision.id != "gray"
        ]

    def _nearest(
        self, state: State, decided: tuple[Deciding, Value], fixed: Fixed
    ) -> tuple[Move, State] | None:
        """The nearest value with which the two are apart where this one decides; for all it holds for, else in
        this part of the themes alone."""
        place, value = decided
        for condition in dict.fromkeys((place.condition, self._narrowed(state, place, fixed))):
            for count, candidate in enumerate(candidates(state, place, value)):
                if count >= _MOST_TRIED:
                    break
                move = Move(place.token, condition, value, candidate)
                after = state.moved(move)
                if self._tells(after, move) and not self._harms(state, after):
                    return move, after
        return None

    @staticmethod
    def _narrowed(state: State, place: Deciding, fixed: Fixed) -> Condition:
        axes = state.document.axes
        picks = {
            axis.key: axis.modes[mode].key
            for axis, mode in zip(axes, fixed, strict=True)
            if mode >= 0
        }
        return Condition.of({**picks, **dict(place.condition.picks)})

    def _tells(self, after: State, move: Move) -> bool:
        """Whether the two are apart wherever the moved value decides."""
        for reading in self._close(after, [self._pair]):
            decided = after.deciding(self._key, after.tables.theme(reading.fixed))
            if decided is not None and decided[0] == Deciding(move.token, move.condition):
                return False
        return True

    def _harms(self, before: State, after: State) -> bool:
        """Whether another two of the set are close in more themes, or a pairing falls short that did not."""
        for pair in self._with_key:
            now, was = (
                sum(
                    map(side.tables.share, {reading.fixed for reading in self._close(side, [pair])})
                )
                for side in (after, before)
            )
            if now > was:
                return True
        reached = before.resolver.graph.users({self._key})
        touched = [
            pairing
            for pairing in before.document.pairings
            if reached & {pairing.foreground, *pairing.backgrounds, pairing.page}
        ]
        was_table, now_table = before.read(touched), after.read(touched)
        return any(
            is_new(before, now_table.failing(p.key), was_table.failing(p.key)) for p in touched
        )


def sets_by_role(document: Document, roles: dict[str, Guess]) -> list[tuple[str, tuple[str, ...]]]:
    """Colors that should be told apart by what they are for, in sets that are not there yet: each a name and
    keys of tokens."""
    there = {frozenset(members.tokens) for members in document.telling_apart}
    found = []
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
            found.append((name, keys))
    return found
