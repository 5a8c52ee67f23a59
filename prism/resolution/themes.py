"""The themes of a document: every combination of one mode on each axis."""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from itertools import product

from prism.model.document import Document

#: A theme: the position of the mode picked on each axis, in the order of the axes.
Theme = tuple[int, ...]


class ThemeSpace:
    """The space of all themes of a document."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self.axis_index = {axis.key: i for i, axis in enumerate(document.axes)}
        self.mode_index = [
            {mode.key: i for i, mode in enumerate(axis.modes)} for axis in document.axes
        ]

    @property
    def default_theme(self) -> Theme:
        """The default mode of every axis."""
        return tuple(self.mode_index[i][axis.default] for i, axis in enumerate(self.document.axes))

    @property
    def theme_count(self) -> int:
        """How many themes there are: the product of all axes' modes."""
        return math.prod(len(axis.modes) for axis in self.document.axes)

    def theme(self, picks: dict[str, str]) -> Theme:
        """The theme with the modes named by key; every other axis at its default."""
        chosen = list(self.default_theme)
        for axis, mode in picks.items():
            index = self.axis_index[axis]
            chosen[index] = self.mode_index[index][mode]
        return tuple(chosen)

    def themes(
        self, axes: Sequence[str] | None = None, start: Theme | None = None
    ) -> Iterator[Theme]:
        """Every theme, or every combination of the modes of ``axes`` with the rest at ``start``."""
        base = self.default_theme if start is None else start
        varied = set(self.axis_index) if axes is None else set(axes)
        ranges = [
            range(len(axis.modes)) if axis.key in varied else (base[i],)
            for i, axis in enumerate(self.document.axes)
        ]
        return product(*ranges)

    def picks(self, theme: Theme) -> dict[str, str]:
        """A theme as axis keys and mode keys."""
        return {axis.key: axis.modes[theme[i]].key for i, axis in enumerate(self.document.axes)}
