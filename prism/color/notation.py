"""One color in the notation that somebody wants to read: CSS Color 4 text."""

from __future__ import annotations

import math

from prism.color import space

#: What a color can be shown as, in the order it is offered.
NOTATIONS = ("hex", "rgb", "hsl", "oklch", "p3")


def write(color: space.Color, notation: str) -> str:
    """``color`` as CSS text in one of ``NOTATIONS``, with the digits people use.

    Hex, rgb and hsl are of the color brought into sRGB; oklch and p3 keep what lies beyond it.
    ``ValueError`` for any other notation.
    """
    if notation == "hex":
        return space.hex_text(color)
    if notation == "rgb":
        red, green, blue, alpha = space.rgba8(color)
        return f"rgb({red} {green} {blue}{_alpha(alpha)})"
    if notation == "hsl":
        inside = space.Color("srgb", space.rgba(color)[:3], color.alpha)
        hue, saturation, lightness = _coords(inside, "hsl")
        return (
            f"hsl({_text(hue, 1)} {_text(saturation * 100, 1)}% {_text(lightness * 100, 1)}%"
            f"{_alpha(color.alpha)})"
        )
    if notation == "oklch":
        lightness, chroma, hue = _coords(color, "oklch")
        return (
            f"oklch({_text(lightness, 4)} {_text(chroma, 4)} {_text(hue, 2)}{_alpha(color.alpha)})"
        )
    if notation == "p3":
        inside = space.fit(color, "display-p3")
        channels = " ".join(_text(coord, 4) for coord in _coords(inside, "display-p3"))
        return f"color(display-p3 {channels}{_alpha(color.alpha)})"
    raise ValueError(notation)


def beyond_srgb(color: space.Color) -> bool:
    """Whether sRGB cannot hold the color, so that hex, rgb and hsl show another."""
    return not space.in_gamut(color, "srgb")


def _coords(color: space.Color, name: str) -> tuple[float, float, float]:
    first, second, third = space.engine(color).convert(name).coords()
    plain = [0.0 if math.isnan(color) else float(color) for color in (first, second, third)]
    return plain[0], plain[1], plain[2]


def _text(value: float, digits: int) -> str:
    return space.number_text(round(value, digits), digits)


def _alpha(alpha: float) -> str:
    return "" if alpha >= 1 else f" / {_text(alpha, 3)}"
