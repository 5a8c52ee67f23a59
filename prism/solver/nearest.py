"""The search for the nearest values with which something holds that did not: moved one by one, where they decide."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from itertools import islice

from prism.model.values import Condition, Value
from prism.resolution.answer_tables import Fixed
from prism.solver.decisions import Deciding, Move, State, candidates

#: Values that are tried at most for one move.
_MOST_TRIED = 30
#: Values that could stand in place of one, the nearest first.
Candidates = Callable[[State, Deciding, Value], Iterable[Value]]


class Search:
    """The moves of one token, by key, with which there are no ``faults`` any more; each fault is a part of the themes.
    ``harms`` tells whether what a move does to the first state is worse elsewhere."""

    def __init__(
        self,
        state: State,
        key: str,
        faults: Callable[[State], Sequence[Fixed]],
        harms: Callable[[State, State], bool],
        values: Candidates = candidates,
    ) -> None:
        self._start, self._key, self._faults = state, key, faults
        self._harms, self._values = harms, values

    def moves(self) -> list[Move]:
        """Every move that is needed; none where one of them is not to be had."""
        made: list[Move] = []
        state, settled = self._start, set[Deciding]()
        while faults := self._faults(state):
            decided = state.deciding(self._key, state.tables.theme(faults[0]))
            if decided is None or decided[0] in settled:
                return []
            moved = self._nearest(state, decided, faults[0])
            if moved is None:
                return []
            move, state = moved
            settled.add(Deciding(move.token, move.condition))
            made.append(move)
        return made

    def _nearest(
        self, state: State, decided: tuple[Deciding, Value], fixed: Fixed
    ) -> tuple[Move, State] | None:
        """The nearest value without a fault where this one decides; for all it holds for, else in this part of the
        themes alone."""
        place, value = decided
        for condition in dict.fromkeys((place.condition, _narrowed(state, place, fixed))):
            for candidate in islice(self._values(state, place, value), _MOST_TRIED):
                move = Move(place.token, condition, value, candidate)
                after = state.moved(move)
                if self._holds(after, move) and not self._harms(state, after):
                    return move, after
        return None

    def _holds(self, after: State, move: Move) -> bool:
        """Whether no fault is left wherever the moved value decides."""
        place = Deciding(move.token, move.condition)
        decided = (
            after.deciding(self._key, after.tables.theme(fixed)) for fixed in self._faults(after)
        )
        return all(there is None or there[0] != place for there in decided)


def _narrowed(state: State, place: Deciding, fixed: Fixed) -> Condition:
    """The condition of a value, in a part of the themes alone."""
    axes = state.document.axes
    picks = {
        axis.key: axis.modes[mode].key for axis, mode in zip(axes, fixed, strict=True) if mode >= 0
    }
    return Condition.of({**picks, **dict(place.condition.picks)})
