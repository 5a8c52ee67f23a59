"""Font families: one name, or a list in order of preference (CSS Fonts 4, section 2.1)."""

from __future__ import annotations

import re

import tinycss2

from prism.errors import ExpressionError
from prism.expressions.marks import LONG_NUMBER
from prism.expressions.parsed import Parsed, Plain
from prism.expressions.types.shorthand import items_of, listing, split
from prism.expressions.types.string import quoted
from prism.expressions.types.token_type import TokenType, css_literal
from prism.model.values import Expression, Value

#: Families that every browser has one of (CSS Fonts 4, section 2.1.4).
GENERIC = frozenset(
    [
        "serif", "sans-serif", "monospace", "cursive", "fantasy", "system-ui", "ui-serif",
        "ui-sans-serif", "ui-monospace", "ui-rounded", "math", "emoji",
    ]
)  # fmt: skip
#: Words that mean something else where a family stands, unless they are quoted.
_TAKEN = frozenset(("inherit", "initial", "unset", "revert", "revert-layer", "default"))
_WORD = re.compile(r"-?[A-Za-z_][\w-]*\Z", re.ASCII)


def families(text: str) -> list[str] | None:
    """The names of a list as CSS writes it, strings or words; None where the text is none. A font that is
    called like a generic family keeps its quotes, by which CSS tells them apart."""
    if LONG_NUMBER.search(text):
        return None
    names = []
    for piece in split(text, ","):
        tokens = [
            token
            for token in tinycss2.parse_component_value_list(piece, skip_comments=True)
            if token.type != "whitespace"
        ]
        if len(tokens) == 1 and tokens[0].type == "string":
            name = str(tokens[0].value)
            names.append(quoted(name) if name.lower() in GENERIC else name)
        elif tokens and all(token.type == "ident" for token in tokens):
            names.append(" ".join(str(token.value) for token in tokens))
        else:
            return None
    return names


def is_list(text: str) -> bool:
    """Whether a text can only be a list of families: several names, one of them generic or quoted."""
    names = families(text)
    if names is None or len(names) < 2:
        return False
    return any(name.lower() in GENERIC for name in names) or '"' in text or "'" in text


def _parse(text: str) -> Parsed:
    if not text.strip():
        raise ExpressionError("A font family needs a name.")
    return Parsed(literal=_name(text) if text.strip()[0] in "\"'" else text.strip())


def _name(text: str) -> str:
    """A name without the quotes around it; one that is none in CSS as it stands."""
    names = families(text)
    return names[0] if names is not None and len(names) == 1 and names[0] else text.strip()


def _css(literal: Plain) -> str:
    text = css_literal(literal)
    if text[:1] == '"' and text[1:-1].lower() in GENERIC:
        return text
    return text if _WORD.match(text) and text.lower() not in _TAKEN else quoted(text)


def _read_line(text: str) -> Value | None:
    """Names in order of preference, separated by commas, with or without quotes, or references."""
    pieces = split(text, ",")
    if len(pieces) < 2 or not all(pieces):
        return None
    names = [piece if piece.startswith("{") else _name(piece) for piece in pieces]
    return listing(names) if all(names) else None


def _line(value: Value) -> str | None:
    names = items_of(value)
    return ", ".join(_typed(name) for name in names) if names else None


def _typed(name: str) -> str:
    """A name as it is typed in a list: in quotes where it would be read as something else."""
    return name if name.startswith("{") or families(name) == [name] else quoted(name)


def read_css(text: str) -> Value:
    """The value of a list that CSS writes; a single name is no list."""
    return _read_line(text) or Expression(_name(text))


TYPE = TokenType(
    "fontFamily",
    example="Hanken Grotesk, sans-serif",
    hint="A token’s name, or names of fonts in order of preference, separated by commas.",
    parse=_parse,
    inner_references=False,
    items="fontFamily",
    css=_css,
    read_line=_read_line,
    line=_line,
    listed="measures",
)
