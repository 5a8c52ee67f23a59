"""Colors of statuses that are not taken for a brand’s."""

from __future__ import annotations

from collections.abc import Iterable

from prism.color import space
from prism.color.difference import Array, delta_e_2000, lab
from prism.palette import ramps

#: A status is not taken for a brand from this CIEDE2000 difference on, and its hue is turned by so many degrees at most,
#: so that red stays red. Common practice, no source.
APART = 10.0
_TURNS = (-10, 10, -16, 16, -22, 22)


def away_from(base: str, brands: Iterable[space.Color]) -> str:
    """The color of a status as CSS text, its hue turned as little as keeps it ``APART`` from every brand; as far as it
    can be turned where that is not enough.
    """
    lightness, chroma, hue = ramps.oklch(space.parse(base))
    others = [_lab(color) for color in brands]

    def turned(degrees: int) -> space.Color:
        color = space.Color("oklch", (lightness, chroma, (hue + degrees) % 360))
        return space.fit(color, "srgb")

    def likeness(degrees: int) -> float:
        shown = _lab(turned(degrees))
        return min(float(delta_e_2000(shown, other)) for other in others)

    if likeness(0) >= APART:
        return base
    enough = next((turn for turn in _TURNS if likeness(turn) >= APART), None)
    return space.hex_text(turned(max(_TURNS, key=likeness) if enough is None else enough))


def _lab(color: space.Color) -> Array:
    return lab(space.rgba(space.fit(color, "srgb"))[:3])
