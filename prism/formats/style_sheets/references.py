"""What a value refers to."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from prism.formats.style_sheets.tokens import comma_parts, trim


def reference(token: Any) -> tuple[str, list[Any] | None]:
    """The property that a ``var()`` names, and its fallback where it has one."""
    parts = comma_parts(token.arguments)
    words = trim(parts[0]) if parts else []
    name = words[0].value if len(words) == 1 and words[0].type == "ident" else ""
    fallback = token.arguments[len(parts[0]) + 1 :] if len(parts) > 1 else None
    return name, fallback


def variables(tokens: Sequence[Any]) -> Iterator[str]:
    """Every property that a value refers to, those in fallbacks too."""
    work = list(tokens)
    while work:
        token = work.pop()
        if token.type == "function":
            if token.lower_name == "var":
                yield reference(token)[0]
            work.extend(token.arguments)
        elif token.type in ("() block", "[] block"):
            work.extend(token.content)


def holds(tokens: Sequence[Any], function: str) -> bool:
    work = list(tokens)
    while work:
        token = work.pop()
        if token.type == "function":
            if token.lower_name == function:
                return True
            work.extend(token.arguments)
        elif token.type in ("() block", "[] block"):
            work.extend(token.content)
    return False
