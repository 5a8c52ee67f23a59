"""Values of many parts as one line, in the order in which CSS writes them; parts may be references."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from prism.model.values import Composite, Expression, Listing, Value

_CLOSING = {"(": ")", "{": "}", "[": "]"}


def split(text: str, at: str) -> list[str]:
    """The pieces of a text between ``at``, which is one character, outside of brackets and quotes;
    without blanks around them. Between blanks there are no empty pieces."""
    pieces, start = [], 0
    for place in _outside(text):
        if text[place] == at or (at == " " and text[place].isspace()):
            pieces.append(text[start:place].strip())
            start = place + 1
    pieces.append(text[start:].strip())
    return [piece for piece in pieces if piece] if at == " " else pieces


def _outside(text: str) -> Iterator[int]:
    """The places of a text that are in no bracket and no quotes."""
    closing: list[str] = []
    quote = ""
    for place, letter in enumerate(text):
        if quote:
            quote = "" if letter == quote else quote
        elif letter in "\"'":
            quote = letter
        elif letter in _CLOSING:
            closing.append(_CLOSING[letter])
        elif closing and letter == closing[-1]:
            closing.pop()
        elif not closing:
            yield place


def texts_of(value: Value) -> Mapping[str, str] | None:
    """The texts of parts by their names; None where a part is not one text."""
    if not isinstance(value, Composite):
        return None
    texts = {name: part.text for name, part in value.parts if isinstance(part, Expression)}
    return texts if len(texts) == len(value.parts) else None


def items_of(value: Value) -> list[str] | None:
    """The texts of a list; None where an item is not one text."""
    if not isinstance(value, Listing):
        return None
    texts = [item.text for item in value.items if isinstance(item, Expression)]
    return texts if len(texts) == len(value.items) else None


def composite(parts: Mapping[str, str | Value]) -> Composite:
    """Parts by their names, texts among them."""
    return Composite(
        tuple(
            (name, Expression(part) if isinstance(part, str) else part)
            for name, part in parts.items()
        )
    )


def listing(texts: list[str]) -> Listing:
    """A list of texts."""
    return Listing(tuple(Expression(text) for text in texts))
