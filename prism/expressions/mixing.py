"""Mixing two colors: what is carried over, what is missing, which way the hue goes.

Sources: CSS Color 4, sections 12 (interpolation) and 4.4 (missing components); CSS Color 5,
section 2 (``color-mix()``). Where browsers differ from them, what Chromium 156 does counts.
"""

from __future__ import annotations

import math
from functools import lru_cache

from prism.color import space

#: Components that stand for each other when a color is converted (CSS Color 4, section 12.2).
_ANALOGOUS = {
    "srgb": ("r", "g", "b"), "srgb-linear": ("r", "g", "b"), "display-p3": ("r", "g", "b"),
    "display-p3-linear": ("r", "g", "b"), "a98-rgb": ("r", "g", "b"),
    "prophoto-rgb": ("r", "g", "b"), "rec2020": ("r", "g", "b"), "xyz-d65": ("r", "g", "b"),
    "xyz-d50": ("r", "g", "b"), "lab": ("L", "a", "B"), "oklab": ("L", "a", "B"),
    "lch": ("L", "C", "H"), "oklch": ("L", "C", "H"), "hsl": ("H", "C", "L"),
    "hwb": ("H", "W", "K"),
}  # fmt: skip
#: A color converted to LCH or OKLCH with less chroma than this, in the units of the space, has no
#: hue in a mix (measured with Chromium 156).
_GREY_CHROMA = 0.02
#: Channels of a gray differ by less than this.
_GREY_SPREAD = 1e-7
_OF_SRGB = ("srgb", "srgb-linear", "hsl", "hwb")
#: The hue that a gray given in one space has in another: what rounding leaves over, and the same
#: for every lightness, so that it can be computed with (measured with Chromium 156).
_HUES_OF_GREYS = {
    "srgb": {"lch": 356.63, "oklch": 23.7, "hsl": 0.0, "hwb": 0.0},
    "lab": {"oklch": 112.75, "hsl": 161.87, "hwb": 161.87},
    "oklab": {"lch": 291.2, "hsl": 185.14, "hwb": 185.14},
    "a98-rgb": {"lch": 88.2, "oklch": 97.0, "hsl": 109.25, "hwb": 109.25},
    "other": {"lch": 291.3, "hsl": 185.25, "hwb": 185.25},
}
_FAMILIES = {
    "srgb": "srgb", "srgb-linear": "srgb", "hsl": "srgb", "hwb": "srgb", "lab": "lab",
    "lch": "lab", "oklab": "oklab", "oklch": "oklab", "a98-rgb": "a98-rgb",
    "display-p3": "other", "display-p3-linear": "other", "prophoto-rgb": "other",
    "rec2020": "other",
}  # fmt: skip

#: Components that together tell the colorfulness of a color (CSS Color 4, section 12.2).
_COLORFULNESS = (frozenset(("a", "B")), frozenset(("C", "H")))

Coords = tuple[float | None, float | None, float | None]


@lru_cache(maxsize=262144)
def convert(color: space.Color, target: str) -> Coords:
    """Channels of ``color`` in ``target``; missing ones count as zero.

    A hue lies between 0 and 360, but between -180 and 180 where OKLab becomes OKLCH, as in
    Chromium 156: that counts where it is computed with.
    """
    if color.space == target:
        return color.coords
    first, second, third = (0.0 if c is None else c for c in color.coords)
    if (color.space, target) == ("oklab", "oklch"):
        return first, math.hypot(second, third), math.degrees(math.atan2(third, second))
    converted = space.engine(color).convert(target).coords(nans=False)
    coords = [float(c) for c in converted]
    if "H" in (names := _ANALOGOUS[target]) and _is_gray(color):
        hues = _HUES_OF_GREYS.get(_FAMILIES.get(color.space, ""), {})
        place = names.index("H")
        coords[place] = 0.0 if _is_black(color) else hues.get(target, coords[place])
    return coords[0], coords[1], coords[2]


def _is_black(color: space.Color) -> bool:
    """Whether a color is black by its own channels."""
    channels = tuple(0.0 if c is None else c for c in color.coords)
    if color.space in ("lab", "lch", "oklab", "oklch"):
        return channels[0] == 0 and _is_gray(color)
    if color.space in ("hsl", "hwb"):
        return channels[2] == (0 if color.space == "hsl" else 1)
    return not any(channels)


def _is_gray(color: space.Color) -> bool:
    """Whether a color is a gray by its own channels."""
    first, second, third = (0.0 if c is None else c for c in color.coords)
    if color.space in ("lab", "oklab"):
        return second == third == 0
    if color.space in ("lch", "oklch"):
        return second == 0
    if color.space == "hsl":
        return second == 0 or third in (0, 1)
    if color.space == "hwb":
        return second + third >= 1
    return max(first, second, third) - min(first, second, third) < _GREY_SPREAD


@lru_cache(maxsize=262144)
def _prepared(color: space.Color, target: str) -> Coords:
    """Channels of ``color`` in the space it is mixed in, with what is missing there."""
    if color.space == target:
        return color.coords
    coords = convert(color, target)
    missing = _missing(color, target)
    if _has_no_hue(color, target, coords):
        missing.add("H")
    first, second, third = (
        None if name in missing else value
        for name, value in zip(_ANALOGOUS[target], coords, strict=True)
    )
    return first, second, third


def _missing(color: space.Color, target: str) -> set[str]:
    """The names of the components in ``target`` that stand for those a color lacks.

    Two that together tell the colorfulness of a color stand for the two that do so there, and all
    three for all three.
    """
    names, wanted = _ANALOGOUS[color.space], _ANALOGOUS[target]
    missing = {name for name, value in zip(names, color.coords, strict=True) if value is None}
    if len(missing) == len(names):
        return set(wanted)
    for here in _COLORFULNESS:
        if missing >= here:
            missing |= {name for there in _COLORFULNESS if there <= {*wanted} for name in there}
    return missing


def _has_no_hue(color: space.Color, target: str, coords: Coords) -> bool:
    if target in ("lch", "oklch"):
        return (coords[1] or 0.0) <= _GREY_CHROMA
    if target not in ("hsl", "hwb"):
        return False
    return _is_black(color) or (color.space in _OF_SRGB and _is_gray(color))


def mix(
    first: space.Color, second: space.Color, share: float, target: str, hue: str
) -> space.Color:
    """The color ``share`` of the way from ``first`` to ``second`` in the space ``target``.

    ``hue`` is a method of CSS: shorter, longer, increasing or decreasing. Channels other than hue
    are premultiplied by alpha. A component that one color lacks is the other's; one that both
    lack is missing in the result.
    """
    starts, ends = list(_prepared(first, target)), list(_prepared(second, target))
    for i in range(3):
        starts[i] = ends[i] if starts[i] is None else starts[i]
        ends[i] = starts[i] if ends[i] is None else ends[i]
    alphas = _alphas(first, second)
    mixed: list[float | None] = []
    alpha = _between(*alphas, share) if alphas else 0.0
    for name, start, end in zip(_ANALOGOUS[target], starts, ends, strict=True):
        if start is None or end is None:
            mixed.append(None)
        elif name == "H":
            mixed.append(_between(*_turned(start, end, hue), share) % 360)
        elif alphas is None:
            mixed.append(_between(start, end, share))
        elif alpha == 0:
            mixed.append(_between(start * alphas[0], end * alphas[1], share))
        else:
            mixed.append(_between(start * alphas[0], end * alphas[1], share) / alpha)
    return space.Color(target, (mixed[0], mixed[1], mixed[2]), alpha, alphas is None)


def _between(start: float, end: float, share: float) -> float:
    return start + (end - start) * share


def _alphas(first: space.Color, second: space.Color) -> tuple[float, float] | None:
    """Both alphas, a missing one that of the other; None where both are missing."""
    if first.missing_alpha and second.missing_alpha:
        return None
    start = second.alpha if first.missing_alpha else first.alpha
    end = first.alpha if second.missing_alpha else second.alpha
    return start, end


def _turned(start: float, end: float, hue: str) -> tuple[float, float]:
    """Two hues so that the straight way between them is the way asked for (CSS Color 4, 12.4)."""
    apart = end - start
    if hue == "shorter" and abs(apart) > 180:
        return (start + 360, end) if apart > 0 else (start, end + 360)
    if hue == "longer" and 0 < apart < 180:
        return start + 360, end
    if hue == "longer" and -180 < apart <= 0:
        return start, end + 360
    if hue == "increasing" and apart < 0:
        return start, end + 360
    if hue == "decreasing" and apart > 0:
        return start + 360, end
    return start, end
