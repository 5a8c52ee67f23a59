"""Balance: how strongly a color stands out in one mode, against the mode it was designed for.

How strongly is the distance in CIE L* from what it lies on. Within ``EVEN`` points two distances look alike
(common practice, no source). What is made even keeps its OKLCH hue, and its chroma as far as the gamut has it.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from prism.brands import addition
from prism.color import space
from prism.color.contrast import lightness
from prism.color.difference import delta_e_2000, lab
from prism.expressions.typed_input import reference_to
from prism.model.document import Axis, Document, Mode
from prism.model.values import Condition, Expression, Value
from prism.modes.draft import EVEN
from prism.palette import ramp_edits
from prism.palette.course import oklch
from prism.palette.gamut import held_chroma
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme
from prism.roles.grounds import Guess
from prism.solver.places import Place, Places

#: A step of the palette is taken where it lies this near, CIEDE2000. Common practice, no source.
_NEAR = 2.0
#: A hue kept within so many degrees, of a color with so much OKLCH chroma, is the same.
_HUE, _COLORED = 1.5, 0.03
_ROUNDS = 40
_DETAILS = {"fill": ("action", "accent"), "status": ("text", "fill", "line"), "text": ("link",)}


@dataclass(frozen=True, slots=True)
class Side:
    """A color on what it lies on in one theme: both as hex, and how far apart in L*; the distance is
    negative where the color is the darker one."""

    theme: Theme
    color: str
    ground: str
    gap: float


@dataclass(frozen=True, slots=True)
class Standing:
    """A token on its ground, both by key, in the mode it was designed for and in another one."""

    token: str
    ground: str
    standard: Side
    other: Side

    @property
    def stronger(self) -> float:
        """By how many L* points it stands out more in the other mode; negative where less."""
        return abs(self.other.gap) - abs(self.standard.gap)

    @property
    def is_even(self) -> bool:
        return abs(self.stronger) <= EVEN

    @property
    def words(self) -> str:
        """``even``, ``stronger by 9`` or ``weaker by 9``."""
        if self.is_even:
            return "even"
        return f"{'stronger' if self.stronger > 0 else 'weaker'} by {abs(self.stronger):.0f}"


@dataclass(frozen=True, slots=True)
class Even:
    """A value with which a color stands out as asked: where it is stored, the value, its color as hex,
    the distance it reaches, and whether chroma had to give way."""

    place: Place
    value: Value
    color: str
    gap: float
    paler: bool


def grounds(document: Document, guesses: Mapping[str, Guess]) -> list[tuple[str, str]]:
    """The colors that carry a brand or a meaning, and what each is judged on: what it stands on first in
    a pairing where that is a page or a surface, else the page."""
    page = next((key for key, known in guesses.items() if known.role.kind == "page"), "")
    plain = {k for k, known in guesses.items() if known.role.kind in ("page", "surface")}
    grounds: dict[str, str] = {}
    for pairing in document.pairings:
        if len(pairing.backgrounds) == 1 and pairing.backgrounds[0] in plain:
            grounds.setdefault(pairing.foreground, pairing.backgrounds[0])
    return [
        (token.key, grounds.get(token.key, page))
        for token in document.tokens
        if token.key in guesses and page
        if token.tier == "semantic" or (token.tier == "raw" and not _is_step(document, token.key))
        if not guesses[token.key].role.state
        if guesses[token.key].role.detail in _DETAILS.get(guesses[token.key].role.kind, ())
    ]


def _is_step(document: Document, key: str) -> bool:
    """Whether a raw color is one of a palette, and not one that is used as it is."""
    bases = {ramp.base for ramp in document.ramps}
    return key in bases or ramp_edits.ramp_with(document, key) is not None


def brand_themes(
    document: Document, picks: Mapping[str, str]
) -> Iterator[tuple[Mode | None, dict[str, str]]]:
    """What each brand picks, all else as in ``picks``; one without a brand where there are none."""
    axis: Axis | None = addition.axis_of(document)
    if axis is None:
        yield None, dict(picks)
        return
    for mode in axis.modes:
        yield mode, {**picks, axis.key: mode.key}


def standings(
    document: Document,
    pairs: Sequence[tuple[str, str]],
    axis: str,
    standard: str,
    other: str,
    picks: Mapping[str, str],
) -> list[Standing]:
    """How colors stand out in two modes of an axis, all else as in ``picks``. Those that have no opaque
    color, or the same everywhere, are left out."""
    resolver = resolver_of(document)
    themes = [resolver.theme({**picks, axis: mode}) for mode in (standard, other)]
    standings = []
    for token, ground in pairs:
        sides = [_side(resolver, token, ground, theme) for theme in themes]
        if sides[0] is not None and sides[1] is not None:
            standings.append(Standing(token, ground, sides[0], sides[1]))
    return standings


def _side(resolver: Resolver, token: str, ground: str, theme: Theme) -> Side | None:
    colors = [resolver.resolve(key, theme).color for key in (token, ground)]
    shown = [color for color in colors if color is not None and color.alpha >= 1]
    if len(shown) < 2:
        return None
    high, low = (_light(color) for color in shown)
    color, ground_color = (space.hex_text(space.fit(color_shown, "srgb")) for color_shown in shown)
    return Side(theme, color, ground_color, high - low)


def even(
    document: Document, standing: Standing, within: Mapping[str, str], gap: float
) -> Even | None:
    """What makes a color stand out by ``gap`` L* points in the other mode, in themes of the modes
    ``within`` and of those by which it differs; None where its value cannot be moved."""
    resolver = resolver_of(document)
    theme = standing.other.theme
    now = resolver.resolve(standing.token, theme).color
    ground = resolver.resolve(standing.ground, theme).color
    if now is None or ground is None:
        return None
    modes = {**_differing(resolver, standing.token, theme), **within}
    decided = (places := Places(resolver, modes, (), False)).decided(standing.token, theme)
    if decided.slot < 0:
        return None
    place = places.slots[decided.slot].place
    light = _light(ground)
    above = standing.other.gap >= 0
    wanted = light + gap if above else light - gap
    if not 0 <= wanted <= 100:  # there is not so much room on this side
        wanted = min(max(wanted, 0.0), 100.0)
    made = _at_lightness(now, wanted, document.gamut)
    step = _near_step(resolver, document, place, theme, made)
    if step is not None:
        name, shade = step
        token = document.token(name)
        assert token is not None
        return _as_even(place, reference_to(document, token), shade, light, now)
    return _as_even(place, Expression(_written(made)), made, light, now)


def _as_even(
    place: Place, value: Value, color: space.Color, light: float, now: space.Color
) -> Even:
    paler = oklch(color)[1] < oklch(now)[1] - 0.005
    shown = space.hex_text(space.fit(color, "srgb"))
    return Even(place, value, shown, _light(color) - light, paler)


def _differing(resolver: Resolver, key: str, theme: Theme) -> dict[str, str]:
    """The modes of a theme by whose axes a token's color differs from this one."""
    color = resolver.resolve(key, theme).hex
    picks = resolver.picks(theme)
    differing = {}
    for axis in resolver.document.axes:
        if axis.key in resolver.influence(key):
            others = (resolver.theme({**picks, axis.key: mode.key}) for mode in axis.modes)
            if any(resolver.resolve(key, other).hex != color for other in others):
                differing[axis.key] = picks[axis.key]
    return differing


def _at_lightness(color: space.Color, wanted: float, gamut: str) -> space.Color:
    """A color of the same hue with another L*, by bisection over OKLCH lightness, its chroma kept as far
    as the gamut has it."""
    _, chroma, hue = oklch(color)
    low, high = 0.0, 1.0
    made = color
    for _ in range(_ROUNDS):
        middle = (low + high) / 2
        held = held_chroma(middle, chroma, hue, gamut) if gamut else chroma
        made = space.fit(space.Color("oklch", (middle, held, hue), color.alpha), gamut)
        if _light(made) < wanted:
            low = middle
        else:
            high = middle
    return made


def _written(color: space.Color) -> str:
    """A color as it is stored: as hex where 8 bits keep its hue, else exactly."""
    if not space.in_gamut(color, "srgb"):
        return space.css_text(color)
    short = space.hex_text(color)
    _, chroma, hue = oklch(color)
    _, rounded_chroma, rounded = oklch(space.parse(short))
    apart = abs((rounded - hue + 180) % 360 - 180)
    if max(chroma, rounded_chroma) > _COLORED and apart > _HUE:
        return space.css_text(color)
    return short


def _near_step(
    resolver: Resolver, document: Document, place: Place, theme: Theme, color: space.Color
) -> tuple[str, space.Color] | None:
    """The step of the token's own ramp that looks the same, with its color."""
    won = resolver.winner(place.token, theme)
    token = document.token(place.token)
    if won is None or token is None or not isinstance(won[1], Expression):
        return None
    target = document.token_at(won[1].text.strip("{}"))
    ramp = ramp_edits.ramp_with(document, target.key) if target is not None else None
    best: tuple[float, str, space.Color] | None = None
    for key in ramp.steps if ramp is not None else ():
        step = resolver.resolve(key, theme).color
        if step is not None:
            apart = float(
                delta_e_2000(*(lab(space.rgba(painted)[:3]) for painted in (step, color)))
            )
            if apart <= _NEAR and (best is None or apart < best[0]):
                best = apart, key, step
    return (best[1], best[2]) if best else None


def _light(color: space.Color) -> float:
    return float(lightness(np.array(space.rgba(color)[:3])))


def setting(even: Even) -> tuple[str, Condition, Value]:
    """What is stored to make a color even."""
    return even.place.token, even.place.condition, even.value
