"""What a person types into a cell, as a value."""

from __future__ import annotations

import re

from prism.expressions.syntax import reference_of
from prism.expressions.types import TOKEN_TYPES
from prism.expressions.values import decode, encode
from prism.model.document import Document, Token, shown_path
from prism.model.values import ABSENT, Absent, Expression, Value

#: What can only be meant as a path, so that it is said to be missing rather than to be no value.
_PATH = re.compile(r"[A-Za-z][\w-]*(?:\.[\w-]+)+")
#: What is typed, and written in CSS, for no value.
INITIAL = "initial"
#: How values of many parts begin that no line can say.
MANY = ("[", '{"parts"')


def read_typed(document: Document, text: str, token: Token) -> Value:
    """The value meant by ``text`` for ``token``.

    A path stands for a reference, with or without braces, and wins over a color of the same
    name; ``initial`` means no value. Values of many parts are typed on one line, as CSS orders them.
    """
    plain = text.strip()
    if plain.lower() == INITIAL and token.type not in ("string", "piece"):
        return ABSENT
    known = TOKEN_TYPES[token.type]
    if plain.startswith(MANY) and (known.items or known.parts):
        try:
            return decode(plain)
        except ValueError:
            return Expression(plain)
    line = known.read_line(plain)
    if line is not None:
        return line
    path = reference_of(plain)
    target = document.token_at(path or plain)
    if target is not None and target.key != token.key and target.type == token.type:
        return reference_to(document, target)
    if token.type != "string" and _PATH.fullmatch(plain):
        return Expression("{" + plain + "}")
    return Expression(plain)


def is_path(text: str) -> bool:
    """Whether a text can only be meant as the path of a token."""
    return _PATH.fullmatch(text) is not None


def shown_path_or_root(document: Document, token: Token) -> str:
    """The shortest path that a reference may name the token by."""
    short = shown_path(token.path)
    return short if document.token_at(short) is token else token.path


def reference_to(document: Document, token: Token) -> Expression:
    """The reference to a token."""
    return Expression("{" + shown_path_or_root(document, token) + "}")


def typed(value: Value | None, type: str) -> str:
    """A value of a type as it is typed: its text, or one line for one of many parts; JSON where a line
    would not be read as the same value."""
    if value is None:
        return ""
    if isinstance(value, Absent):
        return INITIAL
    if isinstance(value, Expression):
        return value.text
    known = TOKEN_TYPES[type]
    line = known.line(value)
    return line if line is not None and known.read_line(line) == value else encode(value)
