"""The contrast of every pairing in all themes at once, each distinct pair of colors once."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.contrast import ratio_of_luminances, relative_luminance
from prism.model.document import Pairing
from prism.resolution.answer_tables import AnswerTables, holds
from prism.resolution.answers import Answer
from prism.resolution.contrast import Reading, audit, measure
from prism.resolution.failing_pairing import Codes, FailingPairing, Part, Rgba


@dataclass(slots=True)
class _Opaque:
    """A token's table as arrays: the code of each part and the number of the color in it (n,)."""

    parts: NDArray[np.int64]
    colors: NDArray[np.int64]


class ContrastTable:
    """All readings of some pairings over a document's tables.

    Pairings of two opaque colors are joined as arrays; the others part by part.
    """

    def __init__(self, tables: AnswerTables, pairings: Iterable[Pairing]) -> None:
        self.tables = tables
        self.pairings = {pairing.key: pairing for pairing in pairings}
        self._numbers: dict[Rgba, int] = {}
        self._answers: dict[int, int] = {}
        self._arrays: dict[str, _Opaque | None] = {}
        self._slow: dict[str, list[Part]] = {}
        self._fast: dict[str, tuple[NDArray[np.int64], NDArray[np.int64]]] = {}
        self._codes = Codes(
            [len(axis.modes) for axis in tables.resolver.document.axes],
            tables.resolver.default_theme,
        )
        joined = []
        for pairing in self.pairings.values():
            of_pairing = self._join(pairing)
            if of_pairing is None:
                self._slow[pairing.key] = self._parts(pairing)
            else:
                joined.append((pairing.key, *of_pairing))
        self._measure(joined)

    def failing(self, key: str) -> FailingPairing:
        """The parts of all themes in which a pairing falls short."""
        pairing = self.pairings[key]
        if key in self._slow:
            short = [part for part in self._slow[key] if part.reading.fails]
            return FailingPairing.of(pairing, self._codes, short)
        parts, codes = self._fast[key]
        places = np.flatnonzero(self._ratios[codes] < pairing.required)
        below = codes[places]
        arrays = parts[places], self._distinct[below], self._ratios[below]
        return FailingPairing(pairing, self._codes, self._colors, arrays)

    def falls_short(self, key: str) -> bool:
        """Whether a pairing falls short in any theme."""
        if key in self._slow:
            return any(part.reading.fails for part in self._slow[key])
        return bool((self._ratios[self._fast[key][1]] < self.pairings[key].required).any())

    def parts(self, key: str) -> list[Part]:
        """Every part of all themes with the pairing's reading in it."""
        if key in self._slow:
            return self._slow[key]
        parts, codes = self._fast[key]
        return [
            self._part(key, int(part), int(code)) for part, code in zip(parts, codes, strict=True)
        ]

    def reading(self, key: str, theme: tuple[int, ...]) -> Reading:
        """A pairing's reading in one theme."""
        return next(part.reading for part in self.parts(key) if holds(part.fixed, theme))

    def _part(self, key: str, part: int, code: int) -> Part:
        fixed = self._codes.fixed(part)
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
            opaque = bool(rows) and min(colors) >= 0 and self._codes.fits
            self._arrays[key] = (
                _Opaque(
                    np.array([self._codes.code(fixed) for fixed, _ in rows], dtype=np.int64),
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
    ) -> tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.int64]] | None:
        """Codes of the parts in which both colors are one, and the numbers of the two."""
        above = self._array(pairing.foreground)
        below = self._array(pairing.backgrounds[0]) if pairing.backgrounds else None
        if above is None or below is None:
            return None
        both = above.parts[:, None] & below.parts[None, :]
        first, second = np.nonzero(self._codes.agree(both))
        return both[first, second], above.colors[first], below.colors[second]

    def _measure(
        self, joined: list[tuple[str, NDArray[np.int64], NDArray[np.int64], NDArray[np.int64]]]
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
        self._ratios = ratio_of_luminances(first, second)
        start = 0
        for key, parts, above, _ in joined:
            self._fast[key] = (parts, places[start : start + len(above)])
            start += len(above)


Failing = dict[str, FailingPairing]


def failing(
    tables: AnswerTables,
    pairings: Sequence[Pairing],
    known: tuple[Sequence[Pairing], Failing] | None = None,
) -> Failing:
    """The pairings that fall short in some theme, by key, with the parts of all themes where they do.

    ``known`` are the pairings of the document that this one was made from with their answer: what no
    change reached is taken from there.
    """
    reached = tables.resolver.reached
    failing: Failing = {}
    open_pairings = list(pairings)
    if known is not None and reached is not None:
        same = {id(pairing) for pairing in known[0]}
        open_pairings = []
        for pairing in pairings:
            members = {pairing.foreground, *pairing.backgrounds, pairing.page}
            if id(pairing) not in same or members & reached:
                open_pairings.append(pairing)
            elif pairing.key in known[1]:
                failing[pairing.key] = known[1][pairing.key]
    survey = ContrastTable(tables, open_pairings)
    for key in survey.pairings:
        parts = survey.failing(key)
        if parts:
            failing[key] = parts
    return {pairing.key: failing[pairing.key] for pairing in pairings if pairing.key in failing}
