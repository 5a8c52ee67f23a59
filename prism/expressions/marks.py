"""Marks, words and brackets among the tokens of a value."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

PLACEHOLDER = "np-reference-"


def trimmed(tokens: Sequence[Any]) -> list[Any]:
    return [token for token in tokens if token.type not in ("whitespace", "comment")]


def split_by_commas(tokens: Sequence[Any]) -> list[list[Any]]:
    """Tokens between commas."""
    parts: list[list[Any]] = [[]]
    for token in tokens:
        if is_mark(token, ","):
            parts.append([])
        elif token.type not in ("whitespace", "comment"):
            parts[-1].append(token)
    return parts


def is_mark(token: Any, mark: str) -> bool:
    return bool(token.type == "literal" and token.value == mark)


def is_word(token: Any, word: str) -> bool:
    return bool(token.type == "ident" and token.lower_value == word)
