"""What a document that takes the place of another deletes, changes and adds, told before it does."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, fields
from typing import TYPE_CHECKING

from prism.expressions.values import value_text
from prism.model.document import Document, Token, Word, shown_path

if TYPE_CHECKING:
    from _typeshed import DataclassInstance

#: A condition by the names of its axes and modes, as keys differ between two documents.
Named = frozenset[tuple[str, str]]
#: What is called how, by key.
Names = dict[str, str]
#: Parts of a document that are told of one by one, and where they stand.
_PARTS = (
    ("pairing", "pairings"), ("rule", "rules"), ("word of this project", "words"), ("ramp", "ramps"),
    ("naming scheme", "schemes"), ("set to tell apart", "telling_apart"), ("exception", "mutes"),
    ("saved theme", "themes"), ("page", "pages"),
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class ChangedValue:
    """A value that both documents have, and that differs. ``where`` names the modes, empty for the base."""

    path: str
    where: str
    before: str
    after: str


@dataclass(frozen=True, slots=True)
class Replacing:
    """What would become of a document: paths that are new and gone, values that differ, the values that stay,
    and what goes besides tokens, as a noun and how many of it."""

    new: tuple[str, ...]
    gone: tuple[str, ...]
    changed: tuple[ChangedValue, ...]
    same: int
    besides: tuple[tuple[str, int], ...]


def replacing(before: Document, after: Document) -> Replacing:
    """What differs where ``after`` takes the place of ``before``; tokens are compared by their paths."""
    old, new = _by_path(before), _by_path(after)
    names, fresh = _names(before), _names(after)
    changed: list[ChangedValue] = []
    same = 0
    for path, token in old.items():
        if path not in new:
            continue
        was, now = _values(token, names), _values(new[path], fresh)
        for where in sorted(was.keys() | now.keys(), key=_words):
            if was.get(where) == now.get(where):
                same += 1
            else:
                texts = was.get(where, ""), now.get(where, "")
                changed.append(ChangedValue(path, _words(where), *texts))
    return Replacing(
        tuple(path for path in new if path not in old),
        tuple(path for path in old if path not in new),
        tuple(changed),
        same,
        tuple(one for one in _besides(before, after, names, fresh) if one[1]),
    )


def _by_path(document: Document) -> dict[str, Token]:
    return {shown_path(token.path): token for token in document.tokens}


def _values(token: Token, names: Names) -> dict[Named, str]:
    """The stored texts of a token by the names of their modes."""
    return {
        frozenset((names[axis], names[mode]) for axis, mode in condition.picks): value_text(value)
        for condition, value in token.values
    }


def _words(where: Named) -> str:
    return ", ".join(f"{axis} {mode}" for axis, mode in sorted(where))


def _besides(
    before: Document, after: Document, was: Names, now: Names
) -> Iterator[tuple[str, int]]:
    """What ``before`` has besides tokens and their values and ``after`` does not have as it is there."""
    answered = {shown_path(token.path) for token in after.tokens if token.role or token.belongs_to}
    described = {shown_path(token.path) for token in after.tokens if token.description}
    yield (
        "answered role",
        sum(
            bool(token.role or token.belongs_to) and shown_path(token.path) not in answered
            for token in before.tokens
        ),
    )
    yield (
        "description",
        sum(
            bool(token.description) and shown_path(token.path) not in described
            for token in before.tokens
        ),
    )
    yield "mode", len(_modes(before) - _modes(after))
    for noun, part in _PARTS:
        there = {_told(one, now) for one in getattr(after, part)}
        yield noun, sum(_told(one, was) not in there for one in getattr(before, part))
    bound = _bindings(after, now)
    yield "slot that is bound", sum(one not in bound for one in _bindings(before, was))


def _names(document: Document) -> Names:
    """What tokens, axes and modes are called, by key."""
    names = {token.key: shown_path(token.path) for token in document.tokens}
    for axis in document.axes:
        names |= {mode.key: mode.name for mode in axis.modes}
        names[axis.key] = axis.name
    return names


def _told(part: DataclassInstance, names: Names) -> object:
    """A part of a document without its own key, and with names in place of the keys of others; the key of a word is
    the word."""

    def named(value: object) -> object:
        if isinstance(value, tuple):
            return tuple(map(named, value))
        return names.get(value, value) if isinstance(value, str) else value

    own = "" if isinstance(part, Word) else "key"
    return tuple(named(getattr(part, one.name)) for one in fields(part) if one.name != own)


def _bindings(document: Document, names: Names) -> set[tuple[str, str, str]]:
    return {
        (scene.name, slot, names.get(key, key))
        for scene in document.scenes
        for slot, key in scene.bindings
    }


def _modes(document: Document) -> set[tuple[str, str]]:
    return {(axis.name, mode.name) for axis in document.axes for mode in axis.modes}
