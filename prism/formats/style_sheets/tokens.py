"""Component values of style sheets: splitting, trimming and what they hold."""

from __future__ import annotations

import re
from collections.abc import Iterable
from typing import Any

from prism.expressions.types.font_family import GENERIC, families

#: Generic families that no other property knows as a word.
_PLAIN_GENERIC = GENERIC - {"cursive", "fantasy", "math", "emoji"}
#: Words of a name that tell of a family of fonts, and those that tell of something else of a font.
_FAMILY = frozenset(("family", "families", "typeface", "typefaces"))
_FONT = frozenset(("font", "fonts"))
_NOT_FAMILY = frozenset(
    ("weight", "weights", "size", "sizes", "style", "variant", "smoothing", "stretch", "feature", "features",
     "display", "kerning", "height", "spacing", "width", "settings", "synthesis", "optical", "leading", "color")
)  # fmt: skip
_WORDS = re.compile(r"[a-z]+|[A-Z][a-z]*")


def is_font_list(text: str, name: str) -> bool:
    """Whether a text is a list of font families, by what it is, and by the name of its property where
    it could be something else, as one quoted word could be a text."""
    names = families(text)
    if not names:
        return False
    generic = any(family.lower() in GENERIC for family in names)
    if len(names) > 1 and (generic or '"' in text or "'" in text):
        return True
    words = {word.lower() for word in _WORDS.findall(name)}
    tells = bool(words & _FAMILY) or (bool(words & _FONT) and not words & _NOT_FAMILY)
    return tells or (generic and text.strip().lower() in _PLAIN_GENERIC)


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
