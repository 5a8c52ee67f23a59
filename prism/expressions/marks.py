"""Marks, words and brackets among the tokens of a value."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

PLACEHOLDER = "np-reference-"


class Slash:
    """A comma before a legacy alpha, read as the slash it means."""

    type = "literal"
    value = "/"

    def __init__(self, token: Any) -> None:
        self.source_column = token.source_column


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


def count_commas(tokens: Sequence[Any]) -> int:
    return sum(is_mark(token, ",") for token in tokens)


def last_comma(tokens: Sequence[Any]) -> int:
    return max(i for i, mark in enumerate(tokens) if is_mark(mark, ","))


def is_computed(tokens: Sequence[Any]) -> bool:
    """Whether a color function holds a reference, math or an origin."""
    return any(
        token.type in ("function", "() block")
        or (
            token.type == "ident"
            and (token.value.startswith(PLACEHOLDER) or token.lower_value == "from")
        )
        for token in tokens
    )


def without_commas(arguments: Sequence[Any]) -> list[Any]:
    """The arguments of the older syntax as those of the newer: the third comma becomes a slash."""
    last = last_comma(arguments)
    keep_last = count_commas(arguments) == 3
    return [
        Slash(argument) if is_mark(argument, ",") else argument
        for place, argument in enumerate(arguments)
        if not is_mark(argument, ",") or (place == last and keep_last)
    ]
