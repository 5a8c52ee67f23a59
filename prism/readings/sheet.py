"""The sheet: every token against the modes of one axis."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.checks.contrast import Reading, audit
from prism.tokens.expressions import value_text
from prism.tokens.model import BASE, TIERS, Axis, Condition, Mode, Tier, Token, Value
from prism.tokens.resolve import Resolver, Theme
from prism.tokens.resolved import Answer


@dataclass(frozen=True, slots=True)
class Cell:
    """One token in one mode: what won, what came out, and its tightest pairing there.

    ``inherited`` tells that what shows here was not stored for this mode; ``worst`` is the
    reading that misses by most, or comes closest to missing, of the token as a foreground.
    """

    token: Token
    mode: Mode | None
    theme: Theme
    condition: Condition
    value: Value | None
    answer: Answer
    inherited: bool
    worst: Reading | None

    @property
    def text(self) -> str:
        """The stored value on one line."""
        return value_text(self.value) if self.value is not None else ""


@dataclass(frozen=True, slots=True)
class Line:
    """A token's row of cells."""

    token: Token
    cells: tuple[Cell, ...]


@dataclass(frozen=True, slots=True)
class Section:
    """A group's rows within a tier; ``name`` is the first segment of their paths."""

    tier: Tier
    name: str
    lines: tuple[Line, ...]


def columns(resolver: Resolver, axis: Axis | None, theme: Theme) -> list[tuple[Mode | None, Theme]]:
    """The modes of ``axis`` as themes, all else as in ``theme``; the theme alone without axis."""
    if axis is None:
        return [(None, theme)]
    index = resolver.axis_index[axis.key]
    return [(mode, (*theme[:index], i, *theme[index + 1 :])) for i, mode in enumerate(axis.modes)]


def sections(
    resolver: Resolver, axis: Axis | None, theme: Theme, tokens: Sequence[Token]
) -> list[Section]:
    """``tokens`` as groups of rows, one cell per mode of ``axis``.

    Tiers come in the order of ``TIERS``; within them document order holds.
    """
    document = resolver.document
    themes = columns(resolver, axis, theme)
    wanted = {token.key for token in tokens}
    pairings = [p for p in document.pairings if p.foreground in wanted and p.required]
    worst: dict[tuple[str, Theme], Reading] = {}
    foreground = {pairing.key: pairing.foreground for pairing in pairings}
    for reading in audit(resolver, pairings, [theme for _, theme in themes]):
        if reading.missing:
            continue
        place = (foreground[reading.pairing], reading.theme)
        if place not in worst or _margin(reading) < _margin(worst[place]):
            worst[place] = reading
    found: dict[tuple[Tier, str], list[Line]] = {}
    for token in sorted(tokens, key=lambda one: TIERS.index(one.tier)):
        cells = tuple(
            cell(resolver, token, axis, mode, where, worst.get((token.key, where)))
            for mode, where in themes
        )
        name = token.path.split(".", 1)[0]
        found.setdefault((token.tier, name), []).append(Line(token, cells))
    return [Section(tier, name, tuple(lines)) for (tier, name), lines in found.items()]


def _margin(reading: Reading) -> float:
    return reading.ratio / reading.required


def cell(
    resolver: Resolver,
    token: Token,
    axis: Axis | None,
    mode: Mode | None,
    theme: Theme,
    worst: Reading | None = None,
) -> Cell:
    """One cell of the sheet."""
    won = resolver.winner(token.key, theme)
    condition, value = won if won is not None else (BASE, None)
    default = axis is None or mode is None or axis.default == mode.key
    own = default or (axis is not None and condition.mode_on(axis.key) is not None)
    return Cell(
        token, mode, theme, condition, value, resolver.resolve(token.key, theme), not own, worst
    )
