"""Durations: times with a unit, and what can be computed with them."""

from __future__ import annotations

from prism.expressions.types.reading import numeric, quantity_json, quantity_text
from prism.expressions.types.token_type import TokenType

UNITS = ("ms", "s")

TYPE = TokenType(
    "duration",
    example="200ms",
    hint="A token’s name, a value with its unit, or an expression such as `calc({space.row} * 2)`.",
    parse=numeric("duration"),
    json_text=quantity_text("duration", UNITS),
    json=quantity_json(UNITS),
    units=UNITS,
    listed="measures",
)
