"""Colors: in any notation of CSS Color 4, mixed and relative colors of CSS Color 5."""

from __future__ import annotations

from typing import Any

from prism.color import space
from prism.errors import FormatError
from prism.expressions import syntax
from prism.expressions.parsed import Parsed, Plain
from prism.expressions.tree import ColorLiteral
from prism.expressions.types.reading import computed, is_number
from prism.expressions.types.token_type import TokenType, plain_number

_PERCENT = {"hsl": (1, 2), "hwb": (1, 2)}
_FUNCTIONS = ("hsl", "hwb", "lab", "lch", "oklab", "oklch")
_EXACT = 0.002


def _parse(text: str) -> Parsed:
    source = text.strip()
    if space.is_hex(source):
        return Parsed(literal=space.parse(source))
    color = syntax.parse_color(source)
    if isinstance(color, ColorLiteral):
        return Parsed(literal=color.color)
    return computed(color, "color")


def _text(raw: Any) -> str | None:
    """The CSS text of the module's color object."""
    if not isinstance(raw, dict):
        return None
    name, components = raw.get("colorSpace"), raw.get("components")
    alpha, hex_value = raw.get("alpha", 1), raw.get("hex")
    if not isinstance(name, str) or name not in space.SPACES:
        raise FormatError(
            f"“{str(name)[:40]}” is not a color space of the standard.",
            fix="Known: " + ", ".join(space.SPACES) + ".",
        )
    if not (isinstance(components, list) and len(components) == 3):
        raise FormatError("A color has three components.")
    if not all(c == "none" or is_number(c) for c in components):
        raise FormatError("A color component is a number or “none”.")
    if not (is_number(alpha) and 0 <= alpha <= 1):
        raise FormatError("Alpha is a number from 0 to 1.")
    if hex_value is not None and not (isinstance(hex_value, str) and space.is_hex(hex_value)):
        raise FormatError(f"“{str(hex_value)[:20]}” is not a hex color.")
    if name == "srgb" and "none" not in components and (text := _bytes_text(components, alpha)):
        return text
    percent = _PERCENT.get(name, ())
    channels = [
        "none" if c == "none" else repr(c) + ("%" if i in percent else "")
        for i, c in enumerate(components)
    ]
    body = " ".join(channels) + ("" if alpha == 1 else f" / {alpha!r}")
    return f"{name}({body})" if name in _FUNCTIONS else f"color({name} {body})"


def _bytes_text(components: list[float], alpha: float) -> str:
    """Hex or rgb() where every component is a whole number of 255ths; empty where not."""
    bytes_ = [round(c * 255) for c in components]
    exact = all(abs(c * 255 - n) < _EXACT for c, n in zip(components, bytes_, strict=True))
    if not exact or not all(0 <= n <= 255 for n in bytes_):
        return ""
    if alpha == 1:
        return "#" + "".join(f"{n:02x}" for n in bytes_)
    return f"rgb({bytes_[0]} {bytes_[1]} {bytes_[2]} / {alpha!r})"


def color_object(color: space.Color) -> dict[str, Any]:
    """A color as the module's color object, with its sRGB ``hex``.

    A color in a space that the module does not know becomes one of the nearest it knows.
    """
    if color.space not in space.SPACES:
        color = space.from_engine(space.engine(color).convert("display-p3"))
    scale = [100 if i in _PERCENT.get(color.space, ()) else 1 for i in range(3)]
    members: dict[str, Any] = {
        "colorSpace": color.space,
        "components": [
            "none" if c is None else plain_number(round(c * factor, 7))
            for c, factor in zip(color.coords, scale, strict=True)
        ],
    }
    if color.alpha < 1:
        members["alpha"] = plain_number(round(color.alpha, 7))
    red, green, blue, _ = space.rgba8(color)
    members["hex"] = f"#{red:02x}{green:02x}{blue:02x}"
    return members


def _json(literal: Plain) -> Any:
    return color_object(literal) if isinstance(literal, space.Color) else None


TYPE = TokenType(
    "color",
    example="#236b53",
    hint="A token’s name, such as `ink.11`, a value in any notation, or an expression; a color "
    "finds the nearest tokens.",
    parse=_parse,
    json_text=_text,
    json=_json,
)
