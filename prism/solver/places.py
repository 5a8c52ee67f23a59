"""Where colors can be moved, and what could stand there: the values that decide them, with their candidates."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.contrast import lightness
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import reference_to
from prism.expressions.values import references
from prism.model.document import Document, Token
from prism.model.values import Condition, Expression, Value
from prism.palette import ramp_edits
from prism.palette.course import has_hue, keeps_hue, oklch
from prism.palette.mapping import is_rung, ladder_of
from prism.resolution.compiled import strength
from prism.resolution.resolver import Resolver, Theme
from prism.solver.levels import plain_ends

Rgba = tuple[float, float, float, float]
Colors = NDArray[np.float64]

#: A color that is moved at all costs as much as so many tenths of L*, on top of how far it is moved; one
#: of another hue, and one that is none of the palette, cost more. Common practice, no source.
_MOVED, _ELSEWHERE, _NEW = 15, 60, 90
#: A color that says something by its hue costs more where it becomes white, black or gray. Common practice, no source.
_HUE_LOST = 250
#: The page and its surfaces are moved by so many L* at most. Common practice, no source.
_SURFACE = 15.0
#: New colors between steps lie so far apart in OKLCH lightness.
_FINE = 0.02
#: Overlays are offered at opacities this far apart; one all the way through costs as much as so many tenths of L*.
_OPACITY, _THROUGH = 0.04, 400


@dataclass(frozen=True, slots=True)
class Place:
    """Where a value is stored: a token by key, and a condition."""

    token: str
    condition: Condition


@dataclass(slots=True)
class Slot:
    """A place whose value decides colors, with what could stand there, what stands there first, each with
    its cost, and its color in the theme in which it was met."""

    place: Place
    values: list[Value]
    keys: list[str]
    costs: list[int]
    colors: list[space.Color]
    #: Colors by theme as channels, (candidates, 4).
    known: dict[Theme, Colors] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Decided:
    """What decides a token's color in a theme: a slot by its number, or else a color that stays."""

    slot: int = -1
    color: Rgba | None = None


class Places:
    """The slots of a document, found one by one as tokens are asked about.

    ``within`` are modes by axis: values are moved in themes of these alone. ``held`` are tokens, by key,
    and places that stay as they are; ``surfaces`` are tokens that stay about as light as they are, so that a
    light page is not made dark; ``new_colors`` says whether colors between the steps of the palette may be made.
    """

    def __init__(
        self,
        resolver: Resolver,
        within: Mapping[str, str],
        held: Collection[str | Place],
        new_colors: bool,
        surfaces: Collection[str] = (),
    ) -> None:
        self.resolver = resolver
        self.document: Document = resolver.document
        self.slots: list[Slot] = []
        #: Whether a color was met that is computed from others, which is taken as it is now.
        self.computes = False
        self._numbers: dict[Place, int] = {}
        self._within = dict(within)
        self._held = held
        self._new_colors = new_colors
        self._surfaces = frozenset(surfaces)
        self._decided: dict[tuple[str, Theme], Decided] = {}
        self._ends: list[str] | None = None
        self._plain: dict[str, bool] = {}
        self._known_steps: dict[str, tuple[Sequence[str], Sequence[str]]] = {}

    def decided(self, key: str, theme: Theme) -> Decided:
        """What decides a token's color in a theme."""
        known = self._decided.get((key, theme))
        if known is None:
            known = self._decided[key, theme] = self._decide(key, theme)
        return known

    def colors(self, number: int, theme: Theme) -> Colors:
        """The channels of each candidate of a slot in a theme, (candidates, 4)."""
        slot = self.slots[number]
        if theme not in slot.known:
            slot.known[theme] = np.array(
                [
                    space.rgba(self._color(step, shade, theme))
                    for step, shade in zip(slot.keys, slot.colors, strict=True)
                ]
            )
        return slot.known[theme]

    def _color(self, key: str, color: space.Color, theme: Theme) -> space.Color:
        return (self.resolver.resolve(key, theme).color if key else None) or color

    def _decide(self, key: str, theme: Theme) -> Decided:
        answer = self.resolver.resolve(key, theme)
        stays = Decided(color=space.rgba(answer.color) if answer.color else None)
        for _ in range(len(self.document.tokens)):
            won = self.resolver.winner(key, theme)
            token = self.document.token(key)
            if won is None or token is None or answer.color is None:
                return stays
            condition, value = won
            target = _target(self.document, value)
            if target is not None and not is_rung(self.document, target):
                key = target.key
                continue
            if not isinstance(value, Expression) or self._depends(value):
                self.computes = True
                return stays
            if not self._moves(token):
                return stays
            place = Place(key, self._condition(token, condition, theme))
            return Decided(self._number(place, value, theme), stays.color)
        return stays

    def _condition(self, token: Token, held: Condition, theme: Theme) -> Condition:
        """Under which condition a value that holds in a theme is moved in the modes that are asked for.

        It names the modes of further axes where it would otherwise win over values that hold elsewhere.
        """
        picks = {**dict(held.picks), **self._within}
        if not self._within:
            return held
        places, there = self.resolver.axis_index, self.resolver.picks(theme)
        for other, _ in token.values:
            if other == held or all(there.get(axis) == mode for axis, mode in other.picks):
                continue
            agrees = all(picks.get(axis, mode) == mode for axis, mode in other.picks)
            wins = strength([places[axis] for axis in picks]) > strength(
                [places[axis] for axis, _ in other.picks]
            )
            if agrees and wins:
                picks |= {axis: there[axis] for axis, _ in other.picks}
        return Condition.of(picks)

    def _moves(self, token: Token) -> bool:
        """Whether a token can be moved: a raw one where it stands on no ladder and nothing refers to it, as
        in a sheet of literals."""
        if token.tier != "raw":
            return True
        if token.key not in self._plain:
            alone = not self.resolver.graph.users({token.key}) - {token.key}
            own = ladder_of(self.document, reference_to(self.document, token)) is not None
            self._plain[token.key] = alone and (not own or not self.document.ramps)
        return self._plain[token.key]

    def _depends(self, value: Value) -> bool:
        """Whether a value is computed from other colors that can be moved themselves."""
        targets = [self.document.token_at(path) for path in references(value, "color")]
        return any(target is not None and not is_rung(self.document, target) for target in targets)

    def _number(self, place: Place, value: Value, theme: Theme) -> int:
        if place not in self._numbers:
            self._numbers[place] = len(self.slots)
            self.slots.append(self._slot(place, value, theme))
        return self._numbers[place]

    def _slot(self, place: Place, value: Value, theme: Theme) -> Slot:
        """A slot with its candidates, the value that stands there first, then from near to far."""
        now = self.resolver.resolve(place.token, theme).color
        assert now is not None
        target = _target(self.document, value)
        slot = Slot(place, [value], [target.key if target else place.token], [0], [now])
        if place.token in self._held or place in self._held:
            return slot
        offers = list(self._offers(target, now, theme))
        lights = _lightness([now, *(color for *_, color, _ in offers)])
        far = [
            round(10 * abs(float(light - lights[0]))) + extra + _MOVED
            for light, (*_, extra) in zip(lights[1:], offers, strict=True)
        ]
        most = _SURFACE if place.token in self._surfaces else 100.0
        near = [i for i in range(len(offers)) if abs(lights[i + 1] - lights[0]) <= most]
        for number in sorted(near, key=lambda i: far[i]):
            key, offered, color, _ = offers[number]
            slot.values.append(offered)
            slot.keys.append(key)
            slot.costs.append(far[number])
            slot.colors.append(color)
        return slot

    def _offers(
        self, target: Token | None, now: space.Color, theme: Theme
    ) -> Iterator[tuple[str, Value, space.Color, int]]:
        """What could stand in place of a color: key of its token or none, value, color, extra cost."""
        if target is not None:
            own, ends = self._steps(target, theme)
            for keys, extra in ((own, 0), (ends, _ELSEWHERE)):
                for key in keys:
                    color = self.resolver.resolve(key, theme).color
                    token = self.document.token(key)
                    if key != target.key and token and color and color.alpha == now.alpha:
                        lost = 0 if keeps_hue(now, color) else _HUE_LOST
                        yield key, reference_to(self.document, token), color, extra + lost
        alone = target is not None and not _own_steps(self.document, target)
        if target is None or self._new_colors or (alone and has_hue(now)):
            extra = _NEW if target is not None else 0
            for color in _between(now, self.document.gamut):
                yield "", Expression(space.css_text(color)), color, extra
            for color, apart in _opacities(now) if self._new_colors else ():
                yield "", Expression(space.css_text(color)), color, extra + apart

    def _steps(self, target: Token, theme: Theme) -> tuple[Sequence[str], Sequence[str]]:
        """The steps of a color's own ramp, and the ends that could take its place; for white, black and
        single colors the ends and the neutrals are all there is."""
        if target.key not in self._known_steps:
            if self._ends is None:
                self._ends = plain_ends(self.resolver, theme)
            ends = self._ends
            own = _own_steps(self.document, target)
            inks = [s for ramp in self.document.ramps if ramp.purpose == "ink" for s in ramp.steps]
            self._known_steps[target.key] = (own, ends) if own else ([*ends, *inks], ())
        return self._known_steps[target.key]


def _own_steps(document: Document, target: Token) -> Sequence[str]:
    """The steps of the ramp or ladder that a color is one of, or is the base of; empty for none."""
    ramp = ramp_edits.ramp_with(document, target.key)
    if ramp is None:
        ramp = next((known for known in document.ramps if known.base == target.key), None)
    if ramp is not None and len(ramp.steps) >= 3:
        return (*ramp.steps, *([ramp.base] if ramp.base else []))
    ladder = ladder_of(document, reference_to(document, target))
    return ladder[0] if ladder is not None else ()


def _target(document: Document, value: Value) -> Token | None:
    """The token that a value refers to as a whole."""
    path = reference_of(value.text) if isinstance(value, Expression) else ""
    return document.token_at(path) if path else None


def _between(color: space.Color, gamut: str) -> Iterator[space.Color]:
    """A color at other lightnesses, its hue kept, and its chroma as far as the gamut has it; with 8 bits a
    channel where it lies in sRGB, as it is stored."""
    _, chroma, hue = oklch(color)
    for step in range(round(1 / _FINE) + 1):
        there = space.Color("oklch", (step * _FINE, chroma, hue), color.alpha)
        fitted = space.fit(there, gamut)
        if space.in_gamut(fitted, "srgb"):
            red, green, blue, alpha = space.rgba8(fitted)
            yield space.Color("srgb", (red / 255, green / 255, blue / 255), alpha)
        else:
            yield fitted


def _opacities(color: space.Color) -> Iterator[tuple[space.Color, int]]:
    """An overlay at other opacities, each with what the difference costs; none of an opaque color."""
    if color.alpha >= 1:
        return
    for step in range(1, round(1 / _OPACITY)):
        alpha = round(step * _OPACITY, 2)
        if abs(alpha - color.alpha) > 1e-9:
            yield replace(color, alpha=alpha), round(abs(alpha - color.alpha) * _THROUGH)


def _lightness(colors: Sequence[space.Color]) -> NDArray[np.float64]:
    return np.asarray(lightness(np.array([space.rgba(color)[:3] for color in colors])))
