"""Rows of the sheet as markup. A row that looks as it did before is not made again."""

from dataclasses import dataclass
from functools import lru_cache
from urllib.parse import quote

from django.template.loader import render_to_string

from prism.checks.contrast import Reading
from prism.tokens.model import shown_path

_KEPT = 2000


@dataclass(frozen=True, slots=True)
class _Cell:
    id: str
    href: str
    mode: str
    looks: str
    low: bool
    value: str
    shown: str
    hex: str
    broken: str
    ratio: str
    failing: Reading | None


@dataclass(frozen=True, slots=True)
class _Row:
    key: str
    path: str
    stem: str
    leaf: str
    description: str
    deprecated: bool
    opened: str | None
    cells: tuple[_Cell, ...]


def markup(line, slugs, base, opened=""):
    """The markup of a row of the sheet.

    ``slugs`` are those of the modes by key, ``base`` is what a cell's address begins with,
    ``opened`` the address of the cell that is open, in whatever row.
    """
    token = line.token
    path = shown_path(token.path)
    head, dot, leaf = path.rpartition(".")
    return _markup(
        _Row(
            token.key,
            path,
            head + dot,
            leaf,
            token.description,
            token.deprecated is not None,
            opened if opened.partition(":")[0] == token.key else None,
            tuple(_cell(token.key, cell, slugs, base) for cell in line.cells),
        )
    )


@lru_cache(maxsize=_KEPT)
def _markup(row):
    return render_to_string("tokens/line.html", {"line": row})


def _cell(key, cell, slugs, base):
    mode = cell.mode.key if cell.mode else ""
    slug = slugs.get(mode, "")
    worst = cell.worst
    return _Cell(
        id=f"{key}:{slug}",
        href=f"{base}cell={quote(key)}%3A{slug}",
        mode=mode,
        looks=cell.looks,
        low=cell.inherited,
        value=cell.text,
        shown=cell.shown,
        hex=cell.answer.hex,
        broken=cell.answer.broken,
        ratio=worst.shown if worst and not worst.fails else "",
        failing=worst if worst and worst.fails else None,
    )
