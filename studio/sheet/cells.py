"""Rows of the sheet as markup. What looks as it did before is not made again."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from urllib.parse import quote

from django.template.loader import render_to_string
from django.utils.safestring import mark_safe

from prism.measures.samples import Sample
from prism.model.document import shown_path
from prism.resolution.contrast import Reading
from prism.roles.grounds import Guess
from prism.sheet import grid
from studio.rooms.parts import Part, part_of, together

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
    result: str
    sample: Sample | None
    length: float


@dataclass(frozen=True, slots=True)
class _Row:
    key: str
    path: str
    stem: str
    leaf: str
    description: str
    deprecated: bool
    opened: str | None
    role: str
    looks: str
    why: str
    in_roles: bool
    details: str
    cells: tuple[_Cell, ...]


def markup(
    line: grid.Line,
    names: Mapping[str, str],
    base: str,
    opened: str = "",
    role: Guess | None = None,
    in_roles: bool = True,
) -> Part:
    """A row of the sheet.

    ``names`` are those of the modes by key, ``base`` is what a cell's address begins with,
    ``opened`` the address of the cell that is open, in whatever row, ``role`` what the token is for,
    ``in_roles`` whether there is a column of roles.
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
            str(role.role) if role else "",
            "said" if token.role else "sure" if role and role.is_sure else "unsure",
            role.why if role else "",
            in_roles,
            f"{base}cell={quote(token.key)}%3A&view=page",
            tuple(_cell(token.key, cell, names, base) for cell in line.cells),
        )
    )


@lru_cache(maxsize=_KEPT)
def _markup(row: _Row) -> Part:
    return part_of(render_to_string("tokens/line.html", {"line": row}))


@dataclass(frozen=True, slots=True)
class _Block:
    tier: str
    name: str
    count: int
    folded: bool
    rows: int
    heads_tier: bool
    columns: int
    fold: str
    source: str
    add: str
    menu: str
    depth: int
    first: str


def block(
    match: grid.Block,
    lines: Sequence[Part],
    held: frozenset[str],
    *,
    heads_tier: bool,
    columns: int,
    fold: str,
    source: str,
    add: str = "",
    menu: str = "",
) -> str:
    """The markup of a block of rows, for a page that holds parts of these digests.

    ``lines`` are its rows, ``heads_tier`` whether it is the first of its tier, ``columns`` how many
    the sheet has, ``fold`` the address that folds its group, where it heads one, ``source`` the one
    that its rows come from, where they come later, ``add`` and ``menu`` those that add a token to the
    group and open its actions.
    """
    looks = _Block(
        match.tier,
        match.name,
        match.count,
        match.folded,
        len(match.tokens),
        heads_tier,
        columns,
        fold,
        source,
        add,
        menu,
        match.depth,
        match.tokens[0].key if match.tokens else "",
    )
    head = _head(looks).shown(held) if heads_tier or fold else ""
    later = _later(looks) if source else ""
    rows = together("tbody", lines, held) if lines else ""
    return mark_safe(head + later + rows)


@lru_cache(maxsize=_KEPT)
def _head(block: _Block) -> Part:
    return part_of(render_to_string("tokens/block.html", {"block": block}))


@lru_cache(maxsize=_KEPT)
def _later(block: _Block) -> str:
    return render_to_string("tokens/later.html", {"block": block})


def _cell(key: str, cell: grid.Cell, names: Mapping[str, str], base: str) -> _Cell:
    mode = cell.mode.key if cell.mode else ""
    slug = names.get(mode, "")
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
        result=cell.result,
        sample=cell.sample,
        length=cell.length,
    )
