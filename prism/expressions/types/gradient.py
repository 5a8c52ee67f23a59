"""Gradients: colors and where each stands, from 0 to 1."""

from __future__ import annotations

from collections.abc import Mapping

from prism.color.space import number_text
from prism.expressions.types.shorthand import composite, split, texts_of
from prism.expressions.types.token_type import TokenType
from prism.model.values import Listing, Value


def _css_parts(parts: Mapping[str, str]) -> str:
    position = parts.get("position", "")
    if not position:
        return parts["color"]
    return f"{parts.get('color', '')} calc({position} * 100%)"


def _read_line(text: str) -> Value | None:
    """``color place, color place``, as CSS writes the stops of a gradient; a place is a percentage, a
    number from 0 to 1, or a reference."""
    stops = [split(stop, " ") for stop in split(text, ",")]
    if any(len(words) != 2 for words in stops):
        return None
    made = [composite({"color": color, "position": _share(place)}) for color, place in stops]
    return Listing(tuple(made))


def _share(place: str) -> str:
    try:
        return number_text(float(place.removesuffix("%")) / 100) if place.endswith("%") else place
    except ValueError:
        return place


def _percentage(place: str) -> str:
    try:
        return f"{number_text(float(place) * 100)}%"
    except ValueError:
        return place


def _line(value: Value) -> str | None:
    if not isinstance(value, Listing):
        return None
    stops = [texts_of(stop) for stop in value.items]
    if any(stop is None or set(stop) != {"color", "position"} for stop in stops):
        return None
    return ", ".join(f"{stop['color']} {_percentage(stop['position'])}" for stop in stops if stop)


TYPE = TokenType(
    "gradient",
    example="#236b53 0%, #f2b84b 100%",
    hint="A token’s name, or `color place, color place`, each a value or a path in braces.",
    parts={"color": "color", "position": "number"},
    items="gradient",
    css_parts=_css_parts,
    read_line=_read_line,
    line=_line,
    listed="measures",
)
