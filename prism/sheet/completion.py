"""Tokens that fit what is being typed."""

from __future__ import annotations

from dataclasses import dataclass

from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.errors import ExpressionError
from prism.expressions.typed_input import shown_path_or_root
from prism.expressions.values import references
from prism.model.document import Document, Token
from prism.resolution.resolver import Resolver
from prism.roles.lexicon import words_of


@dataclass(frozen=True, slots=True)
class Option:
    """A token offered while a value is typed; ``distance`` is CIEDE2000 where a color was typed,
    ``uses`` how many tokens refer to it."""

    token: Token
    path: str
    distance: float | None = None
    uses: int = 0


def complete(
    document: Document, text: str, token: Token, limit: int = 12, resolver: Resolver | None = None
) -> list[Option]:
    """Tokens of the same type that fit what was typed, best first.

    By name: a path that starts with the text comes first, then one with a segment that does, then
    one that holds every word of it; raw tokens come before others for a semantic token, and what is
    used more before what is used less. Where a color was typed, the nearest colors come.
    """
    typed_text = text.strip().strip("{}").lower()
    color = _color(text) if token.type == "color" else None
    if color is not None and resolver is not None:
        return _nearest(document, resolver, token, color, limit)
    words = words_of(typed_text)
    uses = _uses(document)
    options = []
    for position, other in enumerate(document.tokens):
        if other.type != token.type or other.key == token.key:
            continue
        path = shown_path_or_root(document, other)
        lower = path.lower()
        if lower.startswith(typed_text):
            rank = 0
        elif any(segment.startswith(typed_text) for segment in lower.split(".")):
            rank = 1
        elif typed_text in lower or (words and all(word in lower for word in words)):
            rank = 2
        else:
            continue
        above = other.tier != "raw" if token.tier == "semantic" else other.tier == "component"
        count = uses.get(other.key, 0)
        weight = -count if not typed_text else 0
        options.append(((rank, above, weight, position), Option(other, path, None, count)))
    options.sort(key=lambda ranked: ranked[0])
    return [option for _, option in options[:limit]]


def _color(text: str) -> space.Color | None:
    try:
        return space.parse_function(text)
    except ExpressionError:
        return None


def _nearest(
    document: Document, resolver: Resolver, token: Token, color: space.Color, limit: int
) -> list[Option]:
    """The colors nearest to one that was typed, palette first between equals."""
    known = [
        (other, answer.color)
        for other in document.tokens
        if other.type == "color" and other.key != token.key
        for answer in (resolver.resolve(other.key, resolver.default_theme),)
        if answer.color is not None and (answer.color.alpha < 1) == (color.alpha < 1)
    ]
    if not known:
        return []
    apart = delta_e_2000(
        lab(space.rgba(color)[:3]), lab([space.rgba(color)[:3] for _, color in known])
    )
    uses = _uses(document)
    order = sorted(
        range(len(known)), key=lambda i: (round(float(apart[i]), 2), known[i][0].tier != "raw", i)
    )
    return [
        Option(
            known[i][0],
            shown_path_or_root(document, known[i][0]),
            float(apart[i]),
            uses.get(known[i][0].key, 0),
        )
        for i in order[:limit]
    ]


def _uses(document: Document) -> dict[str, int]:
    """How many values name each token, by key."""
    counts: dict[str, int] = {}
    for token in document.tokens:
        for _, value in token.values:
            for path in references(value, token.type):
                target = document.token_at(path)
                if target is not None:
                    counts[target.key] = counts.get(target.key, 0) + 1
    return counts
