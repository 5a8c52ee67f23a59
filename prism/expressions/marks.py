"""Marks, words and brackets among the tokens of a value."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import Any

MOST_DIGITS = 1_000
#: A number that no program can mean; Python refuses to read those of over 4,300 digits.
LONG_NUMBER = re.compile(rf"[0-9]{{{MOST_DIGITS}}}[0-9]")
_BRACKETS = re.compile(r"[()\[\]{}]")
PLACEHOLDER = "np-reference-"


def deepest(text: str) -> int:
    """How many brackets lie in one another at most, those in strings too."""
    depth = most = 0
    for mark in _BRACKETS.findall(text):
        depth = depth + 1 if mark in "([{" else max(depth - 1, 0)
        most = max(most, depth)
    return most


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
