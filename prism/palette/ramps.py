"""Ramps: one hue's ordered steps, made from a seed.

An anchored ramp meets a contrast ratio with a reference color at each step, so that the same
step of any two ramps is interchangeable; an even ramp has equal distances in OKLab lightness.
Hue is the seed's, with a drift at the ends if wanted; chroma follows a curve that peaks in the
middle and is held within the gamut at constant lightness and hue.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.contrast import contrast_ratio, relative_luminance
from prism.errors import PrismError

Array = NDArray[np.float64]

#: Contrast on white of the eleven steps of an anchored ramp, lightest first.
TARGETS = (1.06, 1.14, 1.32, 1.62, 2.15, 3.05, 4.6, 6.4, 9.0, 12.6, 16.2)
#: Thresholds of WCAG 2.2 that rounding to 8 bits must not cross.
THRESHOLDS = (3.0, 4.5, 7.0)
MOST_STEPS = 60
WHITE = space.Color("srgb", (1.0, 1.0, 1.0))
_ROUNDS = 40

# OKLab to linear sRGB: Ottosson 2020, with the matrices for D65 of CSS Color 4, section 17.
_TO_LMS = np.array(
    [
        [1.0, 0.3963377773761749, 0.2158037573099136],
        [1.0, -0.1055613458156586, -0.0638541728258133],
        [1.0, -0.0894841775298119, -1.2914855480194092],
    ]
)
_LMS_TO_XYZ = np.array(
    [
        [1.2268798758459243, -0.5578149944602171, 0.2813910456659647],
        [-0.0405757452148008, 1.1122868032803170, -0.0717110580655164],
        [-0.0763729366746601, -0.4214933324022432, 1.5869240198367816],
    ]
)
_XYZ_TO = {
    "srgb": np.array(
        [
            [12831 / 3959, -329 / 214, -1974 / 3959],
            [-851781 / 878810, 1648619 / 878810, 36519 / 878810],
            [705 / 12673, -2585 / 12673, 705 / 667],
        ]
    ),
    "display-p3": np.array(
        [
            [446124 / 178915, -333277 / 357830, -72051 / 178915],
            [-14852 / 17905, 63121 / 35810, 423 / 17905],
            [11844 / 330415, -50337 / 660830, 316169 / 330415],
        ]
    ),
}


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
    method: Literal["anchored", "even"] = "anchored"
    targets: tuple[float, ...] = ()
    reference: space.Color = WHITE
    ends: tuple[float, float] = (0.985, 0.2)
    drift: tuple[float, float] = (0.0, 0.0)
    curve: float = 1.0
    tint: float = 1.0
    gamut: str = "srgb"
    keep_seed: bool = True


@dataclass(frozen=True, slots=True)
class Step:
    """One step: its color, the ratio it aims at (0 in an even ramp), its ratio before rounding to
    8 bits, and whether it is the seed itself."""

    color: space.Color
    target: float
    exact: float
    is_seed: bool = False


def default_targets(count: int) -> tuple[float, ...]:
    """``count`` targets: the eleven, or others between them on a logarithmic scale."""
    if count == len(TARGETS):
        return TARGETS
    if count == 1:
        return (TARGETS[len(TARGETS) // 2],)
    places = np.linspace(0, len(TARGETS) - 1, count)
    logs = np.interp(places, np.arange(len(TARGETS)), np.log(TARGETS))
    return tuple(float(value) for value in np.exp(logs))


def make(recipe: Recipe) -> tuple[Step, ...]:
    """The steps of a ramp. Raises ``PrismError`` for a recipe that cannot be followed."""
    _check(recipe)
    lightness, chroma, hue = _oklch(recipe.seed)
    if recipe.method == "even":
        targets: tuple[float, ...] = (0.0,) * recipe.count
        wanted = np.linspace(recipe.ends[0], recipe.ends[1], recipe.count)
    else:
        targets = recipe.targets or default_targets(recipe.count)
        wanted = _solve(recipe, _luminances(recipe, targets), lightness, chroma, hue)
    colors = _colors(recipe, wanted, lightness, chroma, hue)
    reference = np.array(space.rgba(recipe.reference)[:3])
    steps = []
    for i, color in enumerate(colors):
        exact = _ratio(color, reference)
        rounded = _rounded(recipe, color, targets[i], reference)
        steps.append(Step(rounded, targets[i], exact))
    if recipe.keep_seed:
        place = int(np.argmin(np.abs(wanted - lightness)))
        fitted = space.fit(recipe.seed, recipe.gamut)
        ratio = float(contrast_ratio(space.rgba(fitted)[:3], reference))
        steps[place] = Step(fitted, targets[place], ratio, is_seed=True)
    return tuple(steps)


def _check(recipe: Recipe) -> None:
    if not 1 <= recipe.count <= MOST_STEPS:
        raise PrismError(f"A ramp has 1 to {MOST_STEPS} steps, not {recipe.count}.")
    if recipe.targets and len(recipe.targets) != recipe.count:
        raise PrismError(f"{recipe.count} steps need {recipe.count} targets.")
    if any(not 1 <= target <= 21 for target in recipe.targets):
        raise PrismError("A target is a contrast ratio from 1 to 21.")
    if recipe.gamut not in _XYZ_TO:
        raise PrismError(f"“{recipe.gamut[:40]}” is no gamut.", mend="Use srgb or display-p3.")


def _oklch(color: space.Color) -> tuple[float, float, float]:
    lightness, chroma, hue = space.engine(color).convert("oklch").coords()
    return float(lightness), float(chroma), 0.0 if math.isnan(hue) else float(hue)


def _luminances(recipe: Recipe, targets: Sequence[float]) -> Array:
    """The relative luminance each target asks for; darker than a light reference, and lighter
    than a dark one."""
    own = float(relative_luminance(space.rgba(recipe.reference)[:3]))
    ratios = np.array(targets)
    darker = (own + 0.05) / ratios - 0.05
    lighter = (own + 0.05) * ratios - 0.05
    found = darker if own >= 0.18 else lighter
    if np.any(found < -1e-9) or np.any(found > 1 + 1e-9):
        raise PrismError(
            "No color reaches that contrast with the reference.",
            mend="Choose smaller targets or another reference.",
        )
    return np.clip(found, 0, 1)


def _shape(lightness: Array, curve: float) -> Array:
    return np.power(np.clip(4 * lightness * (1 - lightness), 1e-6, 1), 0.5 * curve)


def _wanted(
    recipe: Recipe, at: Array, lightness: float, chroma: float, hue: float
) -> tuple[Array, Array]:
    """Chroma and hue that the recipe asks for at each lightness, before the gamut has its say."""
    fall = _shape(at, recipe.curve) / _shape(np.array(lightness), recipe.curve)
    towards_light = np.clip((at - lightness) / max(1 - lightness, 1e-6), 0, 1)
    towards_dark = np.clip((lightness - at) / max(lightness, 1e-6), 0, 1)
    turned = hue + recipe.drift[0] * towards_light + recipe.drift[1] * towards_dark
    return chroma * recipe.tint * np.minimum(fall, 1.6), turned


def linear_rgb(lightness: Array, chroma: Array, hue: Array, gamut: str) -> Array:
    """Linear channels in ``gamut`` of OKLCH colors, shapes (n,) to (n, 3)."""
    angle = np.radians(hue)
    oklab = np.stack([lightness, chroma * np.cos(angle), chroma * np.sin(angle)], axis=-1)
    xyz = ((oklab @ _TO_LMS.T) ** 3) @ _LMS_TO_XYZ.T
    return np.asarray(xyz @ _XYZ_TO[gamut].T)


def most_chroma(lightness: Array, hue: Array, gamut: str) -> Array:
    """The largest OKLCH chroma within ``gamut`` at each lightness and hue, by bisection."""
    low, high = np.zeros_like(lightness), np.full_like(lightness, 0.5)
    for _ in range(_ROUNDS):
        middle = (low + high) / 2
        rgb = linear_rgb(lightness, middle, hue, gamut)
        inside = np.all((rgb >= -1e-6) & (rgb <= 1 + 1e-6), axis=-1)
        low, high = np.where(inside, middle, low), np.where(inside, high, middle)
    return low


def _held(recipe: Recipe, at: Array, seed: tuple[float, float, float]) -> tuple[Array, Array]:
    chroma, hue = _wanted(recipe, at, *seed)
    return np.minimum(chroma, most_chroma(at, hue, recipe.gamut)), hue


def _solve(recipe: Recipe, luminances: Array, lightness: float, chroma: float, hue: float) -> Array:
    """The OKLab lightness at which each luminance is met, by bisection."""
    low, high = np.zeros_like(luminances), np.ones_like(luminances)
    for _ in range(_ROUNDS):
        middle = (low + high) / 2
        held, turned = _held(recipe, middle, (lightness, chroma, hue))
        angle = np.radians(turned)
        oklab = np.stack([middle, held * np.cos(angle), held * np.sin(angle)], axis=-1)
        xyz = ((oklab @ _TO_LMS.T) ** 3) @ _LMS_TO_XYZ.T
        rgb = np.clip(xyz @ _XYZ_TO["srgb"].T, 0, 1)
        dark = rgb @ np.array([0.2126, 0.7152, 0.0722]) < luminances
        low, high = np.where(dark, middle, low), np.where(dark, high, middle)
    return (low + high) / 2


def _colors(
    recipe: Recipe, at: Array, lightness: float, chroma: float, hue: float
) -> list[space.Color]:
    held, turned = _held(recipe, at, (lightness, chroma, hue))
    return [
        space.Color("oklch", (float(one), float(c), float(h) % 360))
        for one, c, h in zip(at, held, turned, strict=True)
    ]


def _ratio(color: space.Color, reference: Array) -> float:
    red, green, blue = space.engine(color).convert("srgb").clip("srgb").coords(nans=False)
    return float(contrast_ratio((red, green, blue), reference))


def _rounded(recipe: Recipe, color: space.Color, target: float, reference: Array) -> space.Color:
    """The color as it is written: 8 bits in sRGB, on the target's side of every threshold."""
    if recipe.gamut != "srgb":
        return space.fit(color, recipe.gamut)
    own = float(relative_luminance(reference))
    away = -1.0 if own >= 0.18 else 1.0
    lightness, chroma, hue = (float(c or 0) for c in color.coords)
    for nudge in range(40):
        moved = min(max(lightness + away * 0.0005 * nudge, 0.0), 1.0)
        red, green, blue, _ = space.rgba8(space.Color("oklch", (moved, chroma, hue)))
        made = space.Color("srgb", (red / 255, green / 255, blue / 255))
        ratio = float(contrast_ratio((red / 255, green / 255, blue / 255), reference))
        if all(ratio >= limit for limit in THRESHOLDS if target >= limit):
            return made
    return made
