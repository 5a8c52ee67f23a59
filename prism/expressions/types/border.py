"""Borders: a width, a line style and a color."""

from __future__ import annotations

from prism.expressions.types.token_type import TokenType, spaced

TYPE = TokenType(
    "border",
    example='{"parts":[["color","#236b53"],["width","1px"],["style","solid"]]}',
    hint="A token’s name, or the parts as shown above, each a value or a path in braces.",
    parts={"color": "color", "width": "dimension", "style": "strokeStyle"},
    css_parts=spaced("width", "style", "color"),
)
