"""Differences between two documents as operations that apply, invert and conflict.

Saving, the journal, undo, import preview and merging all speak in these operations.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import asdict, dataclass
from typing import Any, Literal

from prism.compare.rows import KINDS, Row, Tables, flatten, parent_of, unflatten
from prism.errors import ConflictError
from prism.tokens.model import Document


@dataclass(frozen=True, slots=True)
class Operation:
    """One change to one row or one order.

    ``set``: ``field`` goes from ``before`` to ``after``. ``add`` and ``remove``: ``row`` comes
    or goes behind the row ``previous`` (empty: first). ``order``: the keys under ``key`` go
    from the list ``before`` to the list ``after``.
    """

    op: Literal["set", "add", "remove", "order"]
    kind: str
    key: str
    field: str = ""
    before: Any = None
    after: Any = None
    previous: str = ""
    row: Row | None = None

    def inverse(self) -> Operation:
        """The operation that takes this one back."""
        if self.op == "add":
            return Operation("remove", self.kind, self.key, previous=self.previous, row=self.row)
        if self.op == "remove":
            return Operation("add", self.kind, self.key, previous=self.previous, row=self.row)
        return Operation(self.op, self.kind, self.key, self.field, self.after, self.before)

    def plain(self) -> dict[str, Any]:
        """The operation as JSON members, without the empty ones."""
        return {
            name: value
            for name, value in asdict(self).items()
            if name in ("op", "kind", "key", "before", "after") or value
        }


def diff(before: Document, after: Document) -> list[Operation]:
    """Operations that turn ``before`` into ``after``, in an order in which they apply."""
    if before is after:
        return []
    return diff_tables(flatten(before), flatten(after))


def diff_tables(old: Tables, new: Tables) -> list[Operation]:
    """``diff`` over tables. A list that both share stands for rows that both share, as ``flatten``
    makes them."""
    removed: list[Operation] = []
    changed: list[Operation] = []
    added: list[Operation] = []
    ordered: list[Operation] = []
    parents: dict[str, dict[str, None]] = {kind: {} for kind in KINDS}
    for place in (*old.order, *new.order):
        if old.order.get(place) is not new.order.get(place):
            parents[place[0]][place[1]] = None
    for kind in KINDS:
        rows = old.rows[kind]
        for parent in parents[kind]:
            was, now = old.keys(kind, parent), new.keys(kind, parent)
            if was == now:
                current = was
            else:
                gone, come, current = _membership(kind, was, now, old, new)
                removed.extend(gone)
                added.extend(come)
            if current != now:
                ordered.append(
                    Operation("order", kind, parent, before=list(current), after=list(now))
                )
            for key in now:
                before, after = rows.get(key), new.rows[kind][key]
                if before is not after:
                    changed.extend(_fields(kind, key, before, after))
    removed.reverse()
    return removed + changed + added + ordered


def _membership(
    kind: str, was: Sequence[str], now: Sequence[str], old: Tables, new: Tables
) -> tuple[list[Operation], list[Operation], list[str]]:
    target, source = set(now), set(was)
    gone = [
        Operation("remove", kind, key, previous=was[i - 1] if i else "", row=old.rows[kind][key])
        for i, key in enumerate(was)
        if key not in target
    ]
    come = [
        Operation("add", kind, key, previous=now[i - 1] if i else "", row=new.rows[kind][key])
        for i, key in enumerate(now)
        if key not in source
    ]
    current = [key for key in was if key in target]
    for operation in come:
        _insert(current, operation.key, operation.previous)
    return gone, come, current


def _insert(keys: list[str], key: str, previous: str) -> None:
    """Put ``key`` behind ``previous``, at the front, or at the end if that is gone."""
    if not previous:
        keys.insert(0, key)
    elif previous in keys:
        keys.insert(keys.index(previous) + 1, key)
    else:
        keys.append(key)


def _fields(kind: str, key: str, old: Row | None, new: Row) -> list[Operation]:
    if old is None or old == new:
        return []
    return [
        Operation("set", kind, key, name, old.get(name), value)
        for name, value in new.items()
        if old.get(name) != value
    ]


def inverse(operations: Sequence[Operation]) -> list[Operation]:
    """Operations that take ``operations`` back."""
    return [operation.inverse() for operation in reversed(operations)]


def apply(document: Document, operations: Sequence[Operation]) -> Document:
    """The document after ``operations``.

    Raises ``ConflictError`` where a row or value is no longer what an operation expects.
    """
    tables = flatten(document)
    for operation in operations:
        apply_to(tables, operation)
    return unflatten(tables)


def apply_to(tables: Tables, operation: Operation) -> None:
    """Carry out one operation in place."""
    kind, key = operation.kind, operation.key
    rows = tables.rows[kind]
    if operation.op == "order":
        keys = tables.order.setdefault((kind, key), [])
        wanted = [one for one in operation.after if one in rows]
        rest = [one for one in keys if one not in set(wanted)]
        tables.order[(kind, key)] = wanted + rest
    elif operation.op == "add":
        if key in rows:
            raise ConflictError(f"A {words(kind)} is there already.", place=key)
        rows[key] = dict(operation.row or {})
        _insert(tables.order.setdefault((kind, parent_of(kind, key)), []), key, operation.previous)
    elif key not in rows:
        raise ConflictError(f"The {words(kind)} is no longer there.", place=key)
    elif operation.op == "remove":
        if rows[key] != operation.row:
            raise ConflictError(f"The {words(kind)} has changed since.", place=key)
        del rows[key]
        tables.order[(kind, parent_of(kind, key))].remove(key)
    else:
        if rows[key].get(operation.field) != operation.before:
            raise ConflictError(
                f"The {operation.field} of the {words(kind)} has changed since.", place=key
            )
        rows[key] = rows[key] | {operation.field: operation.after}


def words(kind: str) -> str:
    """The kind as it is called in a sentence."""
    return {"telling_apart": "set to tell apart", "source": "source file"}.get(kind, kind)
