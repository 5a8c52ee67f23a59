"""The contrast of every pairing in all themes at once, each distinct pair of colors once."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from prism.checks.contrast import Reading, audit, measure
from prism.color import space
from prism.color.contrast import relative_luminance
from prism.tokens.model import Pairing
from prism.tokens.resolved import Answer
from prism.tokens.tables import Fixed, Tables, holds

Rgba = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Part:
    """How a pairing reads in a part of all themes, and how many themes that is."""

    fixed: Fixed
    themes: int
    reading: Reading


@dataclass(slots=True)
class _Opaque:
    """A token's table as arrays: parts (n, axes) and the number of the color in each (n,)."""

    parts: NDArray[np.int8]
    colors: NDArray[np.int64]


class Survey:
    """All readings of some pairings over a document's tables.

    Pairings of two opaque colors are joined as arrays; the others part by part.
    """

    def __init__(self, tables: Tables, pairings: Iterable[Pairing]) -> None:
        self.tables = tables
        self.pairings = {pairing.key: pairing for pairing in pairings}
        self._numbers: dict[Rgba, int] = {}
        self._answers: dict[int, int] = {}
        self._arrays: dict[str, _Opaque | None] = {}
        self._slow: dict[str, list[Part]] = {}
        self._fast: dict[str, tuple[NDArray[np.int8], NDArray[np.int64]]] = {}
        joined = []
        for pairing in self.pairings.values():
            found = self._join(pairing)
            if found is None:
                self._slow[pairing.key] = self._parts(pairing)
            else:
                joined.append((pairing.key, *found))
        self._measure(joined)

    def failing(self, key: str) -> list[Part]:
        """The parts of all themes in which a pairing falls short."""
        if key in self._slow:
            return [part for part in self._slow[key] if part.reading.fails]
        parts, codes = self._fast[key]
        short = np.flatnonzero(self._ratios[codes] < self.pairings[key].required)
        return [self._part(key, parts[i], int(codes[i])) for i in short]

    def failing_themes(self, key: str) -> int:
        """In how many of all themes a pairing falls short."""
        if key in self._slow:
            return sum(part.themes for part in self.failing(key))
        parts, codes = self._fast[key]
        short = parts[self._ratios[codes] < self.pairings[key].required]
        sizes = np.array([len(axis.modes) for axis in self.tables.resolver.document.axes])
        return int(np.where(short < 0, sizes, 1).prod(axis=1).sum())

    def parts(self, key: str) -> list[Part]:
        """Every part of all themes with the pairing's reading in it."""
        if key in self._slow:
            return self._slow[key]
        parts, codes = self._fast[key]
        return [self._part(key, row, int(code)) for row, code in zip(parts, codes, strict=True)]

    def reading(self, key: str, theme: tuple[int, ...]) -> Reading:
        """A pairing's reading in one theme."""
        return next(part.reading for part in self.parts(key) if holds(part.fixed, theme))

    def _part(self, key: str, row: NDArray[np.int8], code: int) -> Part:
        fixed = tuple(int(mode) for mode in row)
        if code not in self._measured:
            count = len(self._colors)
            number = int(self._distinct[code])
            stack = (self._colors[number // count], self._colors[number % count])
            self._measured[code] = measure([stack])[0]
        ratio, gap, above, below = self._measured[code]
        pairing = self.pairings[key]
        theme = self.tables.theme(fixed)
        reading = Reading(key, theme, ratio, pairing.required, gap, above, below)
        return Part(fixed, self.tables.share(fixed), reading)

    def _parts(self, pairing: Pairing) -> list[Part]:
        """A pairing of translucent or missing colors, part by part."""
        keys = [
            key
            for key in (pairing.foreground, *pairing.backgrounds, pairing.page)
            if self.tables.resolver.document.token(key) is not None
        ]
        parts = self.tables.joint(keys)
        themes = [self.tables.theme(part) for part in parts]
        readings = audit(self.tables.resolver, [pairing], themes)
        return [
            Part(part, self.tables.share(part), reading)
            for part, reading in zip(parts, readings, strict=True)
        ]

    def _array(self, key: str) -> _Opaque | None:
        if key not in self._arrays:
            token = self.tables.resolver.document.token(key)
            rows = self.tables.of(key) if token is not None else []
            colors = [self._number(answer) for _, answer in rows]
            opaque = bool(rows) and min(colors) >= 0
            self._arrays[key] = (
                _Opaque(
                    np.array([fixed for fixed, _ in rows], dtype=np.int8),
                    np.array(colors, dtype=np.int64),
                )
                if opaque
                else None
            )
        return self._arrays[key]

    def _number(self, answer: Answer) -> int:
        """The number of an opaque color; -1 for any other answer."""
        known = self._answers.get(id(answer))
        if known is None:
            color = answer.color
            known = -1
            if color is not None and color.alpha >= 1:
                known = self._numbers.setdefault(space.rgba(color), len(self._numbers))
            # The tables hold every answer, so that no other takes its identity.
            self._answers[id(answer)] = known
        return known

    def _join(
        self, pairing: Pairing
    ) -> tuple[NDArray[np.int8], NDArray[np.int64], NDArray[np.int64]] | None:
        """Parts in which both colors are one, and the numbers of the two."""
        above = self._array(pairing.foreground)
        below = self._array(pairing.backgrounds[0]) if pairing.backgrounds else None
        if above is None or below is None:
            return None
        one, other = above.parts[:, None, :], below.parts[None, :, :]
        agree = ((one < 0) | (other < 0) | (one == other)).all(axis=2)
        first, second = np.nonzero(agree)
        parts = np.maximum(above.parts[first], below.parts[second])
        return parts, above.colors[first], below.colors[second]

    def _measure(
        self, joined: list[tuple[str, NDArray[np.int8], NDArray[np.int64], NDArray[np.int64]]]
    ) -> None:
        """Measure each distinct pair of colors once."""
        self._colors = list(self._numbers)
        self._measured: dict[int, tuple[float, float, str, str]] = {}
        count = max(len(self._colors), 1)
        codes = [above * count + below for _, _, above, below in joined]
        every = np.concatenate(codes) if codes else np.zeros(0, dtype=np.int64)
        self._distinct, places = np.unique(every, return_inverse=True)
        painted = np.array(self._colors or [(0.0, 0.0, 0.0, 1.0)])[:, :3]
        luminance = relative_luminance(np.floor(painted * 255 + 0.5) / 255)
        first, second = luminance[self._distinct // count], luminance[self._distinct % count]
        self._ratios = (np.maximum(first, second) + 0.05) / (np.minimum(first, second) + 0.05)
        start = 0
        for key, parts, above, _ in joined:
            self._fast[key] = (parts, places[start : start + len(above)])
            start += len(above)
