"""Where the values of a tree stand."""

from __future__ import annotations

from collections import defaultdict

from prism.formats.layout import Slot, Tree


class Spots:
    """Where new tokens go in a tree: after every group, and every token before them in the document.

    The tree itself stays as it is; ``slots`` are its lines with what was put in and taken out.
    """

    def __init__(self, tree: Tree) -> None:
        self._tree = tree
        self._place: dict[str, int] = {}
        self._spot = -1
        for place, slot in enumerate(tree.slots):
            if slot.token:
                self._place[slot.token] = place
            else:
                self._spot = place
        self._inserted: dict[int, list[Slot]] = defaultdict(list)
        self._gone: set[int] = set()

    def reach(self, token: str) -> None:
        """Go on to a token, the next one in document order."""
        self._spot = max(self._spot, self._place.get(token, -1))

    def insert(self, slot: Slot) -> None:
        """Put a line where the document has come to."""
        self._inserted[self._spot].append(slot)

    def drop(self, token: str) -> None:
        """Take a token's first line out."""
        slot = self._tree.slot(token)
        if slot is not None:
            self._gone.add(id(slot))

    def slots(self) -> list[Slot]:
        """The lines in order."""
        slots = list(self._inserted[-1])
        for place, slot in enumerate(self._tree.slots):
            if id(slot) not in self._gone:
                slots.append(slot)
            slots.extend(self._inserted.get(place, ()))
        return slots


def slot_of(tree: Tree, token: str) -> Slot:
    slot = tree.slot(token)
    assert slot is not None
    return slot
