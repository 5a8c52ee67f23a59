"""Measures and texts as a sheet: a column for each mode of an axis, what is stored in each and what it
comes to there."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from prism.errors import EditError
from prism.expressions.evaluation import pixels
from prism.expressions.typed_input import typed
from prism.model.document import Axis, Document, Mode, Token, shown_path
from prism.palette.measures import is_copy, is_measure
from prism.resolution.answers import Answer
from prism.resolution.resolver import Resolver, Theme
from prism.view_models.samples import Sample, sample


@dataclass(frozen=True, slots=True)
class Cell:
    """One token in one mode: what is typed there, what it comes to, whether it is inherited, how long to
    draw it (0-1 of the longest length of its group; 0 where it is no length), and how to draw it."""

    mode: str
    stored: str
    answer: Answer
    inherited: bool
    share: float
    sample: Sample | None

    @property
    def computed(self) -> bool:
        """Whether what it comes to says more than what is stored."""
        return self.stored != self.answer.css and self.sample is None


@dataclass(frozen=True, slots=True)
class Row:
    """A token with its cells, column by column."""

    token: Token
    name: str
    cells: tuple[Cell, ...]


@dataclass(frozen=True, slots=True)
class Group:
    """Tokens of one group."""

    name: str
    rows: tuple[Row, ...]


@dataclass(frozen=True, slots=True)
class Sheet:
    """Groups in document order by the modes of an axis; without one there is a single column."""

    axis: Axis | None
    modes: tuple[Mode, ...]
    groups: tuple[Group, ...]


def measures(resolver: Resolver, theme: Theme, axis: Axis | None) -> Sheet:
    """All measures; without ``axis`` the columns are the modes of the one that they differ by, or of one
    that is called density."""
    return _sheet(resolver, theme, axis, is_measure, "densit")


def copy(resolver: Resolver, theme: Theme, axis: Axis | None) -> Sheet:
    """All texts; without ``axis`` the columns are the modes of the one that texts differ by, or of
    one that is called language."""
    return _sheet(resolver, theme, axis, is_copy, "lang")


def _sheet(
    resolver: Resolver, theme: Theme, axis: Axis | None, chosen: Callable[[Token], bool], usual: str
) -> Sheet:
    tokens = [token for token in resolver.document.tokens if chosen(token)]
    axis = axis or _axis_of(resolver.document, tokens, usual)
    groups: dict[str, list[Token]] = {}
    for token in tokens:
        groups.setdefault(token.group, []).append(token)
    return Sheet(
        axis,
        axis.modes if axis else (),
        tuple(
            Group(shown_path(name), _rows(resolver, theme, axis, members))
            for name, members in groups.items()
        ),
    )


def _rows(
    resolver: Resolver, theme: Theme, axis: Axis | None, tokens: Sequence[Token]
) -> tuple[Row, ...]:
    modes: Sequence[Mode | None] = axis.modes if axis else (None,)
    themes = [
        theme_in(resolver, theme, axis.key, mode.key) if axis and mode else theme for mode in modes
    ]
    answers = [[resolver.resolve(token.key, at) for at in themes] for token in tokens]
    longest = max((pixels(answer.value) for row in answers for answer in row), default=0.0)
    return tuple(
        Row(
            token,
            token.leaf,
            tuple(
                _cell(resolver, token, axis, mode, at, answer, longest)
                for mode, at, answer in zip(modes, themes, row, strict=True)
            ),
        )
        for token, row in zip(tokens, answers, strict=True)
    )


def _cell(
    resolver: Resolver,
    token: Token,
    axis: Axis | None,
    mode: Mode | None,
    theme: Theme,
    answer: Answer,
    longest: float,
) -> Cell:
    won = resolver.winner(token.key, theme)
    own = axis is None or won is None or won[0].mode_on(axis.key) is not None
    inherited = not own and mode is not None and axis is not None and mode.key != axis.default
    length = max(pixels(answer.value), 0.0)
    return Cell(
        f"{axis.key} {mode.key}" if axis and mode else "",
        typed(won[1], token.type) if won else "",
        answer,
        inherited,
        round(length / longest, 4) if longest > 0 else 0.0,
        sample(answer),
    )


def _axis_of(document: Document, tokens: Sequence[Token], usual: str) -> Axis | None:
    picked = {axis for token in tokens for held, _ in token.values for axis, _ in held.picks}
    differing = [axis for axis in document.axes if axis.key in picked]
    named = [axis for axis in document.axes if usual in axis.name.lower()]
    return next(iter(differing or named), None)


def theme_in(resolver: Resolver, theme: Theme, axis: str, mode: str) -> Theme:
    """``theme`` with another mode on one axis. Raises ``EditError`` where there is none such."""
    owner = resolver.document.axis(axis)
    if owner is None or all(known.key != mode for known in owner.modes):
        raise EditError("That mode is no longer there.")
    return resolver.theme(resolver.picks(theme) | {axis: mode})
