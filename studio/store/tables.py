"""Between the core's rows and the tables."""

from __future__ import annotations

import json
from collections.abc import Collection, Iterable, Sequence
from collections.abc import Mapping as MappingOf
from dataclasses import dataclass
from typing import Any

from django.db import connection
from django.db.models import QuerySet

from prism.compare.diff import Operation
from prism.compare.rows import KINDS, PARENTS, Row, RowTables, parent_of
from studio.store import models
from studio.store.models import Project

#: From so many new rows on, or characters in one, they are copied in.
_MANY, _LONG = 500, 100_000


@dataclass(frozen=True)
class Mapping:
    """How one kind of row is stored: its table, its columns, those that hold JSON text."""

    model: type[models.Row]
    columns: tuple[str, ...]
    json: frozenset[str] = frozenset()
    parent: str = ""

    def fields(self, row: Row) -> Row:
        """Column values of a row."""
        return {
            name: json.dumps(row[name], ensure_ascii=False) if name in self.json else row[name]
            for name in self.columns
        }

    def row(self, values: Row) -> Row:
        """The row of column values."""
        return {
            name: json.loads(values[name]) if name in self.json else values[name]
            for name in self.columns
        }


MAPPINGS = {
    "axis": Mapping(
        models.Axis, ("name", "description", "default", "follows"), frozenset({"follows"})
    ),
    "mode": Mapping(
        models.Mode,
        ("name", "description", "color_scheme", "selectors", "direction"),
        frozenset({"selectors"}),
        parent="axis",
    ),
    "token": Mapping(
        models.Token,
        (
            "path", "type", "tier", "description", "private", "uses", "export_names",
            "deprecated", "extensions", "extends_from", "role", "belongs_to",
        ),
        frozenset({"uses", "export_names"}),
    ),
    "value": Mapping(models.TokenValue, ("text",), parent="token"),
    "pairing": Mapping(
        models.Pairing,
        (
            "foreground", "backgrounds", "use", "required", "reason", "waiver", "page",
            "waived_by", "waived_until",
        ),
        frozenset({"backgrounds"}),
    ),
}  # fmt: skip
PROJECT_COLUMNS = (
    "name", "description", "gamut", "version", "resolver_file", "resolver_text",
)  # fmt: skip
PART_KINDS = tuple(kind for kind in KINDS if kind not in MAPPINGS and kind != "document")


def read(project: Project) -> RowTables:
    """A project's rows as the core's tables; the number of queries is fixed."""
    tables = RowTables()
    tables.put(
        "document", "", "document", {name: getattr(project, name) for name in PROJECT_COLUMNS}
    )
    for kind, mapping in MAPPINGS.items():
        rows = mapping.model._default_manager.filter(project=project).values(
            "key", *mapping.columns
        )
        for values in rows:
            key = values["key"]
            tables.put(kind, parent_of(kind, key), key, mapping.row(values))
    for part in models.Part.objects.filter(project=project):
        tables.put(part.kind, parent_of(part.kind, part.key), part.key, json.loads(part.text))
    return tables


def write(
    project: Project, before: RowTables, after: RowTables, operations: Iterable[Operation]
) -> None:
    """Change a project's rows from ``before`` to ``after`` by the operations between them."""
    touched: dict[str, list[Operation]] = {}
    for operation in operations:
        touched.setdefault(operation.kind, []).append(operation)
    if "document" in touched:
        for name, value in after.rows["document"]["document"].items():
            setattr(project, name, value)
    for kind in reversed(KINDS):
        gone = [operation.key for operation in touched.get(kind, ()) if operation.op == "remove"]
        if gone:
            _rows(project, kind).filter(key__in=gone).delete()
    for kind in KINDS:
        if kind in touched and kind != "document":
            _write_kind(project, kind, before, after, touched[kind])


def _rows(project: Project, kind: str) -> QuerySet[Any]:
    if kind in MAPPINGS:
        return MAPPINGS[kind].model._default_manager.filter(project=project)
    return models.Part.objects.filter(project=project, kind=kind)


def _columns(kind: str, row: Row) -> Row:
    if kind in MAPPINGS:
        return MAPPINGS[kind].fields(row)
    return {"text": json.dumps(row, ensure_ascii=False)}


def _write_kind(
    project: Project,
    kind: str,
    before: RowTables,
    after: RowTables,
    operations: Sequence[Operation],
) -> None:
    added = {operation.key for operation in operations if operation.op == "add"}
    changed = {operation.key for operation in operations if operation.op == "set"}
    parents = {parent_of(kind, key) for key in added}
    parents |= {
        operation.key if operation.op == "order" else parent_of(kind, operation.key)
        for operation in operations
        if operation.op in ("order", "remove")
    }
    positions = {
        key: place for parent in parents for place, key in enumerate(after.keys(kind, parent))
    }
    was = {key: place for parent in parents for place, key in enumerate(before.keys(kind, parent))}
    moved = {key for key, place in positions.items() if key not in added and was.get(key) != place}
    _add(project, kind, after, added, positions)
    existing = list(_rows(project, kind).filter(key__in=changed))
    names = list(_columns(kind, next(iter(after.rows[kind].values())))) if existing else []
    for row in existing:
        for name, value in _columns(kind, after.rows[kind][row.key]).items():
            setattr(row, name, value)
    if existing:
        _rows(project, kind).model._default_manager.bulk_update(existing, names, batch_size=500)
    _move(project, kind, {key: positions[key] for key in moved})


def _move(project: Project, kind: str, places: MappingOf[str, int]) -> None:
    """Give rows other positions, by key, in one statement."""
    if not places:
        return
    table = connection.ops.quote_name(_rows(project, kind).model._meta.db_table)
    mine = " and row.kind = %s" if kind in PART_KINDS else ""
    with connection.cursor() as cursor:
        cursor.execute(
            f"update {table} as row set position = moved.position "  # noqa: S608 - our own table
            "from unnest(%s::text[], %s::integer[]) as moved(key, position) "
            f"where row.project_id = %s and row.key = moved.key{mine}",
            [list(places), list(places.values()), project.pk, *([kind] if mine else [])],
        )


def _add(
    project: Project,
    kind: str,
    after: RowTables,
    added: Collection[str],
    positions: MappingOf[str, int],
) -> None:
    keys = [key for key in after.rows[kind] if key in added]
    if not keys:
        return
    parents = {}
    if kind in PARENTS and kind in MAPPINGS:
        wanted = {parent_of(kind, key) for key in keys}
        owners = _rows(project, PARENTS[kind]).filter(key__in=wanted)
        parents = dict(owners.values_list("key", "id"))
    model = MAPPINGS[kind].model if kind in MAPPINGS else models.Part
    rows = []
    for key in keys:
        fields = {"project_id": project.pk, "key": key, "position": positions[key]}
        fields |= _columns(kind, after.rows[kind][key])
        if kind in PART_KINDS:
            fields["kind"] = kind
        elif kind in PARENTS:
            fields[f"{PARENTS[kind]}_id"] = parents[parent_of(kind, key)]
        rows.append(fields)
    if len(rows) < _MANY and all(len(str(fields.get("text", ""))) < _LONG for fields in rows):
        model._default_manager.bulk_create(model(**fields) for fields in rows)
    else:
        _copy_in(model, rows)


def _copy_in(model: type[models.Row], rows: Sequence[Row]) -> None:
    """Add many rows at once, with PostgreSQL's own ``copy``."""
    names = list(rows[0])
    table = connection.ops.quote_name(model._meta.db_table)
    columns = ", ".join(connection.ops.quote_name(name) for name in names)
    with connection.cursor() as cursor, cursor.copy(f"copy {table} ({columns}) from stdin") as copy:
        for fields in rows:
            copy.write_row([fields[name] for name in names])
