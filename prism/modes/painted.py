"""Colors as a screen shows them on others, for choosing them: composited, with their luminance."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.contrast import flatten, ratio_of_luminances, relative_luminance
from prism.color.transfer import encoded
from prism.palette import gamut as gamuts
from prism.palette.course import oklch
from prism.palette.ramps import as_stored
from prism.resolution.contrast import CANVAS

Array = NDArray[np.float64]

_GRID = np.linspace(0.0, 1.0, 513)
#: So many of the nearest colors are tried, as 8 bits may fall short of what was computed.
_TRIED = 8


@lru_cache(maxsize=65536)
def painted(stack: tuple[space.Color, ...]) -> tuple[float, float, float]:
    """The opaque sRGB color that a stack of colors, top first, shows; at the end lies white."""
    layers = [np.array([space.rgba(color)]) for color in stack]
    red, green, blue, _ = flatten([*layers, np.array([CANVAS])])[0]
    return float(red), float(green), float(blue)


@lru_cache(maxsize=65536)
def ratio(color: space.Color, stack: tuple[space.Color, ...]) -> float:
    """The contrast ratio of a color, which may be translucent, with the stack it lies on."""
    below = relative_luminance(painted(stack))
    return float(ratio_of_luminances(relative_luminance(painted((color, *stack))), below))


def least_ratio(color: space.Color, stacks: Sequence[tuple[space.Color, ...]]) -> float:
    """The smallest contrast ratio of a color on several stacks."""
    return min(ratio(color, stack) for stack in stacks)


@lru_cache(maxsize=512)
def _course(hue: float, chroma: float, gamut: str) -> tuple[Array, Array, Array]:
    """Chroma of a hue over lightness, its sRGB channels and its relative luminance, shapes (513,),
    (513, 3) and (513,)."""
    hues = np.full_like(_GRID, hue)
    chromas = np.minimum(chroma, gamuts.most_chroma(_GRID, hues, gamut))
    channels = encoded(np.clip(gamuts.linear_rgb(_GRID, chromas, hues, "srgb"), 0, 1))
    return chromas, channels, relative_luminance(channels)


def solve(
    color: space.Color,
    stacks: Sequence[tuple[space.Color, ...]],
    wanted: float,
    required: float,
    *,
    lighter: bool,
    gamut: str,
) -> space.Color:
    """A color of the same hue and alpha with a contrast ratio close above ``wanted`` on every stack, and
    at least ``required`` as it is stored; else the one that reaches most. ``lighter`` tells which side
    of the stacks is tried first."""
    _, chroma, hue = oklch(color)
    chromas, channels, luminance = _course(round(hue, 1), round(chroma, 3), gamut)
    below = np.array(sorted({painted(stack) for stack in stacks}))
    ground = relative_luminance(below)
    if color.alpha < 1:
        shown = channels[:, None, :] * color.alpha + below[None, :, :] * (1 - color.alpha)
        above = relative_luminance(shown)
    else:
        above = luminance[:, None]
    ratios = np.min(ratio_of_luminances(above, ground[None, :]), axis=1)
    sides = [np.all(above > ground, axis=1), np.all(above < ground, axis=1)]

    def made(place: int) -> space.Color:
        plain = space.Color("oklch", (float(_GRID[place]), float(chromas[place]), hue))
        return replace(as_stored(plain, gamut), alpha=color.alpha)

    for side in sides if lighter else sides[::-1]:
        places = np.flatnonzero(side & (ratios >= wanted))
        for place in places[np.argsort(ratios[places], kind="stable")][:_TRIED]:
            if least_ratio(made(int(place)), stacks) >= required:
                return made(int(place))
        most = int(np.argmax(np.where(side, ratios, 0)))
        if np.any(side) and least_ratio(made(most), stacks) >= required:
            return made(most)
    return made(int(np.argmax(ratios)))
