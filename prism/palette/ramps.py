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

import numpy as np
from numpy.typing import NDArray

from prism.color import space
from prism.color.contrast import (
    FLARE,
    contrast_ratio,
    ratio_of,
    ratio_of_luminances,
    relative_luminance,
)
from prism.errors import PrismError
from prism.palette import gamut as gamuts
from prism.palette.course import Course, Method, Recipe, oklch

__all__ = ["Method", "Recipe", "oklch"]

Array = NDArray[np.float64]

#: Contrast on white of the eleven steps of an anchored ramp, lightest first.
TARGETS = (1.06, 1.14, 1.32, 1.62, 2.15, 3.05, 4.6, 6.4, 9.0, 12.6, 16.2)
#: Thresholds of WCAG 2.2 that rounding to 8 bits must not cross.
THRESHOLDS = (3.0, 4.5, 7.0)
MOST_STEPS = 60
#: From this luminance on, steps are darker than the reference: both ways reach 4.58 there.
_MIDDLE = math.sqrt(1.05 * 0.05) - 0.05
#: How far a seed may be from a step whose place it takes.
_NEAR = 0.01
#: Default targets stop this far short of what the reference allows at most.
_MARGIN = 0.97
_NUDGE, _MOST_NUDGES = 0.0005, 240


@dataclass(frozen=True, slots=True)
class Step:
    """One step: its color, the ratio it aims at (0 in an even ramp), its ratio before rounding to
    8 bits, and whether it is the seed itself."""

    color: space.Color
    target: float
    exact: float
    is_seed: bool = False


def default_targets(count: int, most: float = 21.0) -> tuple[float, ...]:
    """``count`` targets: the eleven, or others between them on a logarithmic scale.

    ``most`` is the largest ratio that can be reached; targets beyond it are drawn together.
    """
    if count == 1:
        logs = np.log(TARGETS[len(TARGETS) // 2 : len(TARGETS) // 2 + 1])
    else:
        places = np.linspace(0, len(TARGETS) - 1, count)
        logs = np.interp(places, np.arange(len(TARGETS)), np.log(TARGETS))
    top = math.log(max(most * _MARGIN, 1.0))
    if top < math.log(TARGETS[-1]):
        logs = logs * (top / math.log(TARGETS[-1]))
    elif count == len(TARGETS):
        return TARGETS
    return tuple(float(value) for value in np.exp(logs))


def most_contrast(reference: space.Color) -> float:
    """The largest contrast ratio that any step can have with ``reference``."""
    own = _luminance(reference)
    return float(ratio_of_luminances(own, 0.0 if own >= _MIDDLE else 1.0))


def targets_of(recipe: Recipe) -> tuple[float, ...]:
    """The contrast ratios that a recipe aims at, step by step; zeros for an even ramp."""
    if recipe.method == "even":
        return (0.0,) * recipe.count
    return recipe.targets or default_targets(recipe.count, most_contrast(recipe.reference))


def make(recipe: Recipe) -> tuple[Step, ...]:
    """The steps of a ramp. Raises ``PrismError`` for a recipe that cannot be followed."""
    _check(recipe)
    course = Course(recipe)
    targets = targets_of(recipe)
    if recipe.method == "even":
        wanted = np.linspace(recipe.ends[0], recipe.ends[1], recipe.count)
    else:
        wanted = course.solve(_luminances(recipe, targets))
    place = _place_of_seed(recipe, course, wanted, targets) if recipe.keep_seed else -1
    if place >= 0:
        course = Course(recipe, through_seed=True)
        if recipe.method == "anchored":
            wanted = course.solve(_luminances(recipe, targets))
    exact = _exact(course, wanted, recipe.reference)
    colors = _rounded(recipe, course, wanted, targets, place)
    return tuple(
        Step(color, target, float(ratio), i == place)
        for i, (color, target, ratio) in enumerate(zip(colors, targets, exact, strict=True))
    )


def _place_of_seed(recipe: Recipe, course: Course, wanted: Array, targets: Sequence[float]) -> int:
    """The step whose place the seed takes: the nearest one, where it is within 1 % of its target
    and on its side of every threshold; in an even ramp, where it is as near in lightness. -1 for
    none: then it stands beside the steps, so that these are exact."""
    place = int(np.argmin(np.abs(wanted - course.lightness)))
    target = targets[place]
    if not target:
        return place if abs(float(wanted[place]) - course.lightness) <= _NEAR else -1
    ratio = ratio_of(recipe.seed, recipe.reference)
    same_side = all((ratio >= edge) == (target >= edge) for edge in THRESHOLDS)
    return place if same_side and abs(ratio / target - 1) <= _NEAR else -1


def _check(recipe: Recipe) -> None:
    if not 1 <= recipe.count <= MOST_STEPS:
        raise PrismError(f"A ramp has 1 to {MOST_STEPS} steps, not {recipe.count}.")
    if recipe.gamut not in gamuts.GAMUTS:
        raise PrismError(f"“{recipe.gamut[:40]}” is not a gamut.", fix="Use srgb or display-p3.")
    if recipe.targets and len(recipe.targets) != recipe.count:
        raise PrismError(
            f"{recipe.count} steps need {recipe.count} contrast targets, not {len(recipe.targets)}."
        )
    if any(not 1 <= target <= 21 for target in recipe.targets):
        raise PrismError("A contrast target is a ratio from 1 to 21.")
    if list(recipe.targets) != sorted(set(recipe.targets)):
        raise PrismError(
            "Contrast targets must grow from step to step.", fix="Write the smallest first."
        )
    for color, what in (
        (recipe.seed, "The base color"),
        (recipe.reference, "The color measured against"),
    ):
        if color.alpha < 1:
            raise PrismError(
                f"{what} must be opaque.", fix="Make an overlay of a translucent color."
            )
    if not 0 <= recipe.ends[1] < recipe.ends[0] <= 1:
        raise PrismError(
            "Lightest and darkest must be from 0 to 1, and lightest larger than darkest."
        )
    if not (0 <= recipe.curve <= 4 and 0 <= recipe.tint <= 4):
        raise PrismError("Chroma falloff and chroma × must be between 0 and 4.")
    if any(not -180 <= degrees <= 180 for degrees in recipe.drift):
        raise PrismError("Hue drift must be between -180 and 180 degrees.")
    if recipe.keep_seed and not space.in_gamut(recipe.seed, recipe.gamut):
        nearest = space.fit(recipe.seed, recipe.gamut)
        shown = space.hex_text(nearest) if recipe.gamut == "srgb" else space.css_text(nearest)
        raise PrismError(
            f"The base color {space.css_text(recipe.seed)} lies outside {_GAMUT_NAMES[recipe.gamut]}.",
            fix=f"The nearest color inside is {shown}.",
        )


_GAMUT_NAMES = {"srgb": "sRGB", "display-p3": "Display P3"}


def _luminance(color: space.Color) -> float:
    return float(relative_luminance(space.rgba(color)[:3]))


def _luminances(recipe: Recipe, targets: Sequence[float]) -> Array:
    """The relative luminance each target asks for; darker than a light reference, and lighter
    than a dark one."""
    own = _luminance(recipe.reference)
    ratios = np.array(targets)
    lit = own + FLARE
    luminances = lit / ratios - FLARE if own >= _MIDDLE else lit * ratios - FLARE
    if np.any(luminances < -1e-9) or np.any(luminances > 1 + 1e-9):
        most = math.floor(most_contrast(recipe.reference) * 100) / 100
        raise PrismError(
            "No color reaches that contrast with what it is measured against.",
            fix=f"Choose targets up to {most:.2f}, or measure against another color.",
        )
    return np.clip(luminances, 0, 1)


def _exact(course: Course, at: Array, reference: space.Color) -> Array:
    """Contrast ratios with the reference before rounding, computed by coloraide."""
    steps = []
    for lightness in at:
        value = space.engine(course.color(float(lightness))).convert("srgb").clip("srgb")
        steps.append(contrast_ratio(value.coords(nans=False), space.rgba(reference)[:3]))
    return np.array(steps, dtype=np.float64)


def _rounded(
    recipe: Recipe, course: Course, wanted: Array, targets: Sequence[float], place: int
) -> list[space.Color]:
    """The colors as they are written, the seed at ``place``, strictly in order of lightness."""
    colors: dict[int, space.Color] = {}
    if place >= 0:
        colors[place] = recipe.seed
    darker = bool(wanted[-1] < wanted[0])
    start = max(place, 0)
    for i in [*range(start, len(wanted)), *range(start - 1, -1, -1)]:
        if i not in colors:
            forwards = i >= start
            beside = colors.get(i - 1 if forwards else i + 1)
            colors[i] = _written(
                recipe, course, float(wanted[i]), targets[i], beside, darker == forwards
            )
    return [colors[i] for i in range(len(wanted))]


def _written(
    recipe: Recipe,
    course: Course,
    lightness: float,
    target: float,
    beside: space.Color | None,
    darker: bool,
) -> space.Color:
    """The nearest color that can be written on the target's side of every threshold, and on its
    side of the step ``beside`` it."""
    reference = space.rgba(recipe.reference)[:3]
    limit = None if beside is None else oklch(beside)[0]
    for number in range(_MOST_NUDGES):
        away = (number + 1) // 2 * (1 if number % 2 else -1)
        at = min(max(lightness + _NUDGE * away, 0.0), 1.0)
        made = as_stored(course.color(at), recipe.gamut)
        if limit is not None and (oklch(made)[0] - limit) * (-1 if darker else 1) <= 1e-7:
            continue
        if not target:
            return made
        red, green, blue, _ = space.rgba8(made)
        ratio = float(contrast_ratio((red / 255, green / 255, blue / 255), reference))
        if all((ratio >= threshold) == (target >= threshold) for threshold in THRESHOLDS):
            return made
    raise PrismError("There are too many steps for 8 bits.", fix="Choose fewer, or wider targets.")


def as_stored(color: space.Color, gamut: str) -> space.Color:
    """A color as it is written: 8 bits in sRGB; OKLCH with a few digits in a wider gamut."""
    if gamut == "srgb":
        red, green, blue, _ = space.rgba8(color)
        return space.Color("srgb", (red / 255, green / 255, blue / 255))
    lightness, chroma, hue = (float(coord or 0) for coord in color.coords)
    short = space.Color("oklch", (round(lightness, 4), round(chroma, 4), round(hue, 2)))
    return space.fit(short, gamut)
