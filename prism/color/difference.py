"""Color differences and the conversions they need, over arrays.

Colors are gamma-encoded sRGB, 0-1, in the last axis.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike, NDArray

from prism.color.transfer import linear

Array = NDArray[np.float64]

# sRGB to CIE XYZ (D65): CSS Color 4, section 17, sample code.
_TO_XYZ = np.array(
    [
        [506752 / 1228815, 87881 / 245763, 12673 / 70218],
        [87098 / 409605, 175762 / 245763, 12673 / 175545],
        [7918 / 409605, 87881 / 737289, 1001167 / 1053270],
    ]
)
# Bradford adaptation D65 to D50: CSS Color 4, section 17.
_TO_D50 = np.array(
    [
        [1.0479297925449969, 0.022946870601609652, -0.05019226628920524],
        [0.02962780877005599, 0.9904344267538799, -0.017073799063418826],
        [-0.009243040646204504, 0.015055191490298152, 0.7518742814281371],
    ]
)
_D50 = np.array([0.3457 / 0.3585, 1.0, (1.0 - 0.3457 - 0.3585) / 0.3585])
# OKLab: Ottosson 2020, with the matrices for D65 of CSS Color 4, section 17.
_TO_LMS = np.array(
    [
        [0.8190224379967030, 0.3619062600528904, -0.1288737815209879],
        [0.0329836539323885, 0.9292868615863434, 0.0361446663506424],
        [0.0481771893596242, 0.2642395317527308, 0.6335478284694309],
    ]
)
_TO_OKLAB = np.array(
    [
        [0.2104542683093140, 0.7936177747023054, -0.0040720430116193],
        [1.9779985324311684, -2.4285922420485799, 0.4505937096174110],
        [0.0259040424655478, 0.7827717124575296, -0.8086757549230774],
    ]
)


def xyz(rgb: ArrayLike) -> Array:
    """CIE XYZ, D65, Y of white is 1."""
    return np.asarray(linear(rgb) @ _TO_XYZ.T)


def oklab_of_xyz(values: ArrayLike) -> Array:
    """OKLab of CIE XYZ (D65). Source: Ottosson 2020."""
    lms = np.asarray(values, dtype=np.float64) @ _TO_LMS.T
    return np.asarray(np.cbrt(lms) @ _TO_OKLAB.T)


def oklab(rgb: ArrayLike) -> Array:
    """OKLab: lightness 0-1, a and b about -0.4 to 0.4."""
    return oklab_of_xyz(xyz(rgb))


def lab(rgb: ArrayLike) -> Array:
    """CIE Lab (D50), as CSS ``lab()``: lightness 0-100. Source: CIE 15:2004."""
    ratio = (xyz(rgb) @ _TO_D50.T) / _D50
    small = ratio <= 216 / 24389
    f = np.where(small, (24389 / 27 * ratio + 16) / 116, np.cbrt(ratio))
    return np.stack(
        [
            116 * f[..., 1] - 16,
            500 * (f[..., 0] - f[..., 1]),
            200 * (f[..., 1] - f[..., 2]),
        ],
        axis=-1,
    )


def delta_e_2000(first: ArrayLike, second: ArrayLike) -> Array:
    """CIEDE2000 between CIE Lab colors, shapes (..., 3) that broadcast, to (...).

    Source: Sharma, Wu & Dalal 2005, "The CIEDE2000 Color-Difference Formula", with
    kL = kC = kH = 1. Long because it is the published formula, term by term.
    """
    first_lab = np.asarray(first, dtype=np.float64)
    two = np.asarray(second, dtype=np.float64)
    l1, a1, b1 = first_lab[..., 0], first_lab[..., 1], first_lab[..., 2]
    l2, a2, b2 = two[..., 0], two[..., 1], two[..., 2]
    mean7 = ((np.hypot(a1, b1) + np.hypot(a2, b2)) / 2) ** 7
    g = 0.5 * (1 - np.sqrt(mean7 / (mean7 + 25.0**7)))
    a1p, a2p = (1 + g) * a1, (1 + g) * a2
    c1p, c2p = np.hypot(a1p, b1), np.hypot(a2p, b2)
    h1p = np.degrees(np.arctan2(b1, a1p)) % 360
    h2p = np.degrees(np.arctan2(b2, a2p)) % 360
    gray = c1p * c2p == 0
    apart = h2p - h1p
    turn = np.where(apart > 180, apart - 360, np.where(apart < -180, apart + 360, apart))
    dhp = np.where(gray, 0.0, turn)
    dl, dc = l2 - l1, c2p - c1p
    dh = 2 * np.sqrt(c1p * c2p) * np.sin(np.radians(dhp) / 2)
    lm, cm = (l1 + l2) / 2, (c1p + c2p) / 2
    total = h1p + h2p
    near = np.abs(h1p - h2p) <= 180
    mean = np.where(near, total / 2, np.where(total < 360, (total + 360) / 2, (total - 360) / 2))
    hm = np.where(gray, total, mean)
    t = (
        1
        - 0.17 * np.cos(np.radians(hm - 30))
        + 0.24 * np.cos(np.radians(2 * hm))
        + 0.32 * np.cos(np.radians(3 * hm + 6))
        - 0.20 * np.cos(np.radians(4 * hm - 63))
    )
    theta = 30 * np.exp(-(((hm - 275) / 25) ** 2))
    rc = 2 * np.sqrt(cm**7 / (cm**7 + 25.0**7))
    sl = 1 + 0.015 * (lm - 50) ** 2 / np.sqrt(20 + (lm - 50) ** 2)
    sc, sh = 1 + 0.045 * cm, 1 + 0.015 * cm * t
    rt = -np.sin(np.radians(2 * theta)) * rc
    parts = (dl / sl) ** 2 + (dc / sc) ** 2 + (dh / sh) ** 2 + rt * (dc / sc) * (dh / sh)
    return np.asarray(np.sqrt(np.maximum(parts, 0)))
