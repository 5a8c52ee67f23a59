"""The sheet: every token against the modes of one axis."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Sequence
from dataclasses import dataclass, replace

from prism.expressions.evaluation import pixels
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import MANY, typed
from prism.expressions.values import value_text
from prism.measures.samples import Sample, sample
from prism.model.document import TIERS, Axis, Mode, Tier, Token, shown_path
from prism.model.grouping import NO_GROUP, groups
from prism.model.values import BASE, Absent, Condition, Value
from prism.resolution.answers import Answer, Items, Parts
from prism.resolution.contrast import Reading, audit
from prism.resolution.resolver import Resolver, Theme

__all__ = ["NO_GROUP", "Block", "Cell", "Line", "blocks", "cell", "columns", "in_order", "lines"]

#: Rows sent at once, rows in one block of them, and in one of those sent when they come into sight.
AT_ONCE, BLOCK, LATER = 24, 24, 60
#: Lengths are drawn as long as they are, at most so many px.
_LONGEST = 40.0


@dataclass(frozen=True, slots=True)
class Cell:
    """One token in one mode: what won, what came out, and its tightest pairing there.

    ``inherited`` tells that what shows here was not stored for this mode; ``worst`` is the
    reading that misses by most, or comes closest to missing, of the token as a foreground; where
    nothing is required of it, the lowest.
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
        """The stored value as it is typed, and copied."""
        return typed(self.value, self.token.type)

    @property
    def shown(self) -> str:
        """What the cell says: a reference without its braces, or the value."""
        if self.value is None:
            return "—"
        is_shown = isinstance(self.value, Absent) or self.text.startswith(MANY)
        text = value_text(self.value) if is_shown else self.text
        if self.answer.broken:
            return f"broken: {text}"
        path = reference_of(text)
        if self.answer.on_page and not path:
            return f"{text} (depends on the page)"
        return shown_path(path) if path else text

    @property
    def result(self) -> str:
        """What a value of one part comes to, where that is neither what is stored nor drawn."""
        answer = self.answer
        drawn = answer.hex or isinstance(answer.value, Parts | Items)
        if drawn or answer.broken or self.text in (answer.css, answer.value):
            return ""
        return answer.css

    @property
    def sample(self) -> Sample | None:
        """How to draw what it comes to, where words do not say it."""
        return sample(self.answer)

    @property
    def length(self) -> float:
        """How long to draw a length, in px; 0 where it is none."""
        is_length = self.token.type == "dimension" and not self.answer.broken
        return min(max(pixels(self.answer.value), 0.0), _LONGEST) if is_length else 0.0

    @property
    def looks(self) -> str:
        """Class names for how it looks: inherited, broken, narrow (a condition on several axes)."""
        states = ("inherited", self.inherited), ("broken", bool(self.answer.broken))
        several = ("narrow", len(self.condition.picks) > 1)
        return "".join(f" {name}" for name, holds in (*states, several) if holds)


@dataclass(frozen=True, slots=True)
class Line:
    """A token's row of cells."""

    token: Token
    cells: tuple[Cell, ...]


@dataclass(frozen=True, slots=True)
class Block:
    """Some tokens of a group that are shown together; ``name`` is that of the group, or ``NO_GROUP``,
    and ``depth`` is 1 for a group inside another.

    ``first`` heads its group, ``count`` is the size of the whole group, ``later`` tells that its
    rows are sent when they come into sight, ``folded`` that they are not shown.
    """

    tier: Tier
    name: str
    tokens: tuple[Token, ...]
    first: bool
    count: int
    later: bool
    folded: bool
    depth: int = 0
    lines: tuple[Line, ...] = ()


def columns(resolver: Resolver, axis: Axis | None, theme: Theme) -> list[tuple[Mode | None, Theme]]:
    """The modes of ``axis`` as themes, all else as in ``theme``; the theme alone without axis."""
    if axis is None:
        return [(None, theme)]
    index = resolver.axis_index[axis.key]
    return [(mode, (*theme[:index], i, *theme[index + 1 :])) for i, mode in enumerate(axis.modes)]


def in_order(tokens: Iterable[Token]) -> list[Token]:
    """Tokens as the sheet lists them: by tier, group by group, document order within."""
    return [token for members in _by_group(tokens).values() for token in members]


#: A tier, a group, and the group inside it or an empty name for what lies in the outer one itself.
_Place = tuple[Tier, str, str]


def _by_group(tokens: Iterable[Token]) -> dict[_Place, list[Token]]:
    """Tokens by where they are listed: by tier, group by group, what lies in none inside it first."""
    listed = list(tokens)
    placed = groups(listed)
    places: dict[_Place, list[Token]] = {}
    outer: dict[tuple[Tier, str], int] = {}
    for token in listed:
        name, *inner = placed[token.key]
        outer.setdefault((token.tier, name), len(outer))
        places.setdefault((token.tier, name, inner[0] if inner else ""), []).append(token)
    for tier, name in outer:
        places.setdefault((tier, name, ""), [])
    order = {place: number for number, place in enumerate(places)}
    return dict(
        sorted(
            places.items(),
            key=lambda entry: (
                TIERS.index(entry[0][0]),
                outer[entry[0][:2]],
                bool(entry[0][2]),
                order[entry[0]],
            ),
        )
    )


def blocks(
    resolver: Resolver,
    axis: Axis | None,
    theme: Theme,
    tokens: Sequence[Token],
    *,
    folded: Collection[str] = (),
    always: Collection[str] = (),
) -> list[Block]:
    """``tokens`` in blocks, the first ``AT_ONCE`` rows or a few more with their cells.

    Blocks that hold one of the tokens ``always`` have their cells too; groups named in ``folded``
    have none, and those inside them are left out.
    """
    planned, shown = _planned(tokens, folded, always)
    made = iter(lines(resolver, axis, theme, shown))
    return [
        block if block.later else replace(block, lines=tuple(next(made) for _ in block.tokens))
        for block in planned
    ]


def _planned(
    tokens: Sequence[Token], folded: Collection[str], always: Collection[str]
) -> tuple[list[Block], list[Token]]:
    """The blocks without their cells, and the tokens whose cells are wanted at once."""
    places = _by_group(tokens)
    counts: dict[tuple[Tier, str], int] = {}
    for (tier, name, _), members in places.items():
        counts[tier, name] = counts.get((tier, name), 0) + len(members)
    planned: list[Block] = []
    shown: list[Token] = []
    for (tier, outer, inner), members in places.items():
        if inner and outer in folded:
            continue
        name = inner or outer
        shut = name in folded
        here = any(token.key in always for token in members)
        near = len(shown) < AT_ONCE or here
        parts = [members[:0]] if shut or not members else _parts(members, BLOCK if near else LATER)
        for place, part in enumerate(parts):
            wanted = here and any(token.key in always for token in part)
            later = len(shown) >= AT_ONCE and not wanted and not shut and bool(part)
            if not later:
                shown += part
            count = len(members) if inner else counts[tier, outer]
            planned.append(
                Block(tier, name, tuple(part), place == 0, count, later, shut, int(bool(inner)))
            )
    return planned, shown


def _parts(members: list[Token], size: int) -> list[list[Token]]:
    return [members[start : start + size] for start in range(0, len(members), size)]


def lines(
    resolver: Resolver, axis: Axis | None, theme: Theme, tokens: Sequence[Token]
) -> list[Line]:
    """A row for each of ``tokens``, one cell per mode of ``axis``."""
    document = resolver.document
    themes = columns(resolver, axis, theme)
    wanted = {token.key for token in tokens}
    pairings = [pairing for pairing in document.pairings if pairing.foreground in wanted]
    worst: dict[tuple[str, Theme], Reading] = {}
    foreground = {pairing.key: pairing.foreground for pairing in pairings}
    for reading in audit(resolver, pairings, [theme for _, theme in themes]):
        if reading.missing:
            continue
        place = (foreground[reading.pairing], reading.theme)
        if place not in worst or _tightness(reading) < _tightness(worst[place]):
            worst[place] = reading
    return [
        Line(
            token,
            tuple(
                cell(resolver, token, axis, mode, where, worst.get((token.key, where)))
                for mode, where in themes
            ),
        )
        for token in tokens
    ]


def _tightness(reading: Reading) -> tuple[bool, float]:
    """What is required comes before what is only measured, such as a card on its page."""
    return not reading.required, reading.ratio / (reading.required or 1)


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
