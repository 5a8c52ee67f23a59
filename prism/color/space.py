"""Single colors as plain values; conversions are coloraide's."""

from __future__ import annotations

import math
import re
from dataclasses import dataclass, replace
from functools import lru_cache

from coloraide import Color as _Color
from coloraide import NaN
from coloraide.spaces.prophoto_rgb import ProPhotoRGB
from coloraide.spaces.rec2020_oetf import Rec2020OETF
from coloraide.types import Vector

from prism.errors import ExpressionError

_PROPHOTO_GAMMA = 1.8


class _Rec2020(Rec2020OETF):
    """Rec. 2020 with the camera's curve of ITU-R BT.2020-2, table 4, as browsers paint it."""

    NAME = "rec2020"
    SERIALIZE = ("rec2020",)


class _ProPhoto(ProPhotoRGB):
    """ProPhoto RGB without the straight piece near black, as browsers paint it (Chromium 156)."""

    def to_base(self, coords: Vector) -> Vector:
        """Linear channels."""
        return [math.copysign(abs(c) ** _PROPHOTO_GAMMA, c) for c in coords]

    def from_base(self, coords: Vector) -> Vector:
        """Channels with the curve of the space."""
        return [math.copysign(abs(c) ** (1 / _PROPHOTO_GAMMA), c) for c in coords]


class Engine(_Color):
    """coloraide's color with the spaces as browsers have them."""


Engine.register([_Rec2020(), _ProPhoto()], overwrite=True)

# CSS Color 4, section 6.1: two names that coloraide 8.13 gives other values.
_NAMED_CORRECTIONS = {"mediumpurple": "#9370db", "palevioletred": "#db7093"}

# A channel may miss the gamut by this much and still be the same 8-bit color.
GAMUT_TOLERANCE = 0.0005

# Farther out than this a channel makes no difference to any screen.
_FARTHEST = 10_000.0

_HEX = re.compile(r"#(?:[0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})\Z", re.IGNORECASE)
_MAX_TEXT = 400

#: Design Tokens color space names and the names coloraide knows them by.
SPACES = {
    "srgb": "srgb",
    "srgb-linear": "srgb-linear",
    "hsl": "hsl",
    "hwb": "hwb",
    "lab": "lab",
    "lch": "lch",
    "oklab": "oklab",
    "oklch": "oklch",
    "display-p3": "display-p3",
    "a98-rgb": "a98-rgb",
    "prophoto-rgb": "prophoto-rgb",
    "rec2020": "rec2020",
    "xyz-d65": "xyz-d65",
    "xyz-d50": "xyz-d50",
}


_CSS_SPACES = frozenset((*SPACES.values(), "display-p3-linear"))


@dataclass(frozen=True, slots=True)
class Color:
    """A color in its own space.

    ``space`` is a CSS color space name, ``coords`` three channel values in coloraide's scale
    (sRGB 0-1, OKLCH lightness 0-1 and hue in degrees, HSL saturation and lightness 0-1);
    ``None`` is CSS ``none``. ``alpha`` runs from 0 to 1; where it is ``none`` itself it is 0, as
    it is painted, and ``missing_alpha`` is true, which counts where colors are mixed.
    """

    space: str
    coords: tuple[float | None, float | None, float | None]
    alpha: float = 1.0
    missing_alpha: bool = False


#: The name of a gamut without edges.
UNBOUNDED = ""
BLACK = Color("srgb", (0.0, 0.0, 0.0))
WHITE = Color("srgb", (1.0, 1.0, 1.0))


def engine(color: Color) -> Engine:
    """``color`` as a coloraide object; ``None`` becomes NaN."""
    alpha = NaN if color.missing_alpha else color.alpha
    return Engine(color.space, [NaN if c is None else c for c in color.coords], alpha)


def from_engine(value: _Color) -> Color:
    """A coloraide object as a plain value; NaN becomes ``None``."""
    c1, c2, c3 = (None if math.isnan(c) else float(c) for c in value.coords())
    alpha = value.alpha()
    missing = math.isnan(alpha)
    return Color(value.space(), (c1, c2, c3), 0.0 if missing else float(alpha), missing)


@lru_cache(maxsize=262144)
def parse(text: str) -> Color:
    """Read any CSS Color 4 color. Raises ``ExpressionError`` for anything else."""
    source = text.strip()
    if is_hex(source):
        return _hex(source[1:])
    lowered = source.lower()
    if lowered in _NAMED_CORRECTIONS:
        source = _NAMED_CORRECTIONS[lowered]
    try:
        match = None if len(source) > _MAX_TEXT else Engine.match(source, fullmatch=True)
    except (ValueError, OverflowError, RecursionError):
        match = None
    if match is None or match.color.space() not in _CSS_SPACES:
        shown = source if len(source) <= 60 else source[:57] + "…"
        raise ExpressionError(
            f"“{shown}” is not a color.",
            fix="Write a hex value such as #236b53, a CSS color function or a {reference}.",
        )
    color = from_engine(match.color)
    if not all(c is None or math.isfinite(c) for c in color.coords):
        raise ExpressionError(f"“{source[:60]}” has a channel without a finite value.")
    return color


def _hex(digits: str) -> Color:
    """A hex color of CSS Color 4, section 5.2: 3, 4, 6 or 8 digits."""
    if len(digits) < 6:
        digits = "".join(digit * 2 for digit in digits)
    red, green, blue, alpha = (byte / 255 for byte in bytes.fromhex(f"{digits}ff"[:8]))
    return Color("srgb", (red, green, blue), alpha)


def parse_function(text: str) -> Color:
    """Read one CSS color function, with the limits CSS sets when it reads it.

    ``rgb()``, ``hsl()`` and ``hwb()`` end in sRGB; lightness, chroma and alpha keep to their
    ranges. Source: CSS Color 4, sections 5, 7, 8, 9 and 4.1 (clamping).
    """
    return within_range(parse(text), text.strip().lower(), legacy="," in text)


#: Where the hue stands among the channels.
_HUES = {"hsl": 0, "hwb": 0, "lch": 2, "oklch": 2}
_LIGHTNESS_TOP = {"lab": 100.0, "lch": 100.0, "oklab": 1.0, "oklch": 1.0}


def within_range(color: Color, text: str = "", *, legacy: bool = False) -> Color:
    """``color`` with the limits CSS sets on the channels of its space.

    ``text`` begins with the name of the function it was written with, and is empty for a relative
    color, whose channels have fewer limits; ``legacy`` tells that it was written with commas,
    which sets more. Hues come to lie between 0 and 360.
    """
    hue = _HUES.get(color.space, -1)
    first, second, third = (
        None if c is None else c % 360 if i == hue else min(max(c, -_FARTHEST), _FARTHEST)
        for i, c in enumerate(color.coords)
    )
    if text.startswith(("hsl", "hwb")):
        top = 1.0 if legacy else _FARTHEST
        second = None if second is None else min(max(second, 0.0), top)
        third = None if third is None else min(max(third, 0.0), top)
    if color.space in _LIGHTNESS_TOP and first is not None:
        first = min(max(first, 0.0), _LIGHTNESS_TOP[color.space])
    if color.space in ("lch", "oklch") and second is not None:
        second = max(second, 0.0)
    alpha = min(max(color.alpha, 0.0), 1.0)
    color_read = Color(color.space, (first, second, third), alpha, color.missing_alpha)
    if text.startswith("rgb"):
        coords = [None if c is None else min(max(c, 0.0), 1.0) for c in color_read.coords]
        return replace(color_read, coords=(coords[0], coords[1], coords[2]))
    return color_read


def is_hex(text: str) -> bool:
    """Whether ``text`` is a CSS hex color of 3, 4, 6 or 8 digits."""
    return _HEX.match(text) is not None


@lru_cache(maxsize=262144)
def in_gamut(color: Color, gamut: str) -> bool:
    """Whether ``color`` lies in ``gamut`` (``srgb`` or ``display-p3``)."""
    return bool(engine(color).in_gamut(gamut, tolerance=GAMUT_TOLERANCE))


@lru_cache(maxsize=262144)
def fit(color: Color, gamut: str) -> Color:
    """``color`` brought into ``gamut`` by the CSS Color 4 method (section 13.2), in that space.

    A color that is in the gamut already comes back as it is, in its own space; so does every color
    in ``UNBOUNDED``.
    """
    if gamut == UNBOUNDED or in_gamut(color, gamut):
        return color
    mapped = engine(color).convert(gamut).fit(gamut, method="oklch-chroma").clip(gamut)
    return from_engine(mapped)


@lru_cache(maxsize=262144)
def clip(color: Color, gamut: str) -> Color:
    """``color`` with each channel cut off at the edges of ``gamut``, as Chromium paints it."""
    if in_gamut(color, gamut):
        return color
    return from_engine(engine(color).convert(gamut).clip(gamut))


@lru_cache(maxsize=262144)
def rgba(color: Color) -> tuple[float, float, float, float]:
    """Gamma-encoded sRGB channels and alpha, each 0-1, mapped and clipped to sRGB."""
    value = engine(fit(color, "srgb")).convert("srgb").clip("srgb")
    red, green, blue = (0.0 if math.isnan(c) else float(c) for c in value.coords())
    return red, green, blue, color.alpha


def rgba8(color: Color) -> tuple[int, int, int, float]:
    """sRGB channels as 0-255 integers, rounded half up, and alpha 0-1."""
    red, green, blue, alpha = rgba(color)
    return (
        math.floor(red * 255 + 0.5),
        math.floor(green * 255 + 0.5),
        math.floor(blue * 255 + 0.5),
        alpha,
    )


def hex_text(color: Color) -> str:
    """``#rrggbb``, or ``#rrggbbaa`` where the color is translucent."""
    red, green, blue, alpha = rgba8(color)
    text = f"#{red:02x}{green:02x}{blue:02x}"
    return text if alpha >= 1 else f"{text}{math.floor(alpha * 255 + 0.5):02x}"


def number_text(value: float, digits: int = 6) -> str:
    """A number without exponent and trailing zeros, at most ``digits`` decimals."""
    text = f"{value:.{digits}f}".rstrip("0").rstrip(".") if value % 1 else f"{value:.0f}"
    return "0" if text in ("-0", "") else text


_PERCENT_CHANNELS = {"hsl": (1, 2), "hwb": (1, 2)}


def css_text(color: Color) -> str:
    """The color as CSS Color 4 text in its own space; hex for opaque 8-bit sRGB."""
    if color.space == "srgb" and not color.missing_alpha:
        red, green, blue, alpha = rgba8(color)
        exact = all(
            c is not None and abs(c * 255 - n) < 1e-6
            for c, n in zip(color.coords, (red, green, blue), strict=True)
        )
        if exact and (alpha >= 1 or abs(alpha * 255 - round(alpha * 255)) < 1e-6):
            return hex_text(color)
        if exact:
            return f"rgb({red} {green} {blue} / {number_text(alpha)})"
    percent = _PERCENT_CHANNELS.get(color.space, ())
    channels = [
        "none" if c is None else number_text(c * 100) + "%" if i in percent else number_text(c)
        for i, c in enumerate(color.coords)
    ]
    tail = "" if color.alpha >= 1 else f" / {number_text(color.alpha)}"
    tail = " / none" if color.missing_alpha else tail
    body = " ".join(channels) + tail
    if color.space in ("hsl", "hwb", "lab", "lch", "oklab", "oklch"):
        return f"{color.space}({body})"
    return f"color({color.space} {body})"
