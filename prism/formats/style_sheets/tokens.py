"""Component values of style sheets: splitting, trimming and what they hold."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import tinycss2

_GENERIC = frozenset(
    [
        "serif",
        "sans-serif",
        "monospace",
        "cursive",
        "fantasy",
        "system-ui",
        "ui-serif",
        "ui-sans-serif",
        "ui-monospace",
        "ui-rounded",
        "math",
        "emoji",
    ]
)


def font_families(text: str) -> list[str] | None:
    """The names of a font list, or None where the text is none."""
    names = []
    for part in comma_parts(tinycss2.parse_component_value_list(text)):
        part = trim(part)
        if len(part) == 1 and part[0].type == "string":
            names.append(str(part[0].value))
        elif part and all(node.type in ("ident", "whitespace") for node in part):
            names.append(" ".join(tinycss2.serialize(part).split()))
        else:
            return None
    generic = any(name.lower() in _GENERIC for name in names)
    return names if generic and len(names) > 1 else None


def comma_parts(tokens: Iterable[Any]) -> list[list[Any]]:
    parts: list[list[Any]] = [[]]
    for token in tokens:
        if token.type == "literal" and token.value == ",":
            parts.append([])
        else:
            parts[-1].append(token)
    return parts


def trim(tokens: Iterable[Any]) -> list[Any]:
    kept = list(tokens)
    while kept and kept[0].type in ("whitespace", "comment"):
        kept.pop(0)
    while kept and kept[-1].type in ("whitespace", "comment"):
        kept.pop()
    return kept


#: Where nodes hold other nodes, by their type.
_HOLDING = {
    **dict.fromkeys(("() block", "[] block", "{} block"), ("content",)),
    **dict.fromkeys(("qualified-rule", "at-rule"), ("prelude", "content")),
    "function": ("arguments",),
    "declaration": ("value",),
}


def deeper_than(nodes: Iterable[Any], most: int) -> bool:
    """Whether rules, blocks or functions lie in one another more than ``most`` levels deep."""
    level = list(nodes)
    for _ in range(most):
        inner: list[Any] = []
        for node in level:
            for name in _HOLDING.get(node.type, ()):
                held = getattr(node, name)
                if held is not None:
                    inner.extend(held)
        if not inner:
            return False
        level = inner
    return True
