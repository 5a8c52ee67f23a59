"""Merging two changes of one document, with the clashes named."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from prism.compare.diff import Operation, RowEditor, diff_tables, words
from prism.compare.match import describe
from prism.compare.rows import (
    PARENTS,
    Row,
    RowTables,
    condition_from,
    document_of,
    parent_of,
    rows_of,
)
from prism.errors import ExpressionError
from prism.expressions.values import decode, encode, references, rewrite
from prism.model.document import Document, Token, shown_path
from prism.model.whole import flaws
from prism.resolution.breaks import breaks
from prism.resolution.current import resolver_of

#: Fields that hold a list of things, each of which is put in or taken out by itself.
LISTS = frozenset(
    (("ramp", "steps"), ("ramp", "moved"), ("telling_apart", "tokens"), ("token", "uses"))
)
#: A row by its kind and full key.
RowName = tuple[str, str]
_SAID = 3


@dataclass(frozen=True, slots=True)
class Clash:
    """One thing that the two sides do not agree on; the merged document has theirs.

    ``mine`` and ``theirs`` are the values of one field or row where both sides have one, None
    elsewhere. ``yours`` and ``others`` say in words what each side did; ``rows`` are all rows
    the clash is about.
    """

    kind: str
    key: str
    sentence: str
    mine: Any = None
    theirs: Any = None
    rows: tuple[RowName, ...] = ()
    yours: str = ""
    others: str = ""

    def touched_by(self, operation: Operation) -> bool:
        """Whether an operation changes what the clash is about."""
        return touches(operation, self.rows)


@dataclass(frozen=True, slots=True)
class Merged:
    """A merged document and what could not be merged."""

    document: Document
    clashes: tuple[Clash, ...]


def merge(base: Document, mine: Document, theirs: Document, *, prefer_mine: bool = False) -> Merged:
    """Apply what ``mine`` changed of ``base`` to ``theirs``.

    Changes to different rows or fields are both kept. References follow a rename of the other
    side. Where both changed one thing differently, or the two changes together would leave a
    document that is not whole, a reference to nothing or a circle, theirs stands and a clash is
    reported; with ``prefer_mine`` mine stands where it can. All three documents are whole.
    """
    old, here, there = rows_of(base), rows_of(mine, base), rows_of(theirs, base)
    paths = _paths(old, here, there)
    reference = _followed(old, paths)
    merged = RowEditor(_followed(there, paths))
    operations = diff_tables(reference, _followed(here, paths))
    clashes = [
        clash
        for operation in operations
        if operation.op != "order"
        and (clash := _apply(merged, reference, operation, prefer_mine)) is not None
    ]
    for operation in operations:
        if operation.op == "order":
            merged.apply(operation)
    document = document_of(merged.tables(), theirs)
    if not clashes:
        clashes = list(_not_whole(document, theirs) or _new_breaks(document, mine, theirs))
    return Merged(document, _explained(clashes, base, mine, theirs))


def touches(operation: Operation, rows: Iterable[RowName]) -> bool:
    """Whether an operation changes one of the rows, or what lies in or hangs on it."""
    named = {(operation.kind, operation.key)}
    if operation.kind == "value":
        token, condition = operation.key.split(" ", 1)
        named.add(("token", token))
        for axis, mode in condition_from(condition).picks:
            named |= {("axis", axis), ("mode", f"{axis} {mode}")}
    elif operation.kind in PARENTS:
        named.add((PARENTS[operation.kind], parent_of(operation.kind, operation.key)))
    return not named.isdisjoint(rows)


# References that follow a rename


def _paths(old: RowTables, here: RowTables, there: RowTables) -> dict[str, str]:
    """The path every token of ``old`` has in the end, by key: a rename of mine comes first."""
    paths = {}
    for key, row in old.rows["token"].items():
        mine = here.rows["token"].get(key, row)["path"]
        theirs = there.rows["token"].get(key, row)["path"]
        paths[key] = mine if mine != row["path"] else theirs
    return paths


def _followed(tables: RowTables, paths: Mapping[str, str]) -> RowTables:
    """``tables`` with every reference to a token of ``paths``, by key, by its path there."""
    renamed: dict[str, str] = {}
    for key, row in tables.rows["token"].items():
        path = paths.get(key, row["path"])
        if path != row["path"]:
            renamed[row["path"]] = path
            renamed.setdefault(shown_path(row["path"]), shown_path(path))
    if not renamed:
        return tables
    values, order = dict(tables.rows["value"]), dict(tables.order)
    for full, row in values.items():
        token = tables.rows["token"][full.split(" ", 1)[0]]
        text = encode(rewrite(decode(row["text"]), token["type"], renamed))
        if text != row["text"]:
            values[full] = {"text": text}
            place = ("value", parent_of("value", full))
            order[place] = list(order[place])
    return RowTables(tables.rows | {"value": values}, order)


# One operation


def _apply(
    merged: RowEditor, reference: RowTables, operation: Operation, prefer_mine: bool
) -> Clash | None:
    """Carry out one of my operations on their rows; a clash where it cannot be."""
    if operation.op == "add":
        return _add(merged, reference, operation)
    kind, key = operation.kind, operation.key
    rows = merged.rows[kind]
    name = _name(merged, reference, kind, key)
    if key not in rows:
        if operation.op == "remove":
            return None
        owner = PARENTS.get(kind, "")
        if owner and parent_of(kind, key) not in merged.rows[owner]:
            kind, key = owner, parent_of(kind, key)
        elif kind == "value" and (mode := _gone_mode(merged, key)):
            kind, key = "mode", mode
        name = _name(merged, reference, kind, key)
        return _removed(kind, key, name, "somebody else", mine=operation.after)
    before = reference.rows[kind][key]
    if operation.op == "remove":
        changed = rows[key] != before or _children_changed(merged, reference, kind, key)
        if changed and prefer_mine:
            _remove_children(merged, kind, key)
        elif changed:
            return _removed(kind, key, name, "you", theirs=rows[key])
        merged.remove(kind, key)
        return None
    now = rows[key][operation.field]
    both = _merged_list(kind, operation, now)
    if both is not None:
        merged.set(kind, key, operation.field, both)
        return None
    if now not in (operation.before, operation.after) and not prefer_mine:
        sentence = f"The value of {name} was changed by both."
        if kind != "value":
            field = operation.field.replace("_", " ")
            sentence = f"Both changed the {field} of the {words(kind)} {name}."
        return Clash(kind, key, sentence, operation.after, now, ((kind, key),))
    merged.set(kind, key, operation.field, operation.after)
    return None


def _merged_list(kind: str, operation: Operation, theirs: Any) -> list[Any] | None:
    """A list with what both sides put in and without what either took out; None where the field is no
    such list, or both brought what stayed into another order."""
    before, mine = operation.before, operation.after
    if (kind, operation.field) not in LISTS or theirs == before:
        return None
    stayed = [item for item in before if item in mine and item in theirs]
    orders = [[item for item in side if item in stayed] for side in (mine, theirs)]
    if orders[0] not in (stayed, orders[1]) and orders[1] != stayed:
        return None
    first, second = (mine, theirs) if orders[1] == stayed else (theirs, mine)
    kept = [item for item in first if item in second or item not in before]
    for place, item in enumerate(second):
        if item not in before and item not in kept:
            ahead = [kept.index(known) for known in second[:place] if known in kept]
            kept.insert(max(ahead) + 1 if ahead else 0, item)
    return kept


def _remove_children(merged: RowEditor, kind: str, key: str) -> None:
    for child in [child for child, owner in PARENTS.items() if owner == kind]:
        for full in [full for full in merged.rows[child] if parent_of(child, full) == key]:
            merged.remove(child, full)


def _add(merged: RowEditor, reference: RowTables, operation: Operation) -> Clash | None:
    kind, key = operation.kind, operation.key
    rows, parent = merged.rows[kind], parent_of(kind, key)
    if key in rows:
        if rows[key] == operation.row:
            return None
        name = _name(merged, reference, kind, key)
        sentence = f"Both added the {words(kind)} {name}."
        return Clash(kind, key, sentence, operation.row, rows[key], ((kind, key),))
    owner = PARENTS.get(kind, "")
    gone = (owner, parent) if owner and parent not in merged.rows[owner] else None
    if kind == "value" and gone is None and (mode := _gone_mode(merged, key)):
        gone = ("mode", mode)
    if gone is not None:
        if gone[1] not in reference.rows[gone[0]]:
            return None  # what I added it to was not added, and that is a clash already
        name = _name(merged, reference, *gone)
        return _removed(*gone, name, "somebody else", mine=operation.row)
    merged.apply(operation)
    return None


def _removed(
    kind: str, key: str, name: str, who: str, *, mine: Any = None, theirs: Any = None
) -> Clash:
    sentence = f"The {words(kind)} {name} was removed by {who} and changed meanwhile."
    return Clash(kind, key, sentence, mine, theirs, ((kind, key),))


def _gone_mode(merged: RowEditor, key: str) -> str:
    """The full key of a mode that a value's condition names and that is gone; else empty."""
    for axis, mode in condition_from(key.split(" ", 1)[1]).picks:
        if f"{axis} {mode}" not in merged.rows["mode"]:
            return f"{axis} {mode}"
    return ""


def _children_changed(merged: RowEditor, reference: RowTables, kind: str, key: str) -> bool:
    child = next((child for child, owner in PARENTS.items() if owner == kind), None)
    if child is None:
        return False
    was = {k: reference.rows[child][k] for k in reference.keys(child, key)}
    tables = merged.rows[child]
    now = {full: row for full, row in tables.items() if parent_of(child, full) == key}
    return any(row != was.get(full) for full, row in now.items())


def _name(merged: RowEditor, reference: RowTables, kind: str, key: str) -> str:
    """What a person calls a row."""
    if kind == "value":
        return _name(merged, reference, "token", key.split(" ", 1)[0])
    if kind == "binding":
        return (
            f"{key.split(' ', 1)[1]} in {_name(merged, reference, 'scene', parent_of(kind, key))}"
        )
    row: Row = merged.rows[kind].get(key) or reference.rows[kind].get(key) or {}
    return shown_path(str(row.get("path") or row.get("name") or key))


# Both changes together


def _not_whole(document: Document, theirs: Document) -> list[Clash]:
    """What keeps a merged document from being whole."""
    return [
        Clash(flaw.kind, flaw.key, flaw.sentence, rows=((flaw.kind, flaw.key), *flaw.others))
        for flaw in flaws(document, theirs)
    ]


def _new_breaks(document: Document, mine: Document, theirs: Document) -> Iterator[Clash]:
    """Tokens that refer to nothing, or stand in a circle, only since both changes met."""
    known = {token.key: token for token in theirs.tokens}
    changed = [token for token in document.tokens if known.get(token.key) is not token]
    changed = [token for token in changed if known.get(token.key) != token]
    if [axis.key for axis in theirs.axes] != [axis.key for axis in document.axes]:
        changed = list(document.tokens)
    resolver = resolver_of(document, resolver_of(theirs))
    lost = {t.path for t in theirs.tokens} - {t.path for t in document.tokens}
    watched = list(document.tokens) if lost else changed
    for token in watched:
        for path in _missing(document, token):
            if path not in _missing(mine, mine.token(token.key)) and path not in _missing(
                theirs, known.get(token.key)
            ):
                target = theirs.token_at(path) or mine.token_at(path)
                rows = (("token", token.key), *((("token", target.key),) if target else ()))
                sentence = f"{shown_path(token.path)} would refer to {{{path}}}, which is gone."
                yield Clash("token", token.key, sentence, rows=rows)
                return
    retyped = {t.key for t in changed if t.key in known and known[t.key].type != t.type}
    keys = {token.key for token in changed} | resolver.graph.users(retyped)
    for key in (token.key for token in document.tokens if token.key in keys):
        broken = breaks(resolver, key)
        for side in (mine, theirs) if broken else ():
            broken -= breaks(resolver_of(side), key) if side.token(key) is not None else set()
        for sentence in sorted(broken):
            rows = tuple(("token", reached) for reached in sorted(resolver.graph.reach([key])))
            yield Clash("token", key, sentence, rows=rows)
            return


def _missing(document: Document, token: Token | None) -> list[str]:
    """Paths a token of ``document`` refers to that are not there."""
    if token is None:
        return []
    missing = []
    for _, value in token.values:
        try:
            missing += [p for p in references(value, token.type) if document.token_at(p) is None]
        except ExpressionError:
            continue
    return missing


# What each side did, in words


def _explained(
    clashes: Sequence[Clash], base: Document, mine: Document, theirs: Document
) -> tuple[Clash, ...]:
    if not clashes:
        return ()
    old = rows_of(base)
    sides = [(side, diff_tables(old, rows_of(side, base))) for side in (mine, theirs)]
    return tuple(
        replace(
            clash,
            yours=_told(clash, base, *sides[0]),
            others=_told(clash, base, *sides[1]),
        )
        for clash in clashes
    )


def _told(clash: Clash, base: Document, side: Document, operations: Sequence[Operation]) -> str:
    """What a side did to the rows of a clash, or else at all: the first few operations in words."""
    touching = [
        operation
        for operation in operations
        if operation.op != "order" and clash.touched_by(operation)
    ]
    touching = touching or list(operations)
    told = [_short(describe(operation, base, side)) for operation in touching[:_SAID]]
    more = len(touching) - len(told)
    return "; ".join(told) + (f"; and {more} more" if more > 0 else "")


def _short(text: str) -> str:
    return text if len(text) <= 160 else f"{text[:159]}…"


def clashing(clashes: Sequence[Clash], who: Callable[[Clash], str]) -> str:
    """All clashes as one text: what, what you did, and what ``who(clash)`` did."""
    return " ".join(
        clash.sentence.replace("by somebody else", f"by {who(clash) or 'somebody else'}")
        + (f" You: {clash.yours}." if clash.yours else "")
        + (f" {who(clash)}: {clash.others}." if clash.others else "")
        for clash in clashes[:_SAID]
    ) + (f" There are {len(clashes) - _SAID} more." if len(clashes) > _SAID else "")
