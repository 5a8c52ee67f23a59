"""Whether values that are tried let a pairing fall short that did not."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from prism.model.document import Pairing
from prism.resolution.answer_tables import common
from prism.resolution.failing_pairing import FailingPairing, Part
from prism.solver.decisions import State

#: So many pairings are read at once; what breaks is mostly among the first.
_LOT = 12


class Harm:
    """What falls short where some tokens, by key, are moved in a state. Pairings are read in small lots, those first that
    broke before, as most values that are tried break the same."""

    def __init__(self, state: State, keys: Iterable[str]) -> None:
        self._state = state
        reached = state.resolver.graph.users(set(keys))
        self._pairings: list[Pairing] = [
            pairing
            for pairing in state.document.pairings
            if reached & {pairing.foreground, *pairing.backgrounds, pairing.page}
        ]
        self._was: dict[str, FailingPairing] = {}

    def is_in(self, after: State) -> bool:
        """Whether a pairing falls short in some theme of ``after`` where it did not."""
        for start in range(0, len(self._pairings), _LOT):
            lot = self._pairings[start : start + _LOT]
            was, now = self._before(lot), after.read(lot)
            for pairing in lot:
                if is_new(self._state, now.failing(pairing.key), was[pairing.key]):
                    self._pairings.remove(pairing)
                    self._pairings.insert(0, pairing)
                    return True
        return False

    def _before(self, lot: Sequence[Pairing]) -> dict[str, FailingPairing]:
        unread = [pairing for pairing in lot if pairing.key not in self._was]
        if unread:
            table = self._state.read(unread)
            self._was |= {pairing.key: table.failing(pairing.key) for pairing in unread}
        return self._was


def is_new(state: State, now: Sequence[Part], was: Sequence[Part]) -> bool:
    """Whether some theme falls short now that did not before."""
    known = [before.fixed for before in was]
    same = set(known)
    for part in now:
        if part.fixed in same:
            continue
        both = (common(part.fixed, fixed) for fixed in known)
        if sum(state.tables.share(fixed) for fixed in both if fixed is not None) < part.themes:
            return True
    return False
