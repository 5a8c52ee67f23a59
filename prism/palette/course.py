"""The course of a ramp: its recipe, and the chroma and hue that it has at any lightness."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.palette import gamut as gamuts

Array = NDArray[np.float64]
Method = Literal["anchored", "even"]

_ROUNDS = 44
_GRID = 1025
#: OKLCH chroma from which a color has a hue that somebody sees beside a gray. Common practice, no source.
_HUE = 0.04
#: Chroma over OKLab lightness at its steepest; a vivid green would rise by more than 3 otherwise.
_STEEPEST = 1.0
#: Above this lightness the gamut alone decides: every hue leaves it steeply there.
_ALMOST_WHITE = 0.97
#: Lightness between which a base color counts more and more as white or black, and chroma between
#: which it counts more and more as a color.
_NEARLY_WHITE, _NEARLY_BLACK, _TINTED = (0.9, 0.97), (0.15, 0.3), (0.008, 0.02)


@dataclass(frozen=True, slots=True)
class Recipe:
    """How a ramp is made.

    ``targets`` are contrast ratios with ``reference``, first step first; empty takes the default
    for ``count``. ``ends`` are the OKLab lightness of the first and last step of an even ramp.
    ``drift`` turns the hue, in degrees, towards the lightest and the darkest step; ``curve`` is 0
    for the seed's chroma throughout, 1 for one that falls off to both ends; ``tint`` scales it.
    """

    seed: space.Color
    count: int = 11
    method: Method = "anchored"
    targets: tuple[float, ...] = ()
    reference: space.Color = space.WHITE
    ends: tuple[float, float] = (0.985, 0.2)
    drift: tuple[float, float] = (0.0, 0.0)
    curve: float = 1.0
    tint: float = 1.0
    gamut: str = "srgb"
    keep_seed: bool = True


@lru_cache(maxsize=16384)
def oklch(color: space.Color) -> tuple[float, float, float]:
    """OKLCH lightness 0-1, chroma and hue in degrees; 0 for what is missing, as the hue of a gray."""
    lightness, chroma, hue = space.engine(color).convert("oklch").coords(nans=False)
    return float(lightness), float(chroma), float(hue)


class Course:
    """Chroma and hue of a recipe at any lightness, held within the gamut.

    Chroma never rises or falls faster than ``_STEEPEST`` over OKLab lightness, so that no step
    leaps from pale to vivid; where the base color is itself a step (``through_seed``), as fast as
    it must to get there.
    """

    def __init__(self, recipe: Recipe, *, through_seed: bool = False) -> None:
        self.lightness, chroma, hue = oklch(recipe.seed)
        self._at = np.linspace(0, 1, _GRID)
        towards_light = np.clip((self._at - self.lightness) / max(1 - self.lightness, 1e-6), 0, 1)
        towards_dark = np.clip((self.lightness - self._at) / max(self.lightness, 1e-6), 0, 1)
        self._hue = hue + recipe.drift[0] * towards_light + recipe.drift[1] * towards_dark
        most = gamuts.most_chroma(self._at, self._hue, recipe.gamut)
        wanted = np.maximum(
            chroma * self._falloff(recipe.curve),
            _from_the_ends(self.lightness, chroma, self._at, most),
        )
        room = min(self.lightness, 1 - self.lightness)
        steepest = max(_STEEPEST, chroma / max(room, 1e-6)) if through_seed else _STEEPEST
        self._chroma = np.minimum(wanted * recipe.tint, most)
        below = self._at <= _ALMOST_WHITE
        self._chroma[below] = _no_steeper(self._chroma[below], steepest / (_GRID - 1))

    def _falloff(self, curve: float) -> Array:
        """Chroma at each lightness as a multiple of the base color's."""
        own = _shape(np.array(self.lightness), curve)
        return np.asarray(np.minimum(_shape(self._at, curve) / own, 1.6))

    def at(self, lightness: Array) -> tuple[Array, Array]:
        """Chroma and hue at each lightness, shapes (n,)."""
        return (
            np.interp(lightness, self._at, self._chroma),
            np.interp(lightness, self._at, self._hue),
        )

    def solve(self, luminances: Array) -> Array:
        """The OKLab lightness at which each luminance is met, by bisection."""
        low, high = np.zeros_like(luminances), np.ones_like(luminances)
        for _ in range(_ROUNDS):
            middle = (low + high) / 2
            dark = gamuts.luminance(middle, *self.at(middle)) < luminances
            low, high = np.where(dark, middle, low), np.where(dark, high, middle)
        return (low + high) / 2

    def color(self, lightness: float) -> space.Color:
        """The color at a lightness, as OKLCH."""
        chroma, hue = self.at(np.array([lightness]))
        return space.Color("oklch", (lightness, float(chroma[0]), float(hue[0]) % 360))


def _from_the_ends(own: float, chroma: float, at: Array, most: Array) -> Array:
    """Chroma at each lightness for a base color so light or so dark that the gamut leaves it little:
    the share of the gamut it has there, kept throughout; zeros for other colors and for neutrals."""
    share = min(chroma / max(float(np.interp(own, at, most)), 1e-6), 1.0)
    end = max(_rise(own, *_NEARLY_WHITE), 1 - _rise(own, *_NEARLY_BLACK))
    return np.asarray(share * end * _rise(chroma, *_TINTED) * most)


def _rise(value: float, low: float, high: float) -> float:
    """0 up to ``low``, 1 from ``high`` on, smooth between (smoothstep)."""
    at = min(max((value - low) / (high - low), 0.0), 1.0)
    return at * at * (3 - 2 * at)


def _no_steeper(values: Array, most: float) -> Array:
    """The largest values below ``values`` that differ by ``most`` from one to the next at most."""
    line = most * np.arange(len(values))
    rising = np.minimum.accumulate(values - line) + line
    falling = np.minimum.accumulate((values + line)[::-1])[::-1] - line
    return np.asarray(np.minimum(rising, falling))


def _shape(lightness: Array, curve: float) -> Array:
    """How chroma rises and falls with lightness: slowly to the light end, where the gamut narrows
    anyway, faster to the dark end, where strong colors glow."""
    arch = np.clip(4 * lightness * (1 - lightness), 1e-6, 1)
    return np.power(arch, np.where(lightness > 0.5, 0.3, 2.4) * curve)


def keeps_hue(color: space.Color, other: space.Color) -> bool:
    """Whether another color still has a hue where a color has one."""
    return not has_hue(color) or oklch(other)[1] >= oklch(color)[1] / 4


def has_hue(color: space.Color) -> bool:
    """Whether a color is seen as one of a hue beside a gray."""
    return oklch(color)[1] >= _HUE
