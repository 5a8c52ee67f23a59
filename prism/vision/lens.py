"""Ways of seeing the stage: color-vision deficiencies, no color, blur, and a bright surround."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from prism.color import vision
from prism.color.contrast import WEIGHTS
from prism.color.transfer import encoded, linear

#: The share of the light of a bright surround that lies over the screen, and the deviation of the blur in pixels,
#: at full severity. Common practice, no source.
GLARE, BLUR = 0.25, 4.0
#: What a lens is called, and its id.
LENSES = (
    ("protan", "Protan: little red"),
    ("deutan", "Deutan: little green"),
    ("tritan", "Tritan: little blue"),
    ("gray", "No color"),
    ("blur", "Blur"),
    ("glare", "Bright surround"),
)
_DEFICIENCIES: tuple[vision.Deficiency, ...] = ("protan", "deutan", "tritan")


@dataclass(frozen=True, slots=True)
class Lens:
    """A lens at a severity from 0 to 1: its matrix over linear light, rows red, green, blue, alpha of five numbers
    each, as ``feColorMatrix`` takes it, and the deviation of its blur in pixels."""

    id: str
    severity: float
    matrix: tuple[float, ...]
    blur: float = 0.0

    @property
    def values(self) -> str:
        """The matrix as an attribute."""
        return " ".join(f"{number:.6g}" for number in self.matrix)


def lens(name: str, severity: float) -> Lens | None:
    """A lens by its id; None for none."""
    severity = round(min(max(severity, 0.0), 1.0), 1)
    for deficiency in _DEFICIENCIES:
        if deficiency == name:
            return Lens(name, severity, _rows(vision.matrix(deficiency, severity)))
    if name == "gray":
        mixed = (1 - severity) * np.eye(3) + severity * np.tile(WEIGHTS, (3, 1))
        return Lens(name, severity, _rows(mixed))
    if name == "glare":
        share = GLARE * severity
        return Lens(name, severity, _rows((1 - share) * np.eye(3), share))
    if name == "blur":
        return Lens(name, severity, _rows(np.eye(3)), BLUR * severity)
    return None


def _rows(matrix: NDArray[np.float64], added: float = 0.0) -> tuple[float, ...]:
    rows = np.zeros((4, 5))
    rows[:3, :3], rows[:3, 4], rows[3, 3] = matrix, added, 1
    return tuple(float(number) for number in rows.ravel())


def seen(rgb: NDArray[np.float64], through: Lens) -> NDArray[np.float64]:
    """Colors as a lens shows them, sRGB from 0 to 1, (..., 3); blur leaves a plain color as it is."""
    rows = np.array(through.matrix).reshape(4, 5)[:3]
    light = linear(rgb) @ rows[:, :3].T + rows[:, 4]
    return encoded(np.clip(light, 0, 1))
