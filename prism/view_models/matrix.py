"""Contrast readings laid out for reading: pairings against the modes of one or two axes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from prism.model.document import Axis, Mode, Pairing
from prism.resolution.contrast import Reading, audit, summary
from prism.resolution.contrast_table import Part
from prism.resolution.resolver import Resolver, Theme


@dataclass(frozen=True, slots=True)
class Column:
    """One theme as a column: the mode of the outer axis (None without one) and the inner."""

    outer: Mode | None
    inner: Mode | None
    theme: Theme


@dataclass(frozen=True, slots=True)
class MatrixRow:
    """A pairing, its readings column by column, and the themes beyond them where it fails."""

    pairing: Pairing
    words: str
    readings: tuple[Reading, ...]
    elsewhere: int

    @property
    def fails(self) -> bool:
        """Whether it falls short in a column or elsewhere."""
        return bool(self.elsewhere) or any(reading.fails for reading in self.readings)


def columns(resolver: Resolver, theme: Theme) -> list[Column]:
    """The modes of the first axis within those of the second; other axes as in ``theme``.

    Axes that no pairing depends on are skipped.
    """
    axes = _varying(resolver)
    inner = axes[0] if axes else None
    outer = axes[1] if len(axes) > 1 else None
    matrix_rows = []
    for i, mode in enumerate(outer.modes) if outer else [(0, None)]:
        for j, inner_mode in enumerate(inner.modes) if inner else [(0, None)]:
            modes = list(theme)
            if outer:
                modes[resolver.axis_index[outer.key]] = i
            if inner:
                modes[resolver.axis_index[inner.key]] = j
            matrix_rows.append(Column(mode, inner_mode, tuple(modes)))
    return matrix_rows


def _varying(resolver: Resolver) -> list[Axis]:
    document = resolver.document
    keys = {
        axis
        for pairing in document.pairings
        for key in (pairing.foreground, *pairing.backgrounds, pairing.page)
        if document.token(key) is not None
        for axis in resolver.influence(key)
    }
    return [axis for axis in document.axes if axis.key in keys]


def rows(
    resolver: Resolver,
    table: Sequence[Column],
    failing: Mapping[str, Sequence[Part]],
    *,
    only: str = "",
) -> list[MatrixRow]:
    """Pairings with their readings, the failing first, in document order otherwise.

    ``failing`` are the parts of all themes in which each pairing falls short;
    ``only`` keeps the pairings whose words hold that text.
    """
    document = resolver.document
    shown = [(p, summary(document, p)) for p in document.pairings]
    shown = [(p, words) for p, words in shown if only.lower() in words.lower()]
    themes = [column.theme for column in table]
    readings = audit(resolver, [pairing for pairing, _ in shown], themes)
    matrix_rows = []
    for i, (pairing, words) in enumerate(shown):
        mine = tuple(readings[i * len(themes) : (i + 1) * len(themes)])
        seen = {(reading.foreground, reading.background) for reading in mine if reading.fails}
        beyond = {
            reading.theme
            for part in failing.get(pairing.key, ())
            for reading in (part.reading,)
            if (reading.foreground, reading.background) not in seen
        }
        matrix_rows.append(MatrixRow(pairing, words, mine, len(beyond)))
    return sorted(matrix_rows, key=lambda row: not row.fails)
