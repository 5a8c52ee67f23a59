"""Every color that is written or drawn on every color that lies under something, in one theme."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.model.document import Pairing, Token
from prism.resolution.contrast import Reading, audit
from prism.resolution.resolver import Theme
from prism.roles.patterns import fitting
from prism.roles.sides import side

#: Rows and columns that are shown at most; words narrow them.
MOST_ROWS, MOST_COLUMNS = 40, 10


@dataclass(frozen=True, slots=True)
class Cell:
    """How a color reads on a ground, and the key of the pairing where the two are one."""

    ground: Token
    reading: Reading
    pairing: str


@dataclass(frozen=True, slots=True)
class Row:
    """A color with a cell for each ground."""

    token: Token
    cells: tuple[Cell, ...]


@dataclass(frozen=True, slots=True)
class Table:
    """Colors on grounds; how many of each there are in all."""

    grounds: tuple[Token, ...]
    rows: tuple[Row, ...]
    inks_in_all: int
    grounds_in_all: int


def table(analysis: Analysis, theme: Theme, ink: str = "", ground: str = "") -> Table:
    """Colors by what they are for, or those whose path fits some words, with the contrast of each on each. A ground that
    is translucent lies on the page."""
    inks, grounds = list(_tokens(analysis, "ink", ink)), list(_tokens(analysis, "ground", ground))
    shown_inks, shown_grounds = inks[:MOST_ROWS], grounds[:MOST_COLUMNS]
    page = next((key for key, known in analysis.roles.items() if known.role.kind == "page"), "")
    pairs = [
        Pairing(f"{i}", ink.key, (ground.key,), page=page if page != ground.key else "")
        for i, (ink, ground) in enumerate((a, b) for a in shown_inks for b in shown_grounds)
    ]
    readings = iter(audit(analysis.resolver, pairs, [theme]))
    known = {(p.foreground, p.backgrounds): p.key for p in analysis.paired.pairings}
    rows = tuple(
        Row(
            ink,
            tuple(
                Cell(ground, next(readings), known.get((ink.key, (ground.key,)), ""))
                for ground in shown_grounds
            ),
        )
        for ink in shown_inks
    )
    return Table(tuple(shown_grounds), rows, len(inks), len(grounds))


def _tokens(analysis: Analysis, wanted: str, words: str) -> Iterator[Token]:
    """Colors of one side by what they are for, above the raw tier; or those that fit the words, of any tier."""
    document = analysis.document
    colors = [token for token in document.tokens if token.type == "color"]
    if words.strip():
        pattern = words.strip() if "*" in words else f"*{words.strip()}*"
        named = set(fitting(document, pattern))
        yield from (token for token in colors if token.key in named)
        return
    for token in colors:
        known = analysis.roles.get(token.key)
        if token.tier == "raw" or known is None or known.role.kind == "overlay":
            continue
        if side(analysis.roles, token.key) == wanted:
            yield token
