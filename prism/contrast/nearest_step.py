"""The nearest step that passes: for a pairing that falls short, what to move so that it does not.

A value is moved along the ramp it stands on, no further than it must, in each place that decides how
the pairing reads where it falls short. Nothing is offered that makes another pairing fall short in a
theme where it did not. Requirements: those of the pairings (WCAG 2.2, 1.4.3 and 1.4.11).
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from itertools import combinations
from typing import Literal

from prism.changes.values import set_values
from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import typed
from prism.model.document import Document, Pairing, shown_path
from prism.model.names import condition_words
from prism.model.values import Condition, Expression, Value
from prism.resolution.contrast import measure
from prism.resolution.contrast_table import ContrastTable
from prism.resolution.failing_pairing import Part
from prism.solver.decisions import Deciding, Move, State, candidates
from prism.solver.regressions import Harm

#: Documents that are made at most to try values in, for one fix.
_MOST_TRIED = 30
#: What a fix moves: one of the two to another step, or the foreground to a new color.
Side = Literal["foreground", "background", "color"]


@dataclass(frozen=True, slots=True)
class Effect:
    """What a fix does to a pairing: its least ratio over all themes, before and after."""

    pairing: Pairing
    before: float
    after: float


@dataclass(frozen=True, slots=True)
class Fix:
    """What makes a pairing pass in every theme: which of its colors is moved, the moves, what they
    change, the pairing itself first, and how many themes of others fall short no more."""

    side: Side
    moves: tuple[Move, ...]
    effects: tuple[Effect, ...]

    @property
    def settings(self) -> list[tuple[str, Condition, Value]]:
        """The values to store."""
        return [(move.token, move.condition, move.after) for move in self.moves]


def fixes(paired: Document, pairing: Pairing, within: Mapping[str, str] | None = None) -> list[Fix]:
    """How a pairing of ``paired``, a document with all pairings that count, can be made to pass: by
    its foreground, and by its uppermost background, at most one way each. ``within`` names modes
    by axis: values are moved in themes of these alone."""
    state = State(paired)
    offered = []
    sides: tuple[tuple[Side, str], ...] = (
        ("foreground", pairing.foreground),
        *((("background", pairing.backgrounds[0]),) if pairing.backgrounds else ()),
    )
    for side, key in sides:
        moves = _Search(state, pairing, key, dict(within or {})).moves()
        if moves:
            offered.append(Fix(side, tuple(moves), tuple(effects(state, moves, pairing))))
    return offered


def new_color(paired: Document, pairing: Pairing) -> Fix | None:
    """The nearest new color of the foreground's hue with which a pairing passes in every theme; None where there is
    none, as where the foreground is a color of the palette itself."""
    state = State(paired)
    moves = _Search(state, pairing, pairing.foreground, {}, new_color=True).moves()
    if not moves:
        return None
    return Fix("color", tuple(moves), tuple(effects(state, moves, pairing)))


class _Search:
    """The moves of one color of a pairing."""

    def __init__(
        self,
        state: State,
        pairing: Pairing,
        key: str,
        within: Mapping[str, str],
        *,
        new_color: bool = False,
    ) -> None:
        self.state, self.pairing, self.key = state, pairing, key
        self.within, self._new_color = within, new_color
        self._left = _MOST_TRIED

    def moves(self) -> list[Move]:
        """Every move that is needed; none where one of them is not to be had."""
        made: list[Move] = []
        state, settled = self.state, set[Deciding]()
        while True:
            parts = self._short(state)
            if not parts:
                return made
            decided = state.deciding(self.key, parts[0].reading.theme)
            if decided is None or decided[0] in settled:
                return []
            reaches = self._reaches(parts[0], decided[0].condition)
            could = [c for c in self._offered(state, decided) if self._passes(state, parts[0], c)]
            harm = Harm(state, {decided[0].token})
            tried = (self._nearest(state, decided, within, could, harm) for within in reaches)
            moved = next((move for move in tried if move is not None), None)
            if moved is None:
                return []
            move, state = moved
            settled.add(Deciding(move.token, move.condition))
            made.append(move)

    def _offered(self, state: State, decided: tuple[Deciding, Value]) -> Iterator[Value]:
        """What could stand in place of a value, the nearest first."""
        yield from candidates(state, *decided, new_color=self._new_color)

    def _passes(self, state: State, part: Part, candidate: Value) -> bool:
        """Whether a value could let the pairing pass in a part of the themes in which it decides: a look at two colors,
        before a document is made for it. What lets something through is looked at there."""
        color = _color_of(state, candidate, part)
        own = state.resolver.resolve(self.pairing.foreground, part.reading.theme).color
        if color is None or color.alpha < 1 or own is None or own.alpha < 1:
            return True
        over, under = part.reading.foreground, part.reading.background
        foreground = self.key == self.pairing.foreground
        fixed = space.rgba(space.parse(under if foreground else over))
        stack = (space.rgba(color), fixed) if foreground else (fixed, space.rgba(color))
        return measure([stack])[0][0] >= part.reading.required

    def _short(self, state: State) -> list[Part]:
        """Where the pairing falls short, within the modes that count."""
        return _inside(state, state.read([self.pairing]).failing(self.pairing.key), self.within)

    def _reaches(self, part: Part, condition: Condition) -> Iterator[dict[str, str]]:
        """In which modes a value may be moved: everywhere, else in some of the modes in which the
        pairing falls short, as few as will do."""
        axes = self.state.document.axes
        named = {axis for axis, _ in condition.picks} | set(self.within)
        modes = [
            (axis.key, axis.modes[mode].key)
            for axis, mode in zip(axes, part.fixed, strict=True)
            if mode >= 0 and axis.key not in named
        ]
        for count in range(len(modes) + 1):
            for some in combinations(modes, count):
                yield {**dict(some), **self.within}

    def _nearest(
        self,
        state: State,
        decided: tuple[Deciding, Value],
        within: Mapping[str, str],
        could: Sequence[Value],
        harm: Harm,
    ) -> tuple[Move, State] | None:
        """The nearest value of those that could, with which all that this one decides passes, and nothing
        else falls short that did not. ``within`` are modes that it is to hold in alone."""
        place, value = decided
        token = state.document.token(place.token)
        assert token is not None
        condition = Condition.of({**dict(place.condition.picks), **within})
        for candidate in could[: self._left]:
            self._left -= 1
            move = Move(token.key, condition, value, candidate)
            after = state.moved(move)
            if self._still_short(after, Deciding(move.token, condition)):
                continue
            if not harm.is_in(after):
                return move, after
        return None

    def _still_short(self, after: State, place: Deciding) -> bool:
        """Whether the pairing falls short where a value decides."""
        for part in self._short(after):
            decided = after.deciding(self.key, part.reading.theme)
            if decided is not None and decided[0] == place:
                return True
        return False


def _color_of(state: State, value: Value, part: Part) -> space.Color | None:
    """The color that a value that could stand somewhere has in a part of the themes."""
    if not isinstance(value, Expression):
        return None
    path = reference_of(value.text)
    target = state.document.token_at(path) if path else None
    if target is not None:
        return state.resolver.resolve(target.key, part.reading.theme).color
    try:
        return space.parse(value.text)
    except ExpressionError:
        return None


def _inside(state: State, parts: Sequence[Part], within: Mapping[str, str]) -> list[Part]:
    """The parts that have themes of these modes, each with such a theme."""
    wanted = [
        (place, state.resolver.mode_index[place][mode])
        for axis, mode in within.items()
        for place in [state.resolver.axis_index[axis]]
    ]
    inside = []
    for part in parts:
        if all(part.fixed[axis] in (-1, mode) for axis, mode in wanted):
            theme = list(part.reading.theme)
            for axis, mode in wanted:
                theme[axis] = mode
            inside.append(replace(part, reading=replace(part.reading, theme=tuple(theme))))
    return inside


def effects(state: State, moves: Sequence[Move], first: Pairing | None = None) -> Iterator[Effect]:
    """The pairings that read otherwise after some moves; ``first`` leads, whether it does or not."""
    changed = set_values(
        state.document, [(move.token, move.condition, move.after) for move in moves]
    )
    after = State(changed, state)
    reached = state.resolver.graph.users({move.token for move in moves})
    listed = [first] if first is not None else []
    for pairing in state.document.pairings:
        own = reached & {pairing.foreground, *pairing.backgrounds, pairing.page}
        if own and (first is None or pairing.key != first.key):
            listed.append(pairing)
    was, now = (side.read(listed) for side in (state, after))
    for pairing in listed:
        before, least = (_least(table, pairing) for table in (was, now))
        if before != least or pairing is first:
            yield Effect(pairing, before, least)


def _least(table: ContrastTable, pairing: Pairing) -> float:
    readings = (part.reading for part in table.parts(pairing.key))
    return min((reading.ratio for reading in readings if not reading.missing), default=0.0)


def repaired(
    paired: Document, within: Mapping[str, str], like: Mapping[str, str]
) -> list[tuple[str, Condition, Value]]:
    """Values that make the pairings of ``paired`` pass in themes of some modes, as far as steps do;
    those that fall short in the modes ``like`` too stay as they are. The foreground is moved where
    that is enough."""
    settings: dict[tuple[str, Condition], Value] = {}
    document, state = paired, State(paired)
    first = state.read(paired.pairings)
    for pairing in paired.pairings:
        short = first.failing(pairing.key)
        if not _inside(state, short, within) or (like and _inside(state, short, like)):
            continue
        now = State(document)
        if _inside(now, now.read([pairing]).failing(pairing.key), within):
            for fix in fixes(document, pairing, within)[:1]:
                document = set_values(document, fix.settings)
                settings |= {(key, condition): value for key, condition, value in fix.settings}
    return [(key, condition, value) for (key, condition), value in settings.items()]


def sets(document: Document, fix: Fix) -> Iterator[str]:
    """What a fix sets, value by value: ``text.hint to ink.7 for appearance dark``."""
    for move in fix.moves:
        token = document.token(move.token)
        assert token is not None
        where = f" for {condition_words(document, move.condition)}" if move.condition.picks else ""
        yield f"{shown_path(token.path)} to {typed(move.after, token.type).strip('{}')}{where}"


def words_of(document: Document, fix: Fix) -> str:
    """What a fix sets, as one text."""
    return ", ".join(sets(document, fix))
