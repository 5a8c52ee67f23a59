"""Color vision deficiencies, simulated in linear light.

Source: Machado, Oliveira & Fernandes 2009, "A Physiologically-based Model for Simulation of
Color Vision Deficiency", from their table of matrices for severities 0, 0.1 … 1, which coloraide
carries.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from coloraide.filters import cvd
from numpy.typing import ArrayLike, NDArray

from prism.color.contrast import WEIGHTS
from prism.color.transfer import encoded, linear

Array = NDArray[np.float64]
Deficiency = Literal["protan", "deutan", "tritan"]
_NAMES: tuple[Deficiency, ...] = ("protan", "deutan", "tritan")
_TABLES = {
    "protan": cvd.MACHADO_PROTAN,
    "deutan": cvd.MACHADO_DEUTAN,
    "tritan": cvd.MACHADO_TRITAN,
}


def matrix(deficiency: Deficiency, severity: float) -> Array:
    """The 3 x 3 matrix over linear sRGB for a severity 0-1 in tenths."""
    step = round(severity * 10)
    if not 0 <= step <= 10 or abs(step / 10 - severity) > 1e-9:
        raise ValueError("A severity is 0, 0.1 … 1.")
    return np.asarray(_TABLES[deficiency][step], dtype=np.float64)


def simulate(rgb: ArrayLike, deficiency: Deficiency, severity: float = 1.0) -> Array:
    """sRGB channels 0-1 as seen with a deficiency, clipped to sRGB; shape is kept."""
    seen = np.clip(linear(rgb) @ matrix(deficiency, severity).T, 0, 1)
    return encoded(seen)


@dataclass(frozen=True, slots=True)
class Vision:
    """A way of seeing: its id, a title, and how a sentence about two colors ends."""

    id: str
    title: str
    words: str


#: How colors are seen, in the order that is shown.
VISIONS = (
    Vision("normal", "normal", "to everybody"),
    Vision("protan", "protan", "to protan eyes"),
    Vision("deutan", "deutan", "to deutan eyes"),
    Vision("tritan", "tritan", "to tritan eyes"),
    Vision("gray", "no color", "without color"),
)


def seen(rgb: ArrayLike, vision: Vision, severity: float = 1.0) -> Array:
    """sRGB channels 0-1 as a vision shows them at a severity 0-1 in tenths; shape is kept. Without color a color is as
    bright as it was: its relative luminance (WCAG 2.2) in each channel."""
    if vision.id == "normal":
        return np.asarray(rgb, dtype=np.float64)
    if vision.id == "gray":
        light = linear(rgb)
        gray = (light @ np.array(WEIGHTS))[..., None]
        return encoded(np.clip((1 - severity) * light + severity * gray, 0, 1))
    deficiency: Deficiency | None = next((name for name in _NAMES if name == vision.id), None)
    if deficiency is None:
        raise ValueError(f"There is no vision {vision.id}.")
    return simulate(rgb, deficiency, severity)
