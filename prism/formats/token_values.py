"""Values of the Design Tokens Format Module, to and from the core's values.

What is said here of the module (2025.10) is from memory.
"""

from __future__ import annotations

import re
from typing import Any
from urllib.parse import unquote

from prism.color import space
from prism.errors import ExpressionError, FormatError
from prism.expressions.evaluation import Quantity
from prism.expressions.values import (
    FONT_WEIGHTS,
    ITEMS,
    PARTS,
    check,
    parse,
    part_type,
    reference_of,
)
from prism.model.values import Composite, Expression, Listing, Value

_OBJECT_UNITS = {"dimension": ("px", "rem"), "duration": ("ms", "s")}
_PERCENT = {"hsl": (1, 2), "hwb": (1, 2)}
_LISTS = ("shadow", "gradient", "fontFamily", "cubicBezier")
_POINTER = re.compile(r"#/(.+)\Z", re.DOTALL)


def read(raw: Any, type: str, place: str) -> Value:
    """The value that ``$value`` states. Raises ``FormatError`` at ``place``."""
    try:
        value = _read(raw, type)
        check(value, type)
    except FormatError as error:
        raise error.at(place) from None
    except ExpressionError as error:
        raise FormatError(error.sentence, fix=error.fix, place=error.at(place).place) from None
    return value


def pointer_path(raw: Any) -> str:
    """The token path where ``raw`` is a ``$ref`` to a whole value; empty for anything else."""
    if not (isinstance(raw, dict) and set(raw) == {"$ref"} and isinstance(raw["$ref"], str)):
        return ""
    match = _POINTER.match(raw["$ref"])
    if match is None:
        raise FormatError(
            f"“{raw['$ref'][:80]}” points outside the imported documents.",
            fix="Only pointers that begin with #/ are followed.",
        )
    segments = [unquote(part).replace("~1", "/").replace("~0", "~") for part in match[1].split("/")]
    if segments[-1] == "$value":
        segments.pop()
    elif "$value" in segments:
        raise FormatError(
            f"“{raw['$ref'][:80]}” points into a value.",
            fix="Point to a whole token, up to its $value.",
        )
    return ".".join(segments)


def _read(raw: Any, type: str) -> Value:
    path = pointer_path(raw)
    if path:
        return Expression("{" + path + "}")
    if isinstance(raw, str) and reference_of(raw):
        return Expression(raw.strip())
    if type == "color" and isinstance(raw, dict):
        return Expression(_color_text(raw))
    if type in _OBJECT_UNITS and isinstance(raw, dict):
        return Expression(_quantity_text(raw, type))
    if isinstance(raw, list):
        if type == "dimension" or type not in _LISTS:
            raise FormatError(f"A {type} is not a list.")
        return Listing(tuple(_read(item, ITEMS[type]) for item in raw))
    if isinstance(raw, dict) and type in PARTS:
        return Composite(tuple((name, _part(part, type, name)) for name, part in raw.items()))
    if isinstance(raw, bool):
        text = "true" if raw else "false"
    elif isinstance(raw, int | float):
        if type not in ("number", "fontWeight") and not (type in _OBJECT_UNITS and raw == 0):
            raise FormatError(f"The number {raw} is not a {type}.")
        text = repr(raw)
    elif isinstance(raw, str):
        text = raw
    else:
        raise FormatError(f"The value does not fit the type {type}.")
    return Expression(text)


def _part(raw: Any, type: str, name: str) -> Value:
    if name == "dashArray" and isinstance(raw, list):
        return Listing(tuple(_read(item, "dimension") for item in raw))
    try:
        return _read(raw, part_type(type, name))
    except FormatError as error:
        raise error.at(name) from None


def _color_text(raw: dict[str, Any]) -> str:
    name, components = raw.get("colorSpace"), raw.get("components")
    alpha, hex_value = raw.get("alpha", 1), raw.get("hex")
    if not isinstance(name, str) or name not in space.SPACES:
        raise FormatError(
            f"“{str(name)[:40]}” is not a color space of the standard.",
            fix="Known: " + ", ".join(space.SPACES) + ".",
        )
    if not (isinstance(components, list) and len(components) == 3):
        raise FormatError("A color has three components.")
    if not all(c == "none" or _is_number(c) for c in components):
        raise FormatError("A color component is a number or “none”.")
    if not (_is_number(alpha) and 0 <= alpha <= 1):
        raise FormatError("Alpha is a number from 0 to 1.")
    if hex_value is not None and not (isinstance(hex_value, str) and space.is_hex(hex_value)):
        raise FormatError(f"“{str(hex_value)[:20]}” is not a hex color.")
    if name == "srgb" and "none" not in components:
        bytes_ = [round(c * 255) for c in components]
        exact = all(abs(c * 255 - n) < 0.002 for c, n in zip(components, bytes_, strict=True))
        if exact and all(0 <= n <= 255 for n in bytes_):
            if alpha == 1:
                return "#" + "".join(f"{n:02x}" for n in bytes_)
            return f"rgb({bytes_[0]} {bytes_[1]} {bytes_[2]} / {alpha!r})"
    percent = _PERCENT.get(name, ())
    channels = [
        "none" if c == "none" else repr(c) + ("%" if i in percent else "")
        for i, c in enumerate(components)
    ]
    body = " ".join(channels) + ("" if alpha == 1 else f" / {alpha!r}")
    function = name in ("hsl", "hwb", "lab", "lch", "oklab", "oklch")
    return f"{name}({body})" if function else f"color({name} {body})"


def _is_number(value: Any) -> bool:
    """Whether a member is a number of a size that values have."""
    return isinstance(value, int | float) and not isinstance(value, bool) and abs(value) < 1e12


def _quantity_text(raw: dict[str, Any], type: str) -> str:
    if not (set(raw) >= {"value", "unit"} and _is_number(raw["value"])):
        raise FormatError(f"A {type} has a value and a unit.")
    if raw["unit"] not in _OBJECT_UNITS[type]:
        raise FormatError(
            f"“{str(raw['unit'])[:20]}” is not a unit of a {type}.",
            fix=f"The standard knows {' and '.join(_OBJECT_UNITS[type])}.",
        )
    return f"{raw['value']!r}{raw['unit']}"


def write(value: Value, type: str) -> Any:
    """The plainest ``$value`` of the module for a value."""
    if isinstance(value, Listing):
        return [write(item, ITEMS[type]) for item in value.items]
    if isinstance(value, Composite):
        return {name: _write_part(part, type, name) for name, part in value.parts}
    parsed = parse(value.text, type)
    literal = parsed.literal
    if parsed.reference:
        return "{" + parsed.reference + "}"
    if isinstance(literal, space.Color):
        return color_object(literal)
    if isinstance(literal, Quantity):
        if literal.unit in _OBJECT_UNITS[type]:
            return {"value": _plain_number(literal.number), "unit": literal.unit}
        return value.text.strip()
    if isinstance(literal, float):
        return _plain_number(literal)
    if type == "fontWeight" and literal in FONT_WEIGHTS:
        return literal
    return literal


def _write_part(part: Value, type: str, name: str) -> Any:
    if name == "dashArray" and isinstance(part, Listing):
        return [write(item, "dimension") for item in part.items]
    return write(part, part_type(type, name))


def color_object(color: space.Color) -> dict[str, Any]:
    """A color as the module's color object, with its sRGB ``hex``."""
    scale = [100 if i in _PERCENT.get(color.space, ()) else 1 for i in range(3)]
    found: dict[str, Any] = {
        "colorSpace": color.space,
        "components": [
            "none" if c is None else _plain_number(round(c * factor, 7))
            for c, factor in zip(color.coords, scale, strict=True)
        ],
    }
    if color.alpha < 1:
        found["alpha"] = _plain_number(round(color.alpha, 7))
    red, green, blue, _ = space.rgba8(color)
    found["hex"] = f"#{red:02x}{green:02x}{blue:02x}"
    return found


def _plain_number(number: float) -> int | float:
    return int(number) if number == int(number) else number
