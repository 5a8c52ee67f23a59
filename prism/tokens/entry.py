"""What a person types into a cell, as a value."""

from __future__ import annotations

from dataclasses import dataclass

from prism.tokens.bindings import words_of
from prism.tokens.expressions import decode, encode, reference_of
from prism.tokens.model import Document, Expression, Token, Value, shown_path

_MANY = ("[", '{"parts"')


def read_typed(document: Document, text: str, token: Token) -> Value:
    """The value meant by ``text`` for ``token``.

    A path stands for a reference, with or without braces, and wins over a color of the same
    name. Values of many parts are typed as ``typed`` shows them.
    """
    plain = text.strip()
    if plain.startswith(_MANY):
        try:
            return decode(plain)
        except ValueError:
            return Expression(plain)
    path = reference_of(plain)
    target = document.token_at(path or plain)
    if target is not None and target.key != token.key and target.type == token.type:
        return Expression("{" + shown_path_or_root(document, target) + "}")
    return Expression(plain)


def shown_path_or_root(document: Document, token: Token) -> str:
    """The shortest path that a reference may name the token by."""
    short = shown_path(token.path)
    return short if document.token_at(short) is token else token.path


def typed(value: Value | None) -> str:
    """A value as it is typed: text, or JSON for one of many parts."""
    if value is None:
        return ""
    return value.text if isinstance(value, Expression) else encode(value)


@dataclass(frozen=True, slots=True)
class Option:
    """A token offered while a value is typed."""

    token: Token
    path: str


def complete(document: Document, text: str, token: Token, limit: int = 12) -> list[Option]:
    """Tokens of the same type whose path fits what was typed, best first.

    A path that starts with the text comes first, then one with a segment that does, then one
    that holds every word of it; raw tokens come before others for a semantic token.
    """
    typed_text = text.strip().strip("{}").lower()
    words = words_of(typed_text)
    found = []
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
        found.append(((rank, above, position), Option(other, path)))
    found.sort(key=lambda one: one[0])
    return [option for _, option in found[:limit]]
