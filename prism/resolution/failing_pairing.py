"""Where a pairing falls short, over all themes: counted at once, and read part by part when it is looked at."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import overload

import numpy as np
from numpy.typing import NDArray

from prism.model.document import Pairing
from prism.resolution.answer_tables import Fixed, holds
from prism.resolution.contrast import Reading, measure

Rgba = tuple[float, float, float, float]


@dataclass(frozen=True, slots=True)
class Part:
    """How a pairing reads in a part of all themes, and how many themes that is."""

    fixed: Fixed
    themes: int
    reading: Reading


class Codes:
    """Parts of the themes as bits: one for each mode that an axis may still be in.

    Two parts have themes in common where, on every axis, their codes have a bit in common; the
    bits in common are then the code of what they share.
    """

    MOST_BITS = 62

    def __init__(self, sizes: list[int], default: tuple[int, ...]) -> None:
        self._sizes, self._default = sizes, default
        starts = np.concatenate([[0], np.cumsum(sizes)]).tolist()
        self.starts = starts[:-1]
        self.masks = [
            ((1 << size) - 1) << start for size, start in zip(sizes, starts, strict=False)
        ]
        self.fits = starts[-1] <= self.MOST_BITS
        self._known: dict[Fixed, int] = {}

    def code(self, fixed: Fixed) -> int:
        """The code of a part."""
        if fixed not in self._known:
            places = zip(fixed, self.starts, self.masks, strict=True)
            bits = [mask if mode < 0 else 1 << (start + mode) for mode, start, mask in places]
            self._known[fixed] = sum(bits)
        return self._known[fixed]

    def fixed(self, code: int) -> Fixed:
        """The part that a code stands for."""
        modes = []
        for start, mask in zip(self.starts, self.masks, strict=True):
            bits = code & mask
            modes.append(-1 if bits == mask else (bits >> start).bit_length() - 1)
        return tuple(modes)

    def agree(self, both: NDArray[np.int64]) -> NDArray[np.bool_]:
        """Where codes that were and-ed still have a bit on every axis."""
        agreeing = np.ones(both.shape, dtype=bool)
        for mask in self.masks:
            agreeing &= (both & mask) != 0
        return agreeing

    def themes(self, codes: NDArray[np.int64]) -> int:
        """How many themes some parts hold together."""
        counts = np.ones(codes.shape, dtype=np.int64)
        for mask, size in zip(self.masks, self._sizes, strict=True):
            counts *= np.where((codes & mask) == mask, size, 1)
        return int(counts.sum())

    def theme(self, fixed: Fixed) -> tuple[int, ...]:
        """One theme within a part; free axes are at their default."""
        return tuple(d if mode < 0 else mode for mode, d in zip(fixed, self._default, strict=True))


class FailingPairing(Sequence[Part]):
    """The parts of all themes in which a pairing falls short. Holds colors and arrays alone, none of the document's
    tables, so that it can be kept while the document changes."""

    def __init__(
        self,
        pairing: Pairing,
        codes: Codes,
        colors: Sequence[Rgba],
        short: tuple[NDArray[np.int64], NDArray[np.int64], NDArray[np.float64]],
    ) -> None:
        """``short`` are the codes of the parts, the numbers of the two colors in each as foreground times the count
        of ``colors`` plus background, and the ratios, (n,) each."""
        self._pairing, self._codes, self._colors = pairing, codes, colors
        self._short = short
        self._parts: list[Part] | None = None
        self.themes = codes.themes(short[0])

    @classmethod
    def of(cls, pairing: Pairing, codes: Codes, parts: list[Part]) -> FailingPairing:
        """Of parts that were read already."""
        none = np.zeros(0, dtype=np.int64)
        made = cls(pairing, codes, (), (none, none, np.zeros(0)))
        made._parts, made.themes = parts, sum(part.themes for part in parts)
        return made

    def holds(self, theme: tuple[int, ...]) -> bool:
        """Whether the pairing falls short in one theme."""
        if self._parts is not None:
            return any(holds(part.fixed, theme) for part in self._parts)
        both = self._short[0] & self._codes.code(theme)
        return bool(self._codes.agree(both).any())

    @property
    def least(self) -> float:
        """The lowest ratio of all parts."""
        if self._parts is not None:
            return min(part.reading.ratio for part in self._parts)
        return float(self._short[2].min())

    @property
    def worst(self) -> Part:
        """The part with the lowest ratio; the first of equals."""
        if self._parts is not None:
            return min(self._parts, key=lambda part: part.reading.ratio)
        return self._read([int(np.argmin(self._short[2]))])[0]

    def __len__(self) -> int:
        return len(self._short[0]) if self._parts is None else len(self._parts)

    @overload
    def __getitem__(self, place: int) -> Part: ...
    @overload
    def __getitem__(self, place: slice) -> list[Part]: ...
    def __getitem__(self, place: int | slice) -> Part | list[Part]:
        return self._all()[place]

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Sequence) and self._all() == list(other)

    __hash__ = None  # type: ignore[assignment]

    def __repr__(self) -> str:
        return f"FailingPairing({self._all()!r})"

    def _all(self) -> list[Part]:
        if self._parts is None:
            self._parts = self._read(range(len(self._short[0])))
        return self._parts

    def _read(self, places: Sequence[int]) -> list[Part]:
        """Some parts with their readings, each distinct pair of colors measured once."""
        parts, pairs, _ = self._short
        count = len(self._colors)
        wanted = {int(pairs[place]): 0 for place in places}
        for number, pair in enumerate(wanted):
            wanted[pair] = number
        measured = measure(
            [(self._colors[pair // count], self._colors[pair % count]) for pair in wanted]
        )
        read = []
        for place in places:
            fixed = self._codes.fixed(int(parts[place]))
            ratio, gap, above, below = measured[wanted[int(pairs[place])]]
            key, required = self._pairing.key, self._pairing.required
            theme = self._codes.theme(fixed)
            reading = Reading(key, theme, ratio, required, gap, above, below)
            read.append(Part(fixed, self._codes.themes(parts[[place]]), reading))
        return read
