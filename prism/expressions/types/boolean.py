"""True or false. Beyond the Design Tokens standard."""

from __future__ import annotations

from typing import Any

from prism.errors import ExpressionError
from prism.expressions.parsed import Parsed
from prism.expressions.types.token_type import TokenType


def _parse(text: str) -> Parsed:
    source = text.strip()
    if source not in ("true", "false"):
        raise ExpressionError(f"“{source[:60]}” is neither true nor false.")
    return Parsed(literal=source == "true")


def _json_text(raw: Any) -> str | None:
    return ("true" if raw else "false") if isinstance(raw, bool) else None


TYPE = TokenType(
    "boolean",
    example="true",
    hint="true or false, or a token’s name.",
    parse=_parse,
    inner_references=False,
    json_text=_json_text,
    standard=False,
    listed="texts",
)
