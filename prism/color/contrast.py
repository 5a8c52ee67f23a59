"""Contrast by WCAG 2.2, compositing as browsers paint, and lightness gaps.

Scalars and arrays alike: every function takes sRGB channels in the last axis.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import ArrayLike, NDArray

from prism.color import space
from prism.color.transfer import linear

Array = NDArray[np.float64]

# WCAG 2.2, definition of relative luminance.
WEIGHTS = np.array([0.2126, 0.7152, 0.0722])
#: What WCAG 2.2 adds to each luminance of a contrast ratio, for light that the screen reflects.
FLARE = 0.05


def relative_luminance(rgb: ArrayLike) -> Array:
    """Relative luminance 0-1 of sRGB channels 0-1, shape (..., 3) to (...).

    Source: WCAG 2.2, "relative luminance", with the corrected threshold 0.04045.
    """
    return np.asarray(linear(rgb) @ WEIGHTS)


def contrast_ratio(first: ArrayLike, second: ArrayLike) -> Array:
    """Contrast ratio 1-21 of two opaque colors, sRGB 0-1, shapes (..., 3).

    Source: WCAG 2.2, "contrast ratio".
    """
    return ratio_of_luminances(relative_luminance(first), relative_luminance(second))


def ratio_of_luminances(first: ArrayLike, second: ArrayLike) -> Array:
    """Contrast ratio of two relative luminances, in any order. Source: as ``contrast_ratio``."""
    lighter, darker = np.maximum(first, second), np.minimum(first, second)
    return np.asarray((lighter + FLARE) / (darker + FLARE))


def ratio_of(first: space.Color, second: space.Color) -> float:
    """Contrast ratio of two opaque colors as screens show them: in sRGB, rounded to 8 bits."""
    first_channels, two = (
        [channel / 255 for channel in space.rgba8(c)[:3]] for c in (first, second)
    )
    return float(contrast_ratio(first_channels, two))


def ink_on(color: space.Color) -> str:
    """Which of ``dark`` and ``light`` words read better on a color."""
    return "dark" if ratio_of(color, space.BLACK) > ratio_of(color, space.WHITE) else "light"


def lightness(rgb: ArrayLike) -> Array:
    """CIE L* 0-100 (D65) of sRGB channels 0-1. Source: CIE 15:2004, section 8.2.1."""
    y = relative_luminance(rgb)
    return np.where(y > 216 / 24389, 116 * np.cbrt(y) - 16, y * 24389 / 27)


def source_over(top: ArrayLike, bottom: ArrayLike) -> Array:
    """Composite translucent ``top`` over ``bottom``, both (..., 4), gamma-encoded sRGB 0-1.

    Source: Compositing and Blending Level 1, section 5.1 (simple alpha compositing).
    """
    upper = np.asarray(top, dtype=np.float64)
    lower = np.asarray(bottom, dtype=np.float64)
    alpha_up, alpha_low = upper[..., 3:], lower[..., 3:]
    alpha = alpha_up + alpha_low * (1 - alpha_up)
    safe = np.where(alpha == 0, 1, alpha)
    channels = (upper[..., :3] * alpha_up + lower[..., :3] * alpha_low * (1 - alpha_up)) / safe
    return np.concatenate([channels, alpha], axis=-1)


def flatten(layers: Sequence[ArrayLike]) -> Array:
    """Composite a stack, top first, into one color per row: (..., 4).

    Over an opaque ground each layer is blended in whole numbers of 8 bits, as ``painted_over`` says; over a translucent
    one channels are rounded to 8 bits after each layer.
    """
    stack = _rounded(np.asarray(layers[-1], dtype=np.float64))
    for layer in reversed(layers[:-1]):
        top = np.asarray(layer, dtype=np.float64)
        opaque = stack[..., 3:] >= 1
        if opaque.all():
            stack = painted_over(top, stack)
        else:
            stack = np.where(opaque, painted_over(top, stack), _rounded(source_over(top, stack)))
    return stack


def painted_over(top: ArrayLike, bottom: ArrayLike) -> Array:
    """Composite translucent ``top`` over opaque ``bottom``, both (..., 4), as Chromium paints them without a graphics
    card: alpha and the color times alpha as whole numbers of 8 bits, and what shows through cut, not rounded. With a
    graphics card each layer may be one step of 255 lighter.

    Source: pixels of Chromium 156, 900 stacks of up to three layers, all equal (tests.reference.test_painted_stacks).
    """
    upper, lower = (np.asarray(layer, dtype=np.float64) for layer in (top, bottom))
    alpha = np.floor(upper[..., 3:] * 255 + 0.5)
    own = np.floor(np.floor(upper[..., :3] * 255 + 0.5) * alpha / 255 + 0.5)
    through = np.floor(np.floor(lower[..., :3] * 255 + 0.5) * (256 - alpha) / 256)
    channels = np.minimum(own + through, 255) / 255
    return np.concatenate([channels, np.ones_like(channels[..., :1])], axis=-1)


def _rounded(colors: Array) -> Array:
    """Colors with channels of 8 bits; alpha stays as it is."""
    channels = np.floor(colors[..., :3] * 255 + 0.5) / 255
    return np.concatenate([channels, colors[..., 3:]], axis=-1)


def truncate_ratio(ratio: float) -> str:
    """A ratio for display: two decimals, cut and never rounded up."""
    return f"{math.floor(ratio * 100 + 1e-9) / 100:.2f}"
