"""Two documents from different files: which parts of one are parts of the other."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Protocol

from prism.compare.diff import Operation, words
from prism.compare.rows import condition_from
from prism.expressions.values import decode, value_text
from prism.model.document import Document, shown_path
from prism.model.names import condition_words
from prism.model.rekey import Rekeying


def align(document: Document, to: Document) -> Document:
    """``document`` with the keys of ``to`` wherever names say that a part is the same.

    Tokens are matched by key first and by path then; axes, modes, purposes, ramps, sets and scenes
    by name, pairings by what they pair.
    """
    axes, modes = _axes_by_name(document, to)
    rekeying = Rekeying(
        tokens=_tokens_by_path(document, to),
        axes=axes,
        modes=modes,
        purposes=_by_name(document.purposes, to.purposes),
        ramps=_by_name(document.ramps, to.ramps),
        sets=_by_name(document.telling_apart, to.telling_apart),
        scenes=_by_name(document.scenes, to.scenes),
    )
    aligned = rekeying.of(document)
    keys = {(p.foreground, p.backgrounds, p.use): p.key for p in to.pairings}
    pairings = tuple(
        replace(p, key=keys.get((p.foreground, p.backgrounds, p.use), p.key))
        for p in aligned.pairings
    )
    return replace(aligned, pairings=pairings)


def _axes_by_name(
    document: Document, to: Document
) -> tuple[dict[str, str], dict[tuple[str, str], str]]:
    axes: dict[str, str] = {}
    modes: dict[tuple[str, str], str] = {}
    known = {axis.name: axis for axis in to.axes}
    for axis in document.axes:
        other = known.get(axis.name)
        axes[axis.key] = other.key if other else axis.key
        named = {mode.name: mode.key for mode in other.modes} if other else {}
        for mode in axis.modes:
            modes[axis.key, mode.key] = named.get(mode.name, mode.key)
    return axes, modes


def _tokens_by_path(document: Document, to: Document) -> dict[str, str]:
    by_path = {token.path: token.key for token in to.tokens}
    own = {token.key for token in to.tokens}
    keys = {
        token.key: token.key if token.key in own else by_path.get(token.path, token.key)
        for token in document.tokens
    }
    if len(set(keys.values())) != len(keys):
        keys = {token.key: by_path.get(token.path, token.key) for token in document.tokens}
    return keys


class _Named(Protocol):
    @property
    def key(self) -> str: ...

    @property
    def name(self) -> str: ...


def _by_name(parts: Iterable[_Named], others: Iterable[_Named]) -> dict[str, str]:
    """The keys of like-named parts; the first of a name counts, and no key is given twice."""
    free = {other.name: other.key for other in reversed(list(others))}
    return {part.key: free.pop(part.name) for part in parts if part.name in free}


def describe(operation: Operation, before: Document, after: Document) -> str:
    """One operation in words: ``text.main: appearance dark {ink.1} → {ink.2}``."""
    kind, key = operation.kind, operation.key
    if kind == "value":
        token_key, _, text = key.partition(" ")
        token = after.token(token_key) or before.token(token_key)
        condition = condition_from(text)
        where = condition_words(after if operation.op == "add" else before, condition)
        path = shown_path(token.path) if token else token_key
        if operation.op == "set":
            was, now = (value_text(decode(text)) for text in (operation.before, operation.after))
            return f"{path}: {where} {was} → {now}"
        plain = value_text(decode((operation.row or {})["text"]))
        return f"{path}: {where} {'now' if operation.op == 'add' else 'no longer'} {plain}"
    name = _name(operation, before, after)
    if kind == "binding" and operation.op != "order":
        token_key = (operation.row or {"token": operation.after})["token"]
        token = after.token(token_key) or before.token(token_key)
        path = shown_path(token.path) if token else token_key
        return f"{name}: {'no longer bound to' if operation.op == 'remove' else 'bound to'} {path}"
    if operation.op == "order":
        return f"Another order of {words(kind)}s{f' in {name}' if name else ''}"
    if operation.op == "set":
        was, now = _plain(operation.before), _plain(operation.after)
        return f"{words(kind)} {name}: {operation.field.replace('_', ' ')} {was} → {now}"
    return f"{words(kind)} {name} {'added' if operation.op == 'add' else 'removed'}"


def _plain(value: object) -> str:
    """A field of a row in words: ``none`` where there is nothing."""
    if isinstance(value, list):
        return ", ".join(map(_plain, value)) or "none"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return "none" if value in ("", None) else str(value)


def _name(operation: Operation, before: Document, after: Document) -> str:
    row = operation.row or {}
    name = row.get("path") or row.get("name")
    if name:
        return str(name)
    if operation.kind == "token":
        token = before.token(operation.key) or after.token(operation.key)
        return shown_path(token.path) if token else operation.key
    if operation.kind == "binding":
        scene, _, slot = operation.key.partition(" ")
        names = [known.name for known in (*after.scenes, *before.scenes) if known.key == scene]
        return f"{slot} in {names[0]}" if names and slot else (names or [scene])[0]
    if operation.kind in ("axis", "mode"):
        axis = before.axis(operation.key.split(" ")[0]) or after.axis(operation.key.split(" ")[0])
        return axis.name if axis else operation.key
    return operation.key
