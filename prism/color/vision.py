"""Color vision deficiencies, simulated in linear light.

Source: Machado, Oliveira & Fernandes 2009, "A Physiologically-based Model for Simulation of
Color Vision Deficiency", from their table of matrices for severities 0, 0.1 … 1, which coloraide
carries.
"""

from __future__ import annotations

from typing import Literal

import numpy as np
from coloraide.filters import cvd
from numpy.typing import ArrayLike, NDArray

from prism.color.transfer import encoded, linear

Array = NDArray[np.float64]
Deficiency = Literal["protan", "deutan", "tritan"]
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
