"""Differences between two documents as operations that apply, invert and conflict.

Saving, the journal, undo, import preview and merging all speak in these operations.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from prism.compare.rows import KINDS, Row, RowTables, document_of, parent_of, rows_of
from prism.errors import ConflictError
from prism.model.document import Document

#: Members of an operation that are left out where they are empty.
_MAY_LACK = ("field", "previous", "row")


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

    @property
    def token(self) -> str:
        """The key of the token that itself, or a value of which, it changes; empty where it changes none."""
        if self.kind == "value":
            return self.key.split(" ", 1)[0]
        return self.key if self.kind == "token" and self.op != "order" else ""

    def inverse(self) -> Operation:
        """The operation that takes this one back."""
        if self.op == "add":
            return Operation("remove", self.kind, self.key, previous=self.previous, row=self.row)
        if self.op == "remove":
            return Operation("add", self.kind, self.key, previous=self.previous, row=self.row)
        return Operation(self.op, self.kind, self.key, self.field, self.after, self.before)

    def plain(self) -> dict[str, Any]:
        """The operation as JSON members, without the empty ones."""
        plain = {
            "op": self.op, "kind": self.kind, "key": self.key, "field": self.field,
            "before": self.before, "after": self.after, "previous": self.previous, "row": self.row,
        }  # fmt: skip
        return {name: value for name, value in plain.items() if name not in _MAY_LACK or value}


def tokens_of(operations: Iterable[Operation]) -> list[str]:
    """The keys of the tokens that operations change, each once."""
    return list(dict.fromkeys(operation.token for operation in operations if operation.token))


def diff(before: Document, after: Document) -> list[Operation]:
    """Operations that turn ``before`` into ``after``, in an order in which they apply."""
    if before is after:
        return []
    return diff_tables(rows_of(before), rows_of(after, before))


def diff_tables(old: RowTables, new: RowTables) -> list[Operation]:
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
    kind: str, was: Sequence[str], now: Sequence[str], old: RowTables, new: RowTables
) -> tuple[list[Operation], list[Operation], list[str]]:
    """Operations for the keys that only one side has, and the keys as they are after them."""
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
    after: dict[str, list[str]] = {}
    head = ""
    for key in now:
        if key in source:
            head = key
        else:
            after.setdefault(head, []).append(key)
    current = list(after.get("", ()))
    for key in was:
        if key in target:
            current.append(key)
            current.extend(after.get(key, ()))
    return gone, come, current


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
    """The document after ``operations``; parts that none of them reaches are the same objects.

    Raises ``ConflictError`` where a row or value is no longer what an operation expects.
    """
    known = rows_of(document)
    editor = RowEditor(known)
    for operation in operations:
        editor.apply(operation)
    return document_of(editor.tables(), document)


class RowEditor:
    """Tables of rows being changed by operations; the tables it starts from stay as they are."""

    def __init__(self, tables: RowTables) -> None:
        self.rows = {kind: dict(rows) for kind, rows in tables.rows.items()}
        self._order = dict(tables.order)
        self._chains: dict[tuple[str, str], _Chain] = {}
        self._touched: set[tuple[str, str]] = set()

    def tables(self) -> RowTables:
        """The tables as they are now; lists of rows of which one was changed are new ones."""
        for place in self._touched - self._chains.keys():
            self._order[place] = list(self._order.get(place, ()))
        for place, chain in self._chains.items():
            self._order[place] = list(chain)
        self._chains.clear()
        return RowTables(self.rows, self._order)

    def apply(self, operation: Operation) -> None:
        """Carry out one operation; ``ConflictError`` where it does not fit."""
        kind, key = operation.kind, operation.key
        rows = self.rows[kind]
        if operation.op == "order":
            self._reorder(operation)
        elif operation.op == "add":
            if key in rows:
                raise ConflictError(f"A {words(kind)} already exists.", place=key)
            rows[key] = dict(operation.row or {})
            self._chain(kind, parent_of(kind, key)).insert(key, operation.previous)
        elif key not in rows:
            raise ConflictError(f"The {words(kind)} is no longer there.", place=key)
        elif operation.op == "remove":
            if rows[key] != operation.row:
                raise ConflictError(f"The {words(kind)} has changed since.", place=key)
            self.remove(kind, key)
        else:
            if rows[key].get(operation.field) != operation.before:
                raise ConflictError(
                    f"The {operation.field} of the {words(kind)} has changed since.", place=key
                )
            self.set(kind, key, operation.field, operation.after)

    def set(self, kind: str, key: str, field: str, value: Any) -> None:
        """Give a field of a row another value."""
        self.rows[kind][key] = self.rows[kind][key] | {field: value}
        self._touched.add((kind, parent_of(kind, key)))

    def remove(self, kind: str, key: str) -> None:
        """Take a row out, whatever it holds."""
        del self.rows[kind][key]
        self._chain(kind, parent_of(kind, key)).remove(key)

    def _reorder(self, operation: Operation) -> None:
        """The keys that are wanted and there, then what is there besides, in its order."""
        kind, key = operation.kind, operation.key
        rows, wanted = self.rows[kind], dict.fromkeys(operation.after)
        keys = [row_key for row_key in self._chain(kind, key) if row_key not in wanted]
        self._chains[kind, key] = _Chain(
            [*(row_key for row_key in wanted if row_key in rows), *keys]
        )

    def _chain(self, kind: str, parent: str) -> _Chain:
        place = (kind, parent)
        if place not in self._chains:
            self._chains[place] = _Chain(self._order.get(place, ()))
        return self._chains[place]


class _Chain:
    """An ordered list of keys in which one is put in or taken out without moving the others."""

    def __init__(self, keys: Iterable[str]) -> None:
        self._next: dict[str, str] = {}
        self._previous: dict[str, str] = {}
        self._last = ""
        for key in keys:
            self.insert(key, self._last)

    def __iter__(self) -> Iterator[str]:
        key = self._next.get("", "")
        while key:
            yield key
            key = self._next[key]

    def insert(self, key: str, previous: str) -> None:
        """Put ``key`` after ``previous``: first where that is empty, last where it is gone."""
        if previous and previous not in self._previous:
            previous = self._last
        following = self._next.get(previous, "")
        self._next[previous], self._next[key] = key, following
        self._previous[key] = previous
        if following:
            self._previous[following] = key
        else:
            self._last = key

    def remove(self, key: str) -> None:
        """Take ``key`` out."""
        previous, following = self._previous.pop(key), self._next.pop(key)
        self._next[previous] = following
        if following:
            self._previous[following] = previous
        else:
            self._last = previous


def words(kind: str) -> str:
    """The kind as it is called in a sentence."""
    return {
        "telling_apart": "set to tell apart",
        "source": "source file",
        "mute": "accepted finding",
    }.get(kind, kind)
