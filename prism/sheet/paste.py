"""Pasting onto the sheet: a range of cells as text, CSS declarations, or a two-column table."""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from prism.changes.outcome import Outcome
from prism.changes.values import Setting, set_values
from prism.errors import EditError
from prism.expressions.typed_input import read_typed
from prism.model.document import Document, Token, shown_path
from prism.model.names import css_names
from prism.model.storable import well_formed
from prism.model.values import BASE, Condition
from prism.palette.mapping import Place

MAX_CELLS = 20_000
MAX_TEXT = 1_000_000
_ENDS = re.compile(r"[;{}]")


@dataclass(frozen=True, slots=True)
class Named:
    """Values that came with names: for each token its text and the mode of its column, empty without
    one; and names that no token has, each with its values by mode."""

    values: tuple[tuple[Token, str, str], ...]
    fresh: tuple[tuple[str, tuple[tuple[str, str], ...]], ...]
    #: Whether it can be nothing else: declarations, or a table under headings.
    is_table_of_names: bool = False

    @property
    def unknown(self) -> tuple[str, ...]:
        """The names that no token has."""
        return tuple(name for name, _ in self.fresh)


def grid(text: str) -> list[list[str]]:
    """Rows of cells, as spreadsheets copy them: tabs between cells, a line a row."""
    if len(text) > MAX_TEXT:
        raise EditError(f"At most {MAX_TEXT} characters are pasted at once.")
    lines = text.replace("\r\n", "\n").replace("\r", "\n").rstrip("\n").split("\n")
    rows = [line.split("\t") for line in lines]
    if sum(map(len, rows)) > MAX_CELLS:
        raise EditError(f"At most {MAX_CELLS} cells are pasted at once.")
    return rows


def named(document: Document, text: str, axis: str = "") -> Named | None:
    """The values of CSS declarations, of a table of a name and a value a line, or of a table under a
    row of headings that names modes of ``axis``; None for none of these.

    A name is a token's path or its CSS name, with or without the dashes before it. A table whose
    first column names raw tokens is a range of references, and no table of names; nor is one none
    of whose names is a token.
    """
    read = _read(document, text, axis)
    return read if read is not None and read.values else None


def unknown(
    document: Document, text: str, axis: str = ""
) -> list[tuple[str, list[tuple[Condition, str]]]]:
    """The names of a pasted text that no token has, with their values by condition; none of a table
    of two columns that names no token at all, as it may be a range of values."""
    read = _read(document, text, axis)
    if read is None or not (read.values or read.is_table_of_names):
        return []
    owner = document.axis(axis)
    default = owner.default if owner is not None else ""
    by_name = _names(document)
    fresh = []
    for name, values in read.fresh:
        typed = [
            (BASE if mode in ("", default) else Condition.of({axis: mode}), _value(value, by_name))
            for mode, value in values
            if value.strip()
        ]
        path = re.sub(r"^--", "", name)
        if typed and well_formed(path):
            fresh.append((path, typed))
    return fresh


def _read(document: Document, text: str, axis: str) -> Named | None:
    declared = [(name, (("", value),)) for name, value in _declarations(text)]
    pairs = declared or _rows(document, text, axis)
    if pairs is None:
        return None
    by_name = _names(document)
    values, fresh = [], []
    for name, cells in pairs:
        token = by_name.get(name) or by_name.get(name.removeprefix("--"))
        if token is None:
            fresh.append((name, cells))
        else:
            values += [(token, _value(value, by_name), mode) for mode, value in cells if value]
    certain = bool(declared) or any(mode for _, cells in pairs for mode, _ in cells)
    return Named(tuple(values), tuple(fresh), certain)


def _declarations(text: str) -> Iterator[tuple[str, str]]:
    """The names and values of the custom properties that a text declares."""
    for statement in _ENDS.split(text) if "--" in text else ():
        before, _, value = statement.partition(":")
        words = before.split()
        if value.strip() and words and words[-1].startswith("--") and words[-1] != "--":
            yield words[-1], value.strip()


def _rows(
    document: Document, text: str, axis: str
) -> list[tuple[str, tuple[tuple[str, str], ...]]] | None:
    """The rows of a table of names: each with its values, by mode under headings; None for another."""
    rows = [[cell.strip() for cell in row] for row in grid(text)]
    owner = document.axis(axis)
    modes = {mode.name.casefold(): mode.key for mode in owner.modes} if owner is not None else {}
    headings = [modes.get(cell.casefold(), "") for cell in rows[0][1:]]
    if any(headings):
        return [
            (row[0], tuple((m, v) for m, v in zip(headings, row[1:], strict=False) if m))
            for row in rows[1:]
            if row[0]
        ]
    if any(len(row) != 2 for row in rows):
        return None
    tokens = [document.token_at(row[0]) for row in rows]
    if any(token is not None and token.tier == "raw" for token in tokens):
        return None
    return [(name, (("", value),)) for name, value in rows]


def _names(document: Document) -> dict[str, Token]:
    by_path: dict[str, Token] = {}
    names = css_names(document)
    for token in document.tokens:
        if token.key in names:
            by_path.setdefault(names[token.key].removeprefix("--").removeprefix("_"), token)
    for token in document.tokens:
        by_path[shown_path(token.path)] = token
    return by_path


def _value(text: str, by_name: Mapping[str, Token]) -> str:
    """A pasted value; ``var(--x)`` becomes the reference to the token of that name."""
    match = re.fullmatch(r"var\(\s*--([^\s,)]+)\s*\)", text)
    token = by_name.get(match[1]) if match else None
    return "{" + shown_path(token.path) + "}" if token is not None else text


def onto(document: Document, rows: Sequence[Sequence[Place]], text: str) -> Outcome:
    """Paste a range of text onto cells, from the first of ``rows`` on.

    One value alone fills every cell given. What of a range lies beyond the last row or column is
    left out, and said in ``skipped``. Empty cells of the text change nothing.
    """
    cells = grid(text)
    single = len(cells) == 1 and len(cells[0]) == 1
    settings: list[Setting] = []
    for down, row in enumerate(rows):
        for right, place in enumerate(row):
            if single:
                token = cells[0][0]
            elif down < len(cells) and right < len(cells[down]):
                token = cells[down][right]
            else:
                continue
            if token.strip():
                value = read_typed(document, token, place.token)
                settings.append((place.token.key, place.condition, value))
    done = _stored(document, settings)
    return done if single else Outcome(done.document, done.changed, _beyond(cells, rows))


def _beyond(cells: Sequence[Sequence[str]], rows: Sequence[Sequence[Place]]) -> tuple[str, ...]:
    """In words, the rows and columns of a text for which there are no cells."""
    filled = [
        (down, right)
        for down, row in enumerate(cells)
        for right, token in enumerate(row)
        if token.strip()
    ]
    wide = max(map(len, rows), default=0)
    counts = {
        "row": len({down for down, _ in filled if down >= len(rows)}),
        "column": len({right for _, right in filled if right >= wide}),
    }
    return tuple(
        f"{count} {name}{'' if count == 1 else 's'} beyond the last"
        for name, count in counts.items()
        if count
    )


def by_name(document: Document, cells: Mapping[tuple[str, str], Place], cell: Named) -> Outcome:
    """Store values that came with names, each in the cell of its token; ``cells`` by token key and
    mode."""
    settings: list[Setting] = [
        (token.key, cells[token.key, mode].condition, read_typed(document, text, token))
        for token, text, mode in cell.values
        if (token.key, mode) in cells
    ]
    done = _stored(document, settings)
    return Outcome(done.document, done.changed, cell.unknown)


def _stored(document: Document, settings: list[Setting]) -> Outcome:
    if not settings:
        raise EditError("Nothing that was pasted fits here.", fix="Select the first cell.")
    changed = set_values(document, settings)
    was = {token.key: dict(token.values) for token in document.tokens}
    fresh = sum(was[key].get(condition) != value for key, condition, value in settings)
    return Outcome(changed, fresh)
