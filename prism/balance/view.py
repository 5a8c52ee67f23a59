"""How colors stand out in two modes, brand by brand, as plain values for a picture."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.balance import prominence
from prism.balance.prominence import Even, Standing
from prism.compare.rows import condition_text
from prism.model.document import Axis, Mode, Token
from prism.model.values import Condition


@dataclass(frozen=True, slots=True)
class Cell:
    """A color of one brand: how it stands, and the other axes it stands so in, as a command takes them."""

    brand: str
    standing: Standing
    where: str

    @property
    def lengths(self) -> tuple[float, float]:
        """How far it stands out in both modes, L* from 0 to 100."""
        return abs(self.standing.standard.gap), abs(self.standing.other.gap)


@dataclass(frozen=True, slots=True)
class Row:
    """A token with a cell for each brand, None where it has no opaque color; and what it is judged on."""

    token: Token
    ground: Token
    cells: tuple[Cell | None, ...]


@dataclass(frozen=True, slots=True)
class Balance:
    """The colors that carry a brand or a meaning, in the mode that they were designed for and in another
    one of an axis; ``brands`` head the columns."""

    axis: Axis
    standard: Mode
    mode: Mode
    brands: tuple[str, ...]
    rows: tuple[Row, ...]

    @property
    def uneven(self) -> int:
        """How many stand out more, or less, in the other mode."""
        cells = [cell for row in self.rows for cell in row.cells if cell is not None]
        return sum(not cell.standing.is_even for cell in cells)

    @property
    def count(self) -> int:
        """How many are judged."""
        return sum(cell is not None for row in self.rows for cell in row.cells)


def axis_of(analysis: Analysis) -> Axis | None:
    """The axis whose modes are light and dark, else the first of several modes."""
    axes = [axis for axis in analysis.document.axes if len(axis.modes) > 1]
    schemed = [axis for axis in axes if any(mode.color_scheme for mode in axis.modes)]
    return next(iter(schemed or axes), None)


def balance(
    analysis: Analysis, axis: Axis, standard: str, mode: str, picks: Mapping[str, str]
) -> Balance:
    """How all colors stand in two modes of an axis, by key, all else as in ``picks``."""
    document = analysis.document
    pairs = prominence.grounds(analysis.paired, analysis.roles)
    columns = list(prominence.brand_themes(document, picks))
    columns_of = [
        {
            standing.token: standing
            for standing in prominence.standings(document, pairs, axis.key, standard, mode, there)
        }
        for _, there in columns
    ]
    rows = []
    for key, ground in pairs:
        token, below = document.token(key), document.token(ground)
        if token is not None and below is not None and any(key in of for of in columns_of):
            rows.append(
                Row(
                    token,
                    below,
                    tuple(
                        Cell(brand.key if brand else "", of[key], _where(there, axis))
                        if key in of
                        else None
                        for of, (brand, there) in zip(columns_of, columns, strict=True)
                    ),
                )
            )
    names = tuple(brand.name if brand else "" for brand, _ in columns)
    return Balance(axis, axis.mode(standard), axis.mode(mode), names, tuple(rows))


def _where(picks: Mapping[str, str], axis: Axis) -> str:
    return condition_text(Condition.of({a: m for a, m in picks.items() if a != axis.key}))


def evened(analysis: Analysis, shown: Balance, cell: Cell, gap: float | None = None) -> Even | None:
    """What a color would be as strong as in the mode it was designed for, or by ``gap`` L* points."""
    wanted = abs(cell.standing.standard.gap) if gap is None else gap
    within = {shown.axis.key: shown.mode.key}
    return prominence.even(analysis.document, cell.standing, within, wanted)
