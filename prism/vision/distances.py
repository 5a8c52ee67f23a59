"""How far tokens that must be told apart differ, in every theme and to every kind of eye.

Differences are CIEDE2000 (Sharma, Wu & Dalal 2005) of colors as seen with each deficiency (Machado, Oliveira &
Fernandes 2009) and without color. Under ``ALIKE`` two look alike, under ``CLOSE`` they are close, unless they
differ by ``LIGHTER`` L* too: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.color.vision import VISIONS, Vision, seen
from prism.resolution.answer_tables import AnswerTables, Fixed, common

ALIKE, CLOSE, LIGHTER = 5.0, 10.0, 20.0


@dataclass(frozen=True, slots=True)
class Apart:
    """How two tokens, by key, differ to a vision in one part of all themes: CIEDE2000 and L* points."""

    first: str
    second: str
    vision: Vision
    difference: float
    lighter: float
    fixed: Fixed

    @property
    def verdict(self) -> str:
        """``look alike``, ``close`` or ``apart``."""
        if self.difference >= CLOSE or self.lighter >= LIGHTER:
            return "apart"
        return "look alike" if self.difference < ALIKE else "close"

    @property
    def order(self) -> tuple[bool, float]:
        """What tells less comes first."""
        return self.verdict == "apart", self.difference


def readings(
    tables: AnswerTables, pairs: Sequence[tuple[str, str]], severity: float = 1.0
) -> list[Apart]:
    """Pairs of tokens in each vision and each part of all themes in which both have an opaque color."""
    places: list[tuple[str, str, Fixed]] = []
    rows = []
    for first, second in pairs:
        for fixed, answer in tables.of(first):
            for other_fixed, other in tables.of(second):
                both = common(fixed, other_fixed)
                if both is not None and answer.color is not None and other.color is not None:
                    places.append((first, second, both))
                    rows.append((space.rgba(answer.color)[:3], space.rgba(other.color)[:3]))
    if not rows:
        return []
    colors, ends = np.unique(np.array(rows).reshape(-1, 3), axis=0, return_inverse=True)
    sides = ends.reshape(-1, 2)
    return [
        Apart(first, second, vision, float(difference), float(lighter), fixed)
        for vision in VISIONS
        for (first, second, fixed), difference, lighter in zip(
            places, *_differences(colors, sides, vision, severity), strict=True
        )
    ]


def _differences(
    colors: NDArray[np.float64], sides: NDArray[np.int64], vision: Vision, severity: float
) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """CIEDE2000 and L* points between the colors at both places of each row of ``sides``."""
    shown = lab(seen(colors, vision, severity))
    first, second = shown[sides[:, 0]], shown[sides[:, 1]]
    return delta_e_2000(first, second), np.abs(first[:, 0] - second[:, 0])


def every_two(keys: Sequence[str]) -> list[tuple[str, str]]:
    """Each two of some tokens."""
    return list(combinations(dict.fromkeys(keys), 2))


def worst(all_readings: Sequence[Apart]) -> Iterator[Apart]:
    """The reading of each two tokens in each vision that tells them apart least."""
    least: dict[tuple[str, str, str], Apart] = {}
    for reading in all_readings:
        name = (reading.first, reading.second, reading.vision.id)
        known = least.get(name)
        if known is None or reading.order < known.order:
            least[name] = reading
    yield from least.values()
