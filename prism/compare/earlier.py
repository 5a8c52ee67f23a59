"""Operations as journals hold them, in the form of today and in earlier ones.

Until bindings were rows of their own, a scene's row held them as a list. Until modes had
selectors and a direction, their rows had none, those of ramps no base, those of tokens neither a role nor what they
belong to, those of pairings no author of a waiver, and those of sets nothing besides color.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

from prism.compare.diff import Operation, diff_tables
from prism.compare.rows import RowTables, put_bindings

#: Fields that rows did not always have, with what they were read as.
_ADDED: Mapping[str, Mapping[str, Any]] = {
    "ramp": {"base": ""},
    "token": {"role": "", "belongs_to": ""},
    "mode": {"selectors": [], "direction": ""},
    "pairing": {"waived_by": "", "waived_until": ""},
    "telling_apart": {"besides": ""},
}


def operations_from(members: Iterable[Mapping[str, Any]]) -> list[Operation]:
    """The operations that ``Operation.plain`` made members of, whatever version did."""
    return [operation for plain in members for operation in _operations(Operation(**plain))]


def _operations(operation: Operation) -> Iterator[Operation]:
    """One operation, with the list of bindings in it taken apart."""
    if operation.kind in _ADDED and operation.row is not None:
        yield replace(operation, row={**_ADDED[operation.kind], **operation.row})
    elif operation.kind != "scene":
        yield operation
    elif operation.op == "set" and operation.field == "bindings":
        yield from _between(operation.key, operation.before, operation.after)
    elif operation.row is not None and "bindings" in operation.row:
        row = {name: value for name, value in operation.row.items() if name != "bindings"}
        bare = Operation(operation.op, "scene", operation.key, previous=operation.previous, row=row)
        bindings = operation.row["bindings"]
        if operation.op == "add":
            yield bare
            yield from _between(operation.key, (), bindings)
        else:
            yield from _between(operation.key, bindings, ())
            yield bare
    else:
        yield operation


def _between(
    scene: str, before: Iterable[Sequence[str]], after: Iterable[Sequence[str]]
) -> list[Operation]:
    tables = (RowTables(), RowTables())
    for side, bindings in zip(tables, (before, after), strict=True):
        put_bindings(side, scene, bindings)
    return diff_tables(*tables)
