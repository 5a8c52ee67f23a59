"""The transfer curve of sRGB, both ways. Source: CSS Color 4, section 17."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


def linear(rgb: ArrayLike) -> Array:
    """Linear light of sRGB channels of any shape; negative channels are mirrored."""
    channels = np.asarray(rgb, dtype=np.float64)
    size = np.abs(channels)
    curved = np.sign(channels) * ((size + 0.055) / 1.055) ** 2.4
    return np.where(size <= 0.04045, channels / 12.92, curved)


def encoded(light: ArrayLike) -> Array:
    """sRGB channels of linear light of any shape; negative light is mirrored."""
    values = np.asarray(light, dtype=np.float64)
    size = np.abs(values)
    curved = np.sign(values) * (1.055 * size ** (1 / 2.4) - 0.055)
    return np.where(size <= 0.0031308, values * 12.92, curved)
