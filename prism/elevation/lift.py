"""Elevation: whether surfaces of rising level lift off each other.

How far levels lie apart, that they get lighter as they rise in the dark, and that a shadow shows by day alone is common
practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np

from prism.color import space
from prism.color.contrast import lightness
from prism.model.document import Document
from prism.palette.course import oklch
from prism.resolution.answer_tables import AnswerTables, Fixed
from prism.roles.grounds import Guess
from prism.roles.guess import guess
from prism.solver.decisions import State
from prism.solver.levels import rank

#: Neighboring levels lie at least so far apart in L*.
APART = 2.0
#: A surface darker than this L* is seen by night.
DARK = 50.0
#: Surfaces that differ by so much OKLCH chroma are told apart by it.
_TINTED = 0.03


@dataclass(frozen=True, slots=True)
class Standing:
    """Two neighboring levels in a part of the themes: their L* and color, that of a line between them that can be seen,
    or empty, and what is wrong: ``close``, or ``falling`` where the upper one is darker at night."""

    fixed: Fixed
    low: float
    high: float
    under: str
    over: str
    line: str = ""
    fault: Literal["", "close", "falling"] = ""

    @property
    def gap(self) -> float:
        """How far apart the two lie in L*."""
        return abs(self.high - self.low)


class Elevation:
    """The plain surfaces of a document by how high they lie, and what parts them."""

    def __init__(
        self, document: Document, tables: AnswerTables, roles: Mapping[str, Guess]
    ) -> None:
        self.tables, self._resolver = tables, tables.resolver
        #: Keys of surfaces by height.
        self.heights: dict[int, list[str]] = {}
        #: Lines and shadows of a surface of its own, by its key.
        self.lines: dict[str, list[str]] = {}
        self.shadows: dict[str, list[str]] = {}
        #: Whether there is a line or a shadow at all, which may part any two by day.
        self.is_parted = any(token.type == "shadow" for token in document.tokens)
        for key, known in roles.items():
            token, role = document.token(key), known.role
            plain = role.kind == "page" or (role.kind == "surface" and not role.detail)
            if token is not None and token.tier == "semantic" and plain and not role.state:
                self.heights.setdefault(rank(token, role), []).append(key)
            if role.kind in ("line", "shadow"):
                self.is_parted = True
                own = self.lines if role.kind == "line" else self.shadows
                own.setdefault(known.belongs_to, []).append(key)

    def neighbors(self) -> Iterator[tuple[str, str]]:
        """Every two surfaces of neighboring levels, the lower one first, by key."""
        for lower, upper in pairwise(sorted(self.heights)):
            for under in self.heights[lower]:
                for over in self.heights[upper]:
                    yield under, over

    def standings(self, under: str, over: str) -> Iterator[Standing]:
        """How two surfaces stand to each other in all themes in which both can be seen and are not told apart by their
        tint."""
        lines = self.lines.get(over, [])
        for fixed in self.tables.joint([under, over, *lines]):
            theme = self.tables.theme(fixed)
            low, high, *edges = (
                self._resolver.resolve(key, theme) for key in (under, over, *lines)
            )
            if low.color is None or high.color is None:
                continue
            if min(low.color.alpha, high.color.alpha) < 1 or _are_tinted(low.color, high.color):
                continue
            lights = _light(low.color), _light(high.color)
            seen = (
                edge.hex
                for edge in edges
                if edge.color is not None
                and edge.color.alpha >= 1
                and all(abs(_light(edge.color) - light) >= APART for light in lights)
            )
            line = next(seen, "")
            fault = self._fault(over, *lights, has_line=bool(line))
            yield Standing(fixed, *lights, low.hex, high.hex, line, fault)

    def _fault(
        self, over: str, low: float, high: float, *, has_line: bool
    ) -> Literal["", "close", "falling"]:
        if low >= DARK:
            parted = self.is_parted or over in self.shadows
            return "close" if high == low and not parted and not has_line else ""
        if high - low <= -APART:
            return "falling"
        return "close" if abs(high - low) < APART and not has_line else ""

    def faults(self, under: str, over: str) -> list[Fixed]:
        """Where two surfaces do not stand as they should."""
        return [standing.fixed for standing in self.standings(under, over) if standing.fault]


def _light(color: space.Color) -> float:
    return float(lightness(np.array(space.rgba(color)[:3])))


def _are_tinted(first: space.Color, other: space.Color) -> bool:
    """Whether the tint of one tells it from the other."""
    (_, chroma, _), (_, another, _) = oklch(first), oklch(other)
    return abs(chroma - another) > _TINTED


def elevation_of(state: State) -> Elevation:
    """The elevation of a document that is tried."""
    roles = guess(state.document, state.resolver)
    return Elevation(state.document, state.tables, roles)
