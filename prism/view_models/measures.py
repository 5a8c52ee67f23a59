"""Measures and copy as tables: what is stored, and what it comes to in a theme."""

from __future__ import annotations

from dataclasses import dataclass

from prism.errors import EditError
from prism.expressions.evaluation import Quantity
from prism.expressions.typed_input import typed
from prism.expressions.units import base_unit
from prism.model.document import Axis, Mode, Token
from prism.model.values import BASE
from prism.palette.measures import editable, is_copy, is_measure
from prism.resolution.answers import Answer
from prism.resolution.resolver import Resolver, Theme


@dataclass(frozen=True, slots=True)
class Measure:
    """One measure: what is stored for all themes, what it comes to, how long to draw it (0-1 of the
    longest length of its group; 0 where it is no length)."""

    token: Token
    name: str
    stored: str
    answer: Answer
    editable: bool
    computed: bool
    share: float


@dataclass(frozen=True, slots=True)
class Group:
    """Measures of one group."""

    name: str
    measures: tuple[Measure, ...]


@dataclass(frozen=True, slots=True)
class Text:
    """One text in one mode: what is typed there, what it comes to, whether it is inherited."""

    mode: str
    stored: str
    answer: Answer
    inherited: bool


@dataclass(frozen=True, slots=True)
class CopySheet:
    """Texts by mode of an axis; without one there is a single column."""

    axis: Axis | None
    modes: tuple[Mode, ...]
    rows: tuple[tuple[Token, tuple[Text, ...]], ...]


def groups(resolver: Resolver, theme: Theme) -> list[Group]:
    """All raw measures, group by group, in document order."""
    groups: dict[str, list[tuple[Token, Answer]]] = {}
    for token in resolver.document.tokens:
        if is_measure(token):
            answer = resolver.resolve(token.key, theme)
            groups.setdefault(token.group, []).append((token, answer))
    return [Group(name, _measures(members)) for name, members in groups.items()]


def _measures(members: list[tuple[Token, Answer]]) -> tuple[Measure, ...]:
    lengths = [_length(answer) for _, answer in members]
    longest = max(lengths, default=0.0)
    made = []
    for (token, answer), length in zip(members, lengths, strict=True):
        value = token.value(BASE)
        stored = typed(value)
        made.append(
            Measure(
                token,
                token.leaf,
                stored,
                answer,
                editable(value),
                stored != answer.css,
                round(length / longest, 4) if longest else 0.0,
            )
        )
    return tuple(made)


def _length(answer: Answer) -> float:
    """A length in px, as CSS relates its units to it; rem and em count 16."""
    value = answer.value
    if not isinstance(value, Quantity):
        return 0.0
    unit, factor = ("px", 16.0) if value.unit in ("rem", "em") else base_unit(value.unit)
    return max(value.number * factor, 0.0) if unit == "px" else 0.0


def copy(resolver: Resolver, theme: Theme, axis: Axis | None) -> CopySheet:
    """All texts; without ``axis`` the columns are the modes of the one that texts differ by, or of
    one that is called language."""
    tokens = [token for token in resolver.document.tokens if is_copy(token)]
    axis = axis or _axis_of(resolver, tokens)
    modes = axis.modes if axis else ()
    rows = []
    for token in tokens:
        cells = []
        for mode in modes or (None,):
            at = theme_in(resolver, theme, axis.key, mode.key) if axis and mode else theme
            won = resolver.winner(token.key, at)
            own = axis is None or won is None or won[0].mode_on(axis.key) is not None
            inherited = (
                not own and mode is not None and axis is not None and mode.key != axis.default
            )
            cells.append(
                Text(
                    f"{axis.key} {mode.key}" if axis and mode else "",
                    typed(won[1]) if won else "",
                    resolver.resolve(token.key, at),
                    inherited,
                )
            )
        rows.append((token, tuple(cells)))
    return CopySheet(axis, modes, tuple(rows))


def _axis_of(resolver: Resolver, tokens: list[Token]) -> Axis | None:
    differing = resolver.influence_of([token.key for token in tokens])
    for axis in resolver.document.axes:
        if axis.key in differing:
            return axis
    named = [axis for axis in resolver.document.axes if "lang" in axis.name.lower()]
    return named[0] if named else None


def theme_in(resolver: Resolver, theme: Theme, axis: str, mode: str) -> Theme:
    """``theme`` with another mode on one axis. Raises ``EditError`` where there is none such."""
    owner = resolver.document.axis(axis)
    if owner is None or all(known.key != mode for known in owner.modes):
        raise EditError("That mode is no longer there.")
    return resolver.theme(resolver.picks(theme) | {axis: mode})
