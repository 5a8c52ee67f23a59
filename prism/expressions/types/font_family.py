"""Font families: one name, or a list in order of preference."""

from __future__ import annotations

from prism.errors import ExpressionError
from prism.expressions.parsed import Parsed, Plain
from prism.expressions.types.shorthand import items_of, listing, split
from prism.expressions.types.string import quoted
from prism.expressions.types.token_type import TokenType, css_literal
from prism.model.values import Value


def _parse(text: str) -> Parsed:
    name = text.strip()
    if not name:
        raise ExpressionError("A font family needs a name.")
    return Parsed(literal=name)


def _css(literal: Plain) -> str:
    text = css_literal(literal)
    return text if text.replace("-", "").isalnum() else quoted(text)


def _read_line(text: str) -> Value | None:
    """Names in order of preference, separated by commas, with or without quotes."""
    names = [name.strip("\"'").strip() for name in split(text, ",")]
    return listing(names) if len(names) > 1 and all(names) else None


def _line(value: Value) -> str | None:
    names = items_of(value)
    return ", ".join(names) if names else None


TYPE = TokenType(
    "fontFamily",
    example="Hanken Grotesk",
    parse=_parse,
    inner_references=False,
    items="fontFamily",
    css=_css,
    read_line=_read_line,
    line=_line,
    room="measures",
)
