"""What a document that takes the place of another leaves out, changes and brings, told before it does."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.expressions.values import value_text
from prism.model.document import Document, Token, shown_path
from prism.model.values import Condition

#: A condition by the names of its axes and modes, as keys differ between two documents.
Named = frozenset[tuple[str, str]]


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
    changed: list[ChangedValue] = []
    same = 0
    for path, token in old.items():
        if path not in new:
            continue
        was, now = _values(before, token), _values(after, new[path])
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
        tuple(_besides(before, after)),
    )


def _by_path(document: Document) -> dict[str, Token]:
    return {shown_path(token.path): token for token in document.tokens}


def _values(document: Document, token: Token) -> dict[Named, str]:
    """The stored texts of a token by the names of their modes."""
    return {_named(document, condition): value_text(value) for condition, value in token.values}


def _named(document: Document, condition: Condition) -> Named:
    names = {(axis.key, mode.key): (axis.name, mode.name) for axis in document.axes for mode in axis.modes}  # fmt: skip
    return frozenset(names[pair] for pair in condition.picks)


def _words(where: Named) -> str:
    return ", ".join(f"{axis} {mode}" for axis, mode in sorted(where))


def _besides(before: Document, after: Document) -> Iterator[tuple[str, int]]:
    """What ``before`` has besides tokens and their values and ``after`` does not bring."""
    answered = {shown_path(token.path) for token in after.tokens if token.role or token.belongs_to}
    roles = [t for t in before.tokens if t.role or t.belongs_to]
    described = {shown_path(token.path) for token in after.tokens if token.description}
    told = [token for token in before.tokens if token.description]
    kept_scenes = {scene.name: dict(scene.bindings) for scene in after.scenes}
    counts = (
        ("answered role", sum(shown_path(token.path) not in answered for token in roles)),
        ("description", sum(shown_path(token.path) not in described for token in told)),
        ("mode", len(_modes(before) - _modes(after))),
        ("pairing", _fewer(before.pairings, after.pairings)),
        ("rule", _fewer(before.rules, after.rules)),
        ("word of this project", _fewer(before.words, after.words)),
        ("ramp recipe", sum(bool(r.parameters) for r in before.ramps) - sum(bool(r.parameters) for r in after.ramps)),
        ("naming scheme", _fewer(before.schemes, after.schemes)),
        ("set to tell apart", _fewer(before.telling_apart, after.telling_apart)),
        ("exception", _fewer(before.mutes, after.mutes)),
        ("slot that is bound", sum(len(scene.bindings) for scene in before.scenes) - sum(map(len, kept_scenes.values()))),
        ("saved theme", _fewer(before.themes, after.themes)),
        ("page", _fewer(before.pages, after.pages)),
    )  # fmt: skip
    yield from ((noun, count) for noun, count in counts if count > 0)


def _modes(document: Document) -> set[tuple[str, str]]:
    return {(axis.name, mode.name) for axis in document.axes for mode in axis.modes}


def _fewer(before: tuple[object, ...], after: tuple[object, ...]) -> int:
    return len(before) - len(after)
