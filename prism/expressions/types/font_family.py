"""Font families: one name, or a list in order of preference."""

from __future__ import annotations

from prism.errors import ExpressionError
from prism.expressions.parsed import Parsed, Plain
from prism.expressions.types.string import quoted
from prism.expressions.types.token_type import TokenType, css_literal


def _parse(text: str) -> Parsed:
    name = text.strip()
    if not name:
        raise ExpressionError("A font family needs a name.")
    return Parsed(literal=name)


def _css(literal: Plain) -> str:
    text = css_literal(literal)
    return text if text.replace("-", "").isalnum() else quoted(text)


TYPE = TokenType(
    "fontFamily",
    example="Hanken Grotesk",
    parse=_parse,
    inner_references=False,
    items="fontFamily",
    css=_css,
    room="measures",
)
