"""Dimensions: lengths with a unit, and what can be computed with them."""

from __future__ import annotations

from prism.expressions.types.reading import numeric, quantity_json, quantity_text
from prism.expressions.types.token_type import TokenType

UNITS = ("px", "rem")

TYPE = TokenType(
    "dimension",
    example="16px",
    hint="A token’s name, a value with its unit, or an expression such as `calc({space.row} * 2)`.",
    parse=numeric("dimension"),
    items="dimension",  # the dashes of a line style
    json_text=quantity_text("dimension", UNITS),
    json=quantity_json(UNITS),
    units=UNITS,
    listed="measures",
)
