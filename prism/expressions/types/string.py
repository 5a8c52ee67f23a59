"""Texts: the words of an interface. Beyond the Design Tokens standard."""

from __future__ import annotations

from prism.expressions.parsed import Parsed, Plain
from prism.expressions.types.token_type import TokenType, css_literal


def quoted(text: str) -> str:
    """A text as a CSS string that can also stand in a page's style element."""
    escaped = text.replace("\\", "\\\\").replace('"', '\\"')
    escaped = "".join(c if ord(c) >= 32 and c != "\x7f" else f"\\{ord(c):x} " for c in escaped)
    return f'"{escaped}"'.replace("<", "\\3c ")


def _parse(text: str) -> Parsed:
    return Parsed(literal=text)


def _css(literal: Plain) -> str:
    return quoted(css_literal(literal))


TYPE = TokenType(
    "string",
    example="Buy ticket",
    hint="The text itself, or a path in braces to take another token’s text.",
    parse=_parse,
    inner_references=False,
    css=_css,
    standard=False,
    listed="texts",
)
