"""Font weights: a number from 1 to 1000, or a keyword."""

from __future__ import annotations

from prism.errors import ExpressionError
from prism.expressions import evaluation, syntax
from prism.expressions.parsed import Parsed, Plain
from prism.expressions.types.reading import nothing, number_text
from prism.expressions.types.token_type import TokenType, css_literal

# Design Tokens Format Module, font weight keywords (from memory of the module).
WEIGHTS = {
    "thin": 100, "hairline": 100, "extra-light": 200, "ultra-light": 200, "light": 300,
    "normal": 400, "regular": 400, "book": 400, "medium": 500, "semi-bold": 600,
    "demi-bold": 600, "bold": 700, "extra-bold": 800, "ultra-bold": 800, "black": 900,
    "heavy": 900, "extra-black": 950, "ultra-black": 950,
}  # fmt: skip


def _parse(text: str) -> Parsed:
    source = text.strip()
    if source.lower() in WEIGHTS:
        return Parsed(literal=source.lower())
    weight = evaluation.evaluate_numeric(syntax.parse_math(source), "number", nothing)
    if not (isinstance(weight, float) and 1 <= weight <= 1000):
        raise ExpressionError("A font weight lies between 1 and 1000.")
    return Parsed(literal=weight)


def _css(literal: Plain) -> str:
    return str(WEIGHTS[literal]) if isinstance(literal, str) else css_literal(literal)


TYPE = TokenType(
    "fontWeight",
    example="600",
    parse=_parse,
    inner_references=False,
    css=_css,
    json_text=number_text,
    listed="measures",
)
