"""Pieces of values, put in as text where they are used. Beyond the Design Tokens standard."""

from __future__ import annotations

from prism.expressions import pieces
from prism.expressions.parsed import Parsed
from prism.expressions.types.token_type import TokenType


def _parse(text: str) -> Parsed:
    pieces.check(text)
    template = pieces.template(text)
    if template is None:
        return Parsed(literal=text)
    return Parsed(tree=template, references=template.paths)


TYPE = TokenType(
    "piece",
    example="13, 110, 253",
    hint="Any part of a value, such as `13, 110, 253`; it is put in as it stands.",
    parse=_parse,
    standard=False,
    listed="measures",
)
