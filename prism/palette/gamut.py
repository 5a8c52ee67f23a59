"""The edge of a gamut in OKLCH: how much chroma a display holds at a lightness and hue."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

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


#: The gamuts a ramp may be made in.
GAMUTS = tuple(_XYZ_TO)


def xyz(lightness: Array, chroma: Array, hue: Array) -> Array:
    """CIE XYZ (D65) of OKLCH colors, shapes (n,) to (n, 3); hue in degrees."""
    angle = np.radians(hue)
    oklab = np.stack([lightness, chroma * np.cos(angle), chroma * np.sin(angle)], axis=-1)
    return np.asarray(((oklab @ _TO_LMS.T) ** 3) @ _LMS_TO_XYZ.T)


def linear_rgb(lightness: Array, chroma: Array, hue: Array, gamut: str) -> Array:
    """Linear channels in ``gamut`` of OKLCH colors, shapes (n,) to (n, 3)."""
    return np.asarray(xyz(lightness, chroma, hue) @ _XYZ_TO[gamut].T)


def luminance(lightness: Array, chroma: Array, hue: Array) -> Array:
    """Relative luminance as WCAG 2.2 takes it, of the color clipped to sRGB: (n,) to (n,)."""
    rgb = np.clip(linear_rgb(lightness, chroma, hue, "srgb"), 0, 1)
    return np.asarray(rgb @ np.array([0.2126, 0.7152, 0.0722]))


def _inside(lightness: Array, chroma: Array, hue: Array, gamut: str) -> NDArray[np.bool_]:
    """Whether OKLCH colors lie within ``gamut``, shapes (n,)."""
    rgb = linear_rgb(lightness, chroma, hue, gamut)
    return np.asarray(np.all((rgb >= -1e-6) & (rgb <= 1 + 1e-6), axis=-1))


def most_chroma(lightness: Array, hue: Array, gamut: str) -> Array:
    """The largest OKLCH chroma within ``gamut`` at each lightness and hue, by bisection."""
    low, high = np.zeros_like(lightness), np.full_like(lightness, 0.5)
    for _ in range(_ROUNDS):
        middle = (low + high) / 2
        inside = _inside(lightness, middle, hue, gamut)
        low, high = np.where(inside, middle, low), np.where(inside, high, middle)
    return low


def held_chroma(lightness: float, chroma: float, hue: float, gamut: str) -> float:
    """The chroma of one OKLCH color, or the largest within ``gamut`` where that is less."""
    place = np.array([lightness]), np.array([chroma]), np.array([hue])
    if _inside(*place, gamut)[0]:
        return chroma
    return min(chroma, float(most_chroma(place[0], place[2], gamut)[0]))


def edge(hue: float, gamut: str, points: int = 97) -> tuple[Array, Array]:
    """Lightness 0-1 and the largest chroma there at one hue, each of shape (points,)."""
    lightness = np.linspace(0, 1, points)
    return lightness, most_chroma(lightness, np.full(points, hue), gamut)
