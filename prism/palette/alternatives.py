"""The colors of a palette that a token may refer to in place of the one it refers to now."""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import dataclass

from prism.color import space
from prism.expressions.syntax import reference_of
from prism.model.document import Document, Token, shown_path
from prism.model.values import Expression
from prism.palette.ramp_edits import is_of_palette
from prism.resolution.resolver import Resolver, Theme

#: The number or the size that a step ends with.
_STEP = re.compile(r"[-_. ]?\d+\Z")


@dataclass(frozen=True, slots=True)
class Step:
    """A color of the palette: the path that refers to it, and the color itself."""

    path: str
    color: space.Color


class PaletteRows:
    """Raw colors of a document by row: those of a ramp, or whose names differ in their number alone.

    ``used`` are keys of tokens with a role of their own, which are no steps.
    """

    def __init__(
        self, document: Document, resolver: Resolver, theme: Theme, used: Collection[str]
    ) -> None:
        self._document, self._resolver, self._theme = document, resolver, theme
        self._row_of: dict[str, str] = {}
        self._rows: dict[str, list[Step]] = {}
        ramps = {key: ramp.key for ramp in document.ramps for key in ramp.steps}
        for token in document.tokens:
            own = token.key in used and token.key not in ramps
            if own or not is_of_palette(resolver, token):
                continue
            color = resolver.resolve(token.key, theme).color
            if color is None or color.alpha < 1 or resolver.influence(token.key):
                continue
            row = ramps.get(token.key) or f" {_STEP.sub('', shown_path(token.path))}"
            self._row_of[token.key] = row
            self._rows.setdefault(row, []).append(Step(token.path, color))
        self._ends = [
            step
            for steps in self._rows.values()
            for step in steps
            if space.hex_text(step.color) in ("#ffffff", "#000000")
        ]

    def steps(self, token: Token) -> list[Step]:
        """What a token may refer to: the row of the color it refers to, and white and black of the
        palette. Empty where its value is no plain reference to a color of the palette."""
        won = self._resolver.winner(token.key, self._theme)
        path = reference_of(won[1].text) if won and isinstance(won[1], Expression) else ""
        target = self._document.token_at(path) if path else None
        row = self._row_of.get(target.key, "") if target is not None else ""
        steps = self._rows.get(row, [])
        return [*steps, *(end for end in self._ends if end not in steps)] if steps else []
