"""The axes as they are shown: their modes, what varies by each, and what a removal would lose."""

from __future__ import annotations

from dataclasses import dataclass

from prism.tokens.axes import lost_with_mode
from prism.tokens.expressions import reference_of
from prism.tokens.model import Axis, Document, Expression, Mode, Value
from prism.tokens.resolve import Resolver, Theme


@dataclass(frozen=True, slots=True)
class ModeRow:
    """A mode, how many values hold in it alone, and the preferences that lead to it."""

    mode: Mode
    values: int
    follows: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class AxisRow:
    """An axis with its modes, and how many tokens have a value on it."""

    axis: Axis
    modes: tuple[ModeRow, ...]
    tokens: int


def rows(document: Document) -> list[AxisRow]:
    """Every axis in order."""
    found = []
    for axis in document.axes:
        follows = axis.follows
        modes = tuple(
            ModeRow(
                mode,
                len(lost_with_mode(document, axis.key, mode.key)),
                tuple(
                    f"{follows.feature}: {value}"
                    for value, key in (follows.modes if follows else ())
                    if follows and key == mode.key
                ),
            )
            for mode in axis.modes
        )
        tokens = sum(
            any(condition.mode_on(axis.key) for condition, _ in token.values)
            for token in document.tokens
        )
        found.append(AxisRow(axis, modes, tokens))
    return found


def color_of(resolver: Resolver, value: Value, theme: Theme) -> str:
    """The hex of a value that is a plain reference; empty for any other."""
    path = reference_of(value.text) if isinstance(value, Expression) else ""
    token = resolver.document.token_at(path) if path else None
    return resolver.resolve(token.key, theme).hex if token else ""
