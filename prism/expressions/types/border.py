"""Borders: a width, a line style and a color."""

from __future__ import annotations

from prism.expressions.types.shorthand import composite, split, texts_of
from prism.expressions.types.token_type import TokenType, spaced
from prism.model.values import Value

_css_parts = spaced("width", "style", "color")


def _read_line(text: str) -> Value | None:
    """``width style color`` (CSS Backgrounds 3, section 3.4)."""
    words = split(text, " ")
    if len(words) != 3:
        return None
    width, style, color = words
    return composite({"color": color, "width": width, "style": style})


def _line(value: Value) -> str | None:
    parts = texts_of(value)
    return _css_parts(parts) if parts else None


TYPE = TokenType(
    "border",
    example="1px solid #236b53",
    hint="A token’s name, or `width style color`, each a value or a path in braces.",
    parts={"color": "color", "width": "dimension", "style": "strokeStyle"},
    css_parts=_css_parts,
    read_line=_read_line,
    line=_line,
    listed="measures",
)
