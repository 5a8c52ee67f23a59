"""Two documents from different files: which parts of one are parts of the other."""

from __future__ import annotations

from dataclasses import replace

from prism.compare.diff import Operation, words
from prism.compare.rows import condition_from
from prism.expressions.values import decode, value_text
from prism.model.document import Document, shown_path
from prism.model.names import condition_words
from prism.model.values import Condition


def align(document: Document, to: Document) -> Document:
    """``document`` with the keys of ``to`` wherever names say that a part is the same.

    Tokens are matched by key first and by path then, axes and modes by name, pairings by what
    they pair.
    """
    axes: dict[str, str] = {}
    modes: dict[tuple[str, str], str] = {}
    known = {axis.name: axis for axis in to.axes}
    for axis in document.axes:
        other = known.get(axis.name)
        axes[axis.key] = other.key if other else axis.key
        named = {mode.name: mode.key for mode in other.modes} if other else {}
        for mode in axis.modes:
            modes[axis.key, mode.key] = named.get(mode.name, mode.key)
    by_path = {token.path: token.key for token in to.tokens}
    own = {token.key for token in to.tokens}
    keys = {
        token.key: token.key if token.key in own else by_path.get(token.path, token.key)
        for token in document.tokens
    }
    if len(set(keys.values())) != len(keys):
        keys = {token.key: by_path.get(token.path, token.key) for token in document.tokens}

    def turn(condition: Condition) -> Condition:
        picks = [(axes[axis], modes[axis, mode]) for axis, mode in condition.picks]
        return Condition(tuple(sorted(picks)))

    pairings = []
    same = {(p.foreground, p.backgrounds, p.use): p.key for p in to.pairings}
    for pairing in document.pairings:
        moved = replace(
            pairing,
            foreground=keys.get(pairing.foreground, pairing.foreground),
            backgrounds=tuple(keys.get(key, key) for key in pairing.backgrounds),
            page=keys.get(pairing.page, pairing.page),
        )
        found = same.get((moved.foreground, moved.backgrounds, moved.use), moved.key)
        pairings.append(replace(moved, key=found))
    return replace(
        document,
        axes=tuple(
            replace(
                axis,
                key=axes[axis.key],
                default=modes[axis.key, axis.default],
                modes=tuple(replace(m, key=modes[axis.key, m.key]) for m in axis.modes),
                follows=axis.follows
                and replace(
                    axis.follows,
                    modes=tuple((v, modes[axis.key, m]) for v, m in axis.follows.modes),
                ),
            )
            for axis in document.axes
        ),
        tokens=tuple(
            replace(
                token,
                key=keys[token.key],
                values=tuple((turn(condition), value) for condition, value in token.values),
            )
            for token in document.tokens
        ),
        pairings=tuple(pairings),
        sources=tuple(
            replace(
                source,
                entries=tuple(replace(e, token=keys.get(e.token, e.token)) for e in source.entries),
            )
            for source in document.sources
        ),
        layers=tuple(
            replace(
                layer,
                axis=axes.get(layer.axis, layer.axis),
                contexts=tuple((modes[layer.axis, m], s) for m, s in layer.contexts),
            )
            for layer in document.layers
        ),
    )


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
            was, now = (value_text(decode(one)) for one in (operation.before, operation.after))
            return f"{path}: {where} {was} → {now}"
        said = value_text(decode((operation.row or {})["text"]))
        return f"{path}: {where} {'now' if operation.op == 'add' else 'no longer'} {said}"
    name = _name(operation, before, after)
    if operation.op == "order":
        return f"Another order of {words(kind)}s{f' in {name}' if name else ''}"
    if operation.op == "set":
        return f"{words(kind)} {name}: {operation.field} {operation.before!r} → {operation.after!r}"
    return f"{words(kind)} {name} {'added' if operation.op == 'add' else 'removed'}"


def _name(operation: Operation, before: Document, after: Document) -> str:
    row = operation.row or {}
    said = row.get("path") or row.get("name")
    if said:
        return str(said)
    if operation.kind == "token":
        token = before.token(operation.key) or after.token(operation.key)
        return shown_path(token.path) if token else operation.key
    if operation.kind in ("axis", "mode"):
        axis = before.axis(operation.key.split(" ")[0]) or after.axis(operation.key.split(" ")[0])
        return axis.name if axis else operation.key
    return operation.key
