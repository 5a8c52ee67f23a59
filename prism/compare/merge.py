"""Merging two changes of one document, with the conflicts named."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from prism.compare.diff import Operation, apply_to, diff_tables, words
from prism.compare.rows import Row, Tables, condition_from, flatten, parent_of, unflatten
from prism.tokens.expressions import decode, encode, rewrite
from prism.tokens.model import Document, shown_path


@dataclass(frozen=True, slots=True)
class Clash:
    """One thing that both sides changed differently; the merged document has theirs.

    ``field`` is empty where one side removed what the other changed; ``mine`` and ``theirs``
    are then None on the side that removed it.
    """

    kind: str
    key: str
    field: str
    name: str
    mine: Any
    theirs: Any

    @property
    def sentence(self) -> str:
        """The clash in words."""
        if self.mine is None or self.theirs is None:
            who = "you" if self.mine is None else "somebody else"
            return f"The {words(self.kind)} {self.name} was removed by {who} and changed meanwhile."
        part = "value of" if self.kind == "value" else f"{self.field} of the {words(self.kind)}"
        return f"The {part} {self.name} was changed by both."


@dataclass(frozen=True, slots=True)
class Merged:
    """A merged document and what could not be merged."""

    document: Document
    clashes: tuple[Clash, ...]


def merge(base: Document, mine: Document, theirs: Document) -> Merged:
    """Bring what ``mine`` changed of ``base`` into ``theirs``.

    Changes to different rows or fields are both kept. References follow a rename of the other
    side. Where both changed one thing differently, theirs stands and a clash is reported.
    """
    old, here, there = flatten(base), flatten(mine), flatten(theirs)
    _follow(here, old, _renames(old, there))
    merged = _copy(there)
    _follow(merged, old, _renames(old, here))
    reference = _copy(old)
    _follow(reference, old, _renames(old, there) | _renames(old, here))
    my_view = _copy(here)
    _follow(my_view, old, _renames(old, here))
    clashes: list[Clash] = []
    orders: list[Operation] = []
    touched = _removed(old, there)
    for operation in diff_tables(reference, my_view):
        if operation.op == "order":
            orders.append(operation)
        else:
            clash = _bring(merged, reference, operation, touched)
            if clash is not None:
                clashes.append(clash)
    for operation in orders:
        apply_to(merged, operation)
    _drop_orphans(merged)
    return Merged(unflatten(merged), tuple(clashes))


def _copy(tables: Tables) -> Tables:
    return Tables(
        {kind: dict(rows) for kind, rows in tables.rows.items()},
        {place: list(keys) for place, keys in tables.order.items()},
    )


def _renames(old: Tables, new: Tables) -> dict[str, str]:
    """Old to new path of every token that was renamed, shown paths too."""
    found = {}
    for key, row in old.rows["token"].items():
        path = new.rows["token"].get(key, row)["path"]
        if path != row["path"]:
            found[row["path"]] = path
            found.setdefault(shown_path(row["path"]), shown_path(path))
    return found


def _follow(tables: Tables, old: Tables, renamed: Mapping[str, str]) -> None:
    """Rewrite every reference in ``tables`` by ``renamed``."""
    if not renamed:
        return
    for full, row in tables.rows["value"].items():
        token = tables.rows["token"][full.split(" ", 1)[0]]
        text = encode(rewrite(decode(row["text"]), token["type"], renamed))
        if text != row["text"]:
            tables.rows["value"][full] = {"text": text}


def _removed(old: Tables, new: Tables) -> dict[tuple[str, str], Row]:
    return {
        (kind, key): row
        for kind, rows in old.rows.items()
        for key, row in rows.items()
        if key not in new.rows[kind]
    }


def _bring(
    merged: Tables,
    reference: Tables,
    operation: Operation,
    gone: Mapping[tuple[str, str], Row],
) -> Clash | None:
    """Carry out one of my operations on their tables; a clash where it cannot be."""
    kind, key = operation.kind, operation.key
    rows = merged.rows[kind]
    parent = parent_of(kind, key)
    name = _name(merged, reference, kind, key)
    if operation.op == "add":
        if key in rows:
            same = rows[key] == operation.row
            return None if same else Clash(kind, key, "whole", name, operation.row, rows[key])
        if kind == "value" and parent not in merged.rows["token"]:
            return Clash(
                "token", parent, "", _name(merged, reference, "token", parent), operation.row, None
            )
        gone_mode = _gone_mode(merged, key) if kind == "value" else ""
        if gone_mode:
            name = _name(merged, reference, "mode", gone_mode)
            return Clash("mode", gone_mode, "", name, operation.row, None)
        if kind == "mode" and parent not in merged.rows["axis"]:
            return Clash(
                "axis", parent, "", _name(merged, reference, "axis", parent), operation.row, None
            )
        apply_to(merged, operation)
        return None
    if key not in rows:
        if operation.op == "remove":
            return None
        gone_mode = _gone_mode(merged, key) if kind == "value" else ""
        if gone_mode:
            mode = _name(merged, reference, "mode", gone_mode)
            return Clash("mode", gone_mode, "", mode, operation.after, None)
        return Clash(kind, key, "", name, operation.after, None)
    before = reference.rows[kind][key]
    if operation.op == "remove":
        if rows[key] != before or _children_changed(merged, reference, kind, key):
            return Clash(kind, key, "", name, None, rows[key])
        apply_to(merged, replace(operation, row=rows[key]))
        return None
    now = rows[key][operation.field]
    if now not in (operation.before, operation.after):
        return Clash(kind, key, operation.field, name, operation.after, now)
    rows[key] = rows[key] | {operation.field: operation.after}
    return None


def _gone_mode(merged: Tables, key: str) -> str:
    """The full key of a mode that a value's condition names and that is gone; else empty."""
    for axis, mode in condition_from(key.split(" ", 1)[1]).picks:
        if f"{axis} {mode}" not in merged.rows["mode"]:
            return f"{axis} {mode}"
    return ""


def _children_changed(merged: Tables, reference: Tables, kind: str, key: str) -> bool:
    child = {"token": "value", "axis": "mode"}.get(kind)
    if child is None:
        return False
    was = {k: reference.rows[child][k] for k in reference.keys(child, key)}
    now = {k: merged.rows[child][k] for k in merged.keys(child, key)}
    return any(now[k] != was.get(k) for k in now)


def _name(merged: Tables, reference: Tables, kind: str, key: str) -> str:
    """What a person calls a row."""
    if kind == "value":
        return _name(merged, reference, "token", key.split(" ", 1)[0])
    row = merged.rows[kind].get(key) or reference.rows[kind].get(key) or {}
    return str(row.get("path") or row.get("name") or key)


def _drop_orphans(tables: Tables) -> None:
    """Take out values of modes and tokens that the other side removed."""
    modes = set(tables.rows["mode"])
    for full in list(tables.rows["value"]):
        token, condition = full.split(" ", 1)
        picks = condition_from(condition).picks
        if token not in tables.rows["token"] or any(f"{a} {m}" not in modes for a, m in picks):
            del tables.rows["value"][full]
            tables.order[("value", token)].remove(full)


def clashing(clashes: Sequence[Clash]) -> str:
    """All clashes as one text, a sentence each."""
    return " ".join(clash.sentence for clash in clashes)
