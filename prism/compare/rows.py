"""A document as tables of plain rows, and back.

The rows are what is stored, compared and written to the journal. Row fields hold JSON values
only; every list of rows is ordered.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from prism.errors import PrismError
from prism.expressions.values import decode, encode
from prism.model import document as model
from prism.model import imported, schema
from prism.model.document import Document
from prism.model.values import Condition
from prism.resolution.recent import Recent

Row = dict[str, Any]

#: Kinds in the order parents come before their children.
KINDS = (
    "document", "axis", "mode", "group", "token", "value", "ramp", "purpose", "scheme", "theme",
    "pairing", "rule", "word", "telling_apart", "mute", "scene", "binding", "page", "source", "layer",
)  # fmt: skip
#: The kind a row's parent is of, for kinds that have one.
PARENTS = {"mode": "axis", "value": "token", "binding": "scene"}

#: Kinds that are one dataclass with a key and plain fields: document attribute and class.
_PLAIN: dict[str, tuple[str, type]] = {
    "ramp": ("ramps", model.Ramp),
    "purpose": ("purposes", model.Purpose),
    "scheme": ("schemes", model.Scheme),
    "theme": ("themes", model.SavedTheme),
    "pairing": ("pairings", model.Pairing),
    "rule": ("rules", model.Rule),
    "word": ("words", model.Word),
    "telling_apart": ("telling_apart", model.TellingApart),
    "mute": ("mutes", model.Mute),
    "scene": ("scenes", model.Scene),
    "page": ("pages", model.Page),
    "layer": ("layers", imported.Layer),
}
#: Fields of plain kinds that are rows of their own.
_APART = {"scene": ("bindings",)}


@dataclass(slots=True)
class RowTables:
    """Rows by kind and full key, and the order of keys under each parent.

    A child's full key is its parent's key, a space, and its own.
    """

    rows: dict[str, dict[str, Row]] = field(default_factory=lambda: {kind: {} for kind in KINDS})
    order: dict[tuple[str, str], list[str]] = field(default_factory=dict)

    def put(self, kind: str, parent: str, key: str, row: Row) -> None:
        """Append a row at the end of its list."""
        self.rows[kind][key] = row
        self.order.setdefault((kind, parent), []).append(key)

    def keys(self, kind: str, parent: str = "") -> list[str]:
        """The full keys of a kind under a parent, in order."""
        return self.order.get((kind, parent), [])


def parent_of(kind: str, key: str) -> str:
    """The parent's key within a full key; empty for kinds without one."""
    return key.split(" ", 1)[0] if kind in PARENTS else ""


def condition_text(condition: Condition) -> str:
    """A condition as JSON text, for keys and columns."""
    return json.dumps([list(pick) for pick in condition.picks], separators=(",", ":"))


def condition_from(text: str) -> Condition:
    """The condition that ``condition_text`` wrote; ``PrismError`` for any other text."""
    try:
        picks = [(str(axis), str(mode)) for axis, mode in json.loads(text)]
    except (ValueError, TypeError, RecursionError):
        raise PrismError("This is not a condition.", fix="Choose one from the list.") from None
    return Condition.of(dict(picks))


def _lists(value: Any) -> Any:
    return [_lists(item) for item in value] if isinstance(value, tuple | list) else value


def _tuples(value: Any) -> Any:
    return tuple(_tuples(item) for item in value) if isinstance(value, list) else value


def _row(part: object, names: Iterable[str]) -> Row:
    return {name: _lists(getattr(part, name)) for name in names}


def flatten(document: Document, known: tuple[Document, RowTables] | None = None) -> RowTables:
    """A document as tables.

    ``known`` is another document with its tables; rows of what both share are taken from there,
    the very same objects, and so are the lists of keys where all they name is shared.
    """
    tables = RowTables()
    shared = _share(tables, document, *known) if known else set()
    tables.put("document", "", "document", _row(document, schema.DOCUMENT))
    _put_axes(tables, document)
    for group in document.groups:
        tables.put("group", "", group.path, _row(group, schema.GROUP))
    _put_tokens(tables, document, shared)
    _put_parts(tables, document, known)
    for source in document.sources:
        entries = [[e.path, e.text, e.token, e.hidden, e.folded] for e in source.entries]
        tables.put("source", "", source.key, {"file": source.file, "entries": entries})
    return tables


def _put_axes(tables: RowTables, document: Document) -> None:
    for axis in document.axes:
        follows = axis.follows and [axis.follows.feature, _lists(axis.follows.modes)]
        row = _row(axis, schema.AXIS) | {"follows": follows}
        tables.put("axis", "", axis.key, row)
        for mode in axis.modes:
            row = _row(mode, schema.MODE)
            tables.put("mode", axis.key, f"{axis.key} {mode.key}", row)


def _put_tokens(tables: RowTables, document: Document, shared: set[int]) -> None:
    """Tokens and their values, but for those in ``shared``, whose rows are there."""
    if document.tokens:
        tables.order["token", ""] = [token.key for token in document.tokens]
    for token in document.tokens:
        if id(token) in shared:
            continue
        tables.rows["token"][token.key] = _row(token, schema.TOKEN)
        for condition, value in token.values:
            key = f"{token.key} {condition_text(condition)}"
            tables.put("value", token.key, key, {"text": encode(value)})


def _put_parts(
    tables: RowTables, document: Document, known: tuple[Document, RowTables] | None
) -> None:
    """The parts that are lists of their own; a list that ``known`` has too is taken from there."""
    for kind, (attribute, cls) in _PLAIN.items():
        parts = getattr(document, attribute)
        if known and parts is getattr(known[0], attribute):
            _take(tables, known[1], kind)
            continue
        for part in parts:
            names = schema.stored_fields(cls, *_APART.get(kind, ()))
            tables.put(kind, "", part.key, _row(part, names))
        if kind == "scene":
            for part in parts:
                put_bindings(tables, part.key, part.bindings)


def put_bindings(tables: RowTables, scene: str, bindings: Iterable[Sequence[str]]) -> None:
    """Append a row for each binding of a scene, a slot and a token's key."""
    for slot, token in bindings:
        tables.put("binding", scene, f"{scene} {slot}", {"token": token})


def _bindings(tables: RowTables, scene: str) -> tuple[tuple[str, str], ...]:
    """The slots of a scene and the keys of their tokens."""
    return tuple(
        (full.split(" ", 1)[1], tables.rows["binding"][full]["token"])
        for full in tables.keys("binding", scene)
    )


def _take(tables: RowTables, known: RowTables, kind: str) -> None:
    """Take over all rows of a kind that has no parents, and those that lie in them."""
    for taken in (kind, *(child for child, parent in PARENTS.items() if parent == kind)):
        tables.rows[taken] = known.rows[taken]
        tables.order |= {place: keys for place, keys in known.order.items() if place[0] == taken}


def _share(tables: RowTables, document: Document, before: Document, known: RowTables) -> set[int]:
    """Take the rows of the tokens that two documents share; their identities."""
    now, was = ({id(token) for token in side.tokens} for side in (document, before))
    tables.rows["token"] = dict(known.rows["token"])
    tables.rows["value"] = dict(known.rows["value"])
    tables.order = {place: keys for place, keys in known.order.items() if place[0] == "value"}
    for token in before.tokens:
        if id(token) not in now:
            del tables.rows["token"][token.key]
            for full in tables.order.pop(("value", token.key), ()):
                del tables.rows["value"][full]
    return now & was


def parts_of(kind: str, rows: Iterable[tuple[str, Row]]) -> dict[str, Any]:
    """Parts of a plain kind from their keys and rows, as a field of a document and its value."""
    attribute, cls = _PLAIN[kind]
    build: Callable[..., Any] = cls
    parts = [build(key=key, **{n: _tuples(v) for n, v in row.items()}) for key, row in rows]
    return {attribute: tuple(parts)}


_tables: Recent[RowTables] = Recent()


def rows_of(document: Document, before: Document | None = None) -> RowTables:
    """A document's tables, shared by all who ask; nobody changes them.

    ``before`` is a document that shares parts with it.
    """

    def make() -> RowTables:
        shared = _tables.get(before) if before is not None else None
        known = (before, shared) if before is not None and shared is not None else None
        return flatten(document, known)

    return _tables.of(document, make)


def document_of(tables: RowTables, before: Document) -> Document:
    """The document of tables that nobody changes any more.

    ``before`` is the document that they were made from.
    """
    document = unflatten(tables, (before, rows_of(before)))
    _tables.put(document, tables)
    return document


def unflatten(tables: RowTables, known: tuple[Document, RowTables] | None = None) -> Document:
    """The document that ``flatten`` took apart.

    ``known`` is another document with its tables; parts whose rows are taken from there are the
    same objects as in it.
    """
    rows = tables.rows
    parts: dict[str, Any] = dict(rows["document"].get("document", {}))
    before, was = known or (None, RowTables())
    parts["axes"] = tuple(_axis(tables, key) for key in tables.keys("axis"))
    parts["groups"] = tuple(
        model.Group(path=path, **rows["group"][path]) for path in tables.keys("group")
    )
    parts["tokens"] = tuple(
        token
        if before is not None and (token := _shared(tables, key, before, was)) is not None
        else _token(tables, key)
        for key in tables.keys("token")
    )
    for kind in _PLAIN:
        parts |= parts_of(kind, ((key, rows[kind][key]) for key in tables.keys(kind)))
    parts["scenes"] = tuple(
        replace(scene, bindings=_bindings(tables, scene.key)) for scene in parts["scenes"]
    )
    parts["sources"] = tuple(
        imported.Source(
            key=key,
            file=rows["source"][key]["file"],
            entries=tuple(imported.Entry(*entry) for entry in rows["source"][key]["entries"]),
        )
        for key in tables.keys("source")
    )
    if before is not None:
        for name in ("axes", "groups", "sources", *(attribute for attribute, _ in _PLAIN.values())):
            if parts[name] == getattr(before, name):
                parts[name] = getattr(before, name)
    return Document(**parts)


def _shared(tables: RowTables, key: str, before: Document, was: RowTables) -> model.Token | None:
    """The token of the document before, where all its rows are the very same."""
    if tables.rows["token"][key] is not was.rows["token"].get(key):
        return None
    keys = tables.keys("value", key)
    if keys != was.keys("value", key):
        return None
    now, then = tables.rows["value"], was.rows["value"]
    if any(now[full] is not then[full] for full in keys):
        return None
    return before.token(key)


def _axis(tables: RowTables, key: str) -> model.Axis:
    row = dict(tables.rows["axis"][key])
    follows = row.pop("follows")
    modes = tuple(
        model.Mode(
            key=full.split(" ", 1)[1],
            **{name: _tuples(value) for name, value in tables.rows["mode"][full].items()},
        )
        for full in tables.keys("mode", key)
    )
    return model.Axis(
        key=key,
        modes=modes,
        follows=model.Follows(follows[0], _tuples(follows[1])) if follows else None,
        **row,
    )


def _token(tables: RowTables, key: str) -> model.Token:
    values = tuple(
        (condition_from(full.split(" ", 1)[1]), decode(tables.rows["value"][full]["text"]))
        for full in tables.keys("value", key)
    )
    row = {name: _tuples(value) for name, value in tables.rows["token"][key].items()}
    return model.Token(key=key, values=values, **row)
