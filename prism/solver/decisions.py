"""What decides a color somewhere, what could stand there in its place, and how everything reads then."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from prism.changes.values import set_values
from prism.color import space
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import reference_to
from prism.model.document import Document, Pairing, Token
from prism.model.values import Condition, Expression, Value
from prism.palette import ramp_edits
from prism.palette.mapping import is_rung, ladder_of
from prism.palette.ramps import oklch
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.contrast_table import ContrastTable
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme
from prism.solver.levels import plain_ends

#: A color without a ramp is moved in OKLCH lightness by this much at a time.
_NUDGE = 0.02


@dataclass(frozen=True, slots=True)
class Move:
    """One value that is moved: the token by key, its condition, and both values."""

    token: str
    condition: Condition
    before: Value
    after: Value


@dataclass(frozen=True, slots=True)
class Deciding:
    """A value that decides a color somewhere: the token that holds it, and under which condition."""

    token: str
    condition: Condition


class State:
    """A document with its pairings, and how these read."""

    def __init__(self, document: Document, before: State | None = None) -> None:
        """``before`` is that of the document it was made from: what no change reached is taken from there."""
        self.document = document
        resolver = before.resolver if before is not None else None
        self.resolver: Resolver = resolver_of(document, resolver)
        tables = before.tables if before is not None else None
        self.tables: AnswerTables = AnswerTables(self.resolver, tables)

    def read(self, pairings: Sequence[Pairing]) -> ContrastTable:
        return ContrastTable(self.tables, pairings)

    def moved(self, move: Move) -> State:
        changed = set_values(self.document, [(move.token, move.condition, move.after)])
        return State(changed, self)

    def deciding(self, key: str, theme: Theme) -> tuple[Deciding, Value] | None:
        """What decides a token's color in a theme: the last value before the steps of a ramp."""
        for _ in range(len(self.document.tokens)):
            won = self.resolver.winner(key, theme)
            token = self.document.token(key)
            if won is None or token is None or token.tier == "raw":
                return None
            condition, value = won
            path = reference_of(value.text) if isinstance(value, Expression) else ""
            target = self.document.token_at(path) if path else None
            if target is None or is_rung(self.document, target):
                return Deciding(key, condition), value
            key = target.key
        return None


def candidates(
    state: State, place: Deciding, value: Value, *, new_color: bool = False
) -> Iterator[Value]:
    """Values that could stand in place of one, the nearest in lightness first: steps, or new colors of its hue."""
    document = state.document
    path = reference_of(value.text) if isinstance(value, Expression) else ""
    target = document.token_at(path) if path else None
    theme = state.resolver.theme(dict(place.condition.picks))
    if target is None or new_color:
        yield from _nudged(state, place, theme)
        return
    now = state.resolver.resolve(target.key, theme).color
    if now is None:
        return
    light = oklch(now)[0]
    swatches = []
    for key in _swatches(state.resolver, document, target, theme):
        color = state.resolver.resolve(key, theme).color
        if color is not None and key != target.key and color.alpha == now.alpha:
            swatches.append((abs(oklch(color)[0] - light), key))
    for _, key in sorted(swatches, key=lambda swatch: swatch[0]):
        token = document.token(key)
        assert token is not None
        yield reference_to(document, token)


def _swatches(resolver: Resolver, document: Document, target: Token, theme: Theme) -> Sequence[str]:
    """The raw colors that could stand in place of one: its ramp; the raw colors beside it; for white,
    black and single colors the ends and the neutrals."""
    ramp = ramp_edits.ramp_with(document, target.key)
    if ramp is None:
        ramp = next((known for known in document.ramps if known.base == target.key), None)
    if ramp is not None and len(ramp.steps) >= 3:
        return (*ramp.steps, *([ramp.base] if ramp.base else []))
    ladder = ladder_of(document, reference_to(document, target))
    if ladder is not None:
        return ladder[0]
    inks = [step for known in document.ramps if known.purpose == "ink" for step in known.steps]
    return [*plain_ends(resolver, theme), *inks]


def _nudged(state: State, place: Deciding, theme: Theme) -> Iterator[Value]:
    """A literal color at other lightnesses, its hue kept; chroma as far as the gamut has it."""
    color = state.resolver.resolve(place.token, theme).color
    if color is None:
        return
    lightness, chroma, hue = oklch(color)
    gamut = state.document.gamut
    for by in range(1, int(1 / _NUDGE) + 1):
        for sign in (-1, 1):
            light = lightness + sign * by * _NUDGE
            if 0 <= light <= 1:
                there = space.Color("oklch", (light, chroma, hue), color.alpha)
                fitted = space.fit(there, gamut)
                inside = gamut == "srgb" or space.in_gamut(fitted, "srgb")
                short = space.hex_text(fitted) if inside else space.css_text(fitted)
                yield Expression(short)
