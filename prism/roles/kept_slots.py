"""Slots of scenes that keep their tokens when those are called something else."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from prism.model.document import Document, Scene
from prism.resolution.current import resolver_of
from prism.roles import guess
from prism.roles.by_slot import by_slot

#: The key of the scene that keeps bindings in a document that has none: the same for everybody.
_KEY = "scenes"


@dataclass(frozen=True, slots=True)
class SlotChange:
    """A slot that takes another token after a change; keys, empty where it takes none."""

    slot: str
    before: str
    after: str


def kept(before: Document, after: Document) -> Document:
    """``after``, which only calls tokens of ``before`` something else, with a binding for each slot that would be
    guessed to take another token by their new names."""
    there = {token.key for token in after.tokens}
    bound = dict(after.scenes[0].bindings) if after.scenes else {}
    missed = [
        (change.slot, change.before)
        for change in changes(before, after)
        if change.before in there and change.slot not in bound
    ]
    if not missed:
        return after
    scene, *others = after.scenes or (Scene(_KEY, "Scenes"),)
    pinned = replace(scene, bindings=(*scene.bindings, *missed))
    return replace(after, scenes=(pinned, *others))


def changes(before: Document, after: Document) -> Iterator[SlotChange]:
    """The slots that take another token after a change than before it."""
    was, now = _bound(before), _bound(after)
    for slot in dict.fromkeys((*was, *now)):
        if was.get(slot, "") != now.get(slot, ""):
            yield SlotChange(slot, was.get(slot, ""), now.get(slot, ""))


def _bound(document: Document) -> dict[str, str]:
    """Token keys by slot: what is bound, else what is guessed."""
    guesses = guess.guess(document, resolver_of(document))
    stored = dict(document.scenes[0].bindings) if document.scenes else {}
    there = {slot: key for slot, key in stored.items() if document.token(key) is not None}
    return by_slot(document, guesses) | there
