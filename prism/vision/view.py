"""Sets of colors that must be told apart, as every eye sees them, as plain values for a table."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from prism.analysis import Analysis
from prism.color import space
from prism.color.vision import VISIONS, Vision, seen
from prism.model.document import TellingApart, Token
from prism.resolution.resolver import Theme
from prism.vision import distinguishing
from prism.vision.commands import fix_in_words
from prism.vision.distances import Apart, every_two, readings, worst


@dataclass(frozen=True, slots=True)
class Cell:
    """How two tokens look to one kind of eye, in the theme where it tells them apart least: the reading, and both
    colors as they are seen, as hex."""

    vision: Vision
    reading: Apart
    first: str
    second: str

    @property
    def fails(self) -> bool:
        """Whether they are not told apart by it; what is seen without color is told, and asked of nobody."""
        return self.reading.verdict != "apart"


@dataclass(frozen=True, slots=True)
class Row:
    """Two tokens with a cell for each vision."""

    first: Token
    second: Token
    cells: tuple[Cell, ...]

    @property
    def key(self) -> str:
        """What an address calls the two."""
        return f"{self.first.key} {self.second.key}"

    @property
    def least(self) -> tuple[bool, float]:
        """What is told apart least by eyes that see color comes first."""
        return min(cell.reading.order for cell in self.cells if cell.vision.id != "gray")

    @property
    def fails(self) -> bool:
        """Whether some eye that sees color does not tell them apart."""
        return not self.least[0]


@dataclass(frozen=True, slots=True)
class Swatch:
    """A token in the theme that is looked at, as each vision shows it, as hex."""

    token: Token
    seen: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Members:
    """A set of colors: every two of them, the worst first, and each color beside its simulations."""

    members: TellingApart
    rows: tuple[Row, ...]
    swatches: tuple[Swatch, ...]

    @property
    def failing(self) -> int:
        """How many pairs some eye that sees color does not tell apart."""
        return sum(row.fails for row in self.rows)


@dataclass(frozen=True, slots=True)
class Offer:
    """What would tell two tokens apart: which is moved, by key, what is set in words, and how far apart they are at
    least before and after."""

    token: str
    words: str
    before: float
    after: float


def members_of(analysis: Analysis, members: TellingApart, theme: Theme, severity: float) -> Members:
    """A set as every vision shows it at a severity from 0 to 1 in tenths."""
    document = analysis.document
    tokens = {key: token for key in members.tokens if (token := document.token(key)) is not None}
    readings_of: dict[tuple[str, str], list[Apart]] = {}
    for reading in worst(readings(analysis.answers, every_two(tuple(tokens)), severity)):
        readings_of.setdefault((reading.first, reading.second), []).append(reading)
    rows = [
        Row(
            tokens[first],
            tokens[second],
            tuple(_cell(analysis, reading, severity) for reading in several),
        )
        for (first, second), several in readings_of.items()
    ]
    swatches = [
        Swatch(token, tuple(_seen(analysis, key, theme, vision, severity) for vision in VISIONS))
        for key, token in tokens.items()
    ]
    return Members(members, tuple(sorted(rows, key=lambda row: row.least)), tuple(swatches))


def _cell(analysis: Analysis, reading: Apart, severity: float) -> Cell:
    theme = analysis.answers.theme(reading.fixed)
    first, second = (
        _seen(analysis, key, theme, reading.vision, severity)
        for key in (reading.first, reading.second)
    )
    return Cell(reading.vision, reading, first, second)


def _seen(analysis: Analysis, key: str, theme: Theme, vision: Vision, severity: float) -> str:
    """A token as a vision shows it in a theme; empty where it has no color."""
    color = analysis.resolver.resolve(key, theme).color
    if color is None:
        return ""
    shown = seen(np.array(space.rgba(color)[:3]), vision, severity)
    return "#" + "".join(f"{round(float(channel) * 255):02x}" for channel in shown)


def offers(analysis: Analysis, members: TellingApart, first: str, second: str) -> list[Offer]:
    """What would tell two tokens of a set apart."""
    return [
        Offer(fix.token, fix_in_words(analysis.document, fix), fix.before, fix.after)
        for fix in distinguishing.fixes(analysis.paired, members, first, second)
    ]
