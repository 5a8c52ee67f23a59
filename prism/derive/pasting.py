"""Pasting onto the sheet: a range of cells as text, CSS declarations, or a two-column table."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from prism.changes.outcome import Outcome
from prism.changes.values import Setting, set_values
from prism.derive.mapping import Place
from prism.errors import EditError
from prism.expressions.typed_input import read_typed
from prism.model.document import Document, Token, shown_path
from prism.model.names import css_names

MAX_CELLS = 20_000
MAX_TEXT = 1_000_000
_DECLARATION = re.compile(r"\s*(--[^\s:;{}]+)\s*:\s*([^;{}]+?)\s*(?:;|\Z)")


@dataclass(frozen=True, slots=True)
class Named:
    """Values that came with names: for each token that was found its text, and names that no token
    has."""

    values: tuple[tuple[Token, str], ...]
    unknown: tuple[str, ...]


def grid(text: str) -> list[list[str]]:
    """Rows of cells, as spreadsheets copy them: tabs between cells, a line a row."""
    if len(text) > MAX_TEXT:
        raise EditError(f"At most {MAX_TEXT} characters are pasted at once.")
    lines = text.replace("\r\n", "\n").replace("\r", "\n").rstrip("\n").split("\n")
    rows = [line.split("\t") for line in lines]
    if sum(map(len, rows)) > MAX_CELLS:
        raise EditError(f"At most {MAX_CELLS} cells are pasted at once.")
    return rows


def named(document: Document, text: str) -> Named | None:
    """The values of CSS declarations, or of a table of a name and a value a line; None for neither.

    A name is a token's path or its CSS name, with or without the dashes before it. A table whose
    first column names raw tokens is a range of references, and no table of names.
    """
    pairs = [(match[1], match[2]) for match in _DECLARATION.finditer(text)]
    if not pairs:
        rows = grid(text)
        if any(len(row) != 2 for row in rows):
            return None
        pairs = [(row[0].strip(), row[1].strip()) for row in rows]
        first = [document.token_at(name) for name, _ in pairs]
        if any(token is not None and token.tier == "raw" for token in first):
            return None
    by_name = _names(document)
    selected, unknown = [], []
    for name, value in pairs:
        token = by_name.get(name) or by_name.get(name.removeprefix("--"))
        if token is None:
            unknown.append(name)
        else:
            selected.append((token, _value(value, by_name)))
    if not selected:
        return None
    return Named(tuple(selected), tuple(unknown))


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


def by_name(document: Document, cells: Mapping[str, Place], cell: Named) -> Outcome:
    """Store values that came with names, each in the cell of its token; ``cells`` by token key."""
    settings: list[Setting] = [
        (token.key, cells[token.key].condition, read_typed(document, text, token))
        for token, text in cell.values
        if token.key in cells
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
