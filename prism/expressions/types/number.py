"""Numbers without a unit, and what can be computed with them."""

from __future__ import annotations

from prism.expressions.types.reading import number_text, numeric
from prism.expressions.types.token_type import TokenType

TYPE = TokenType(
    "number",
    example="1.5",
    hint="A token’s name, a value with its unit, or an expression such as `calc({space.row} * 2)`.",
    parse=numeric("number"),
    json_text=number_text,
    listed="measures",
)
