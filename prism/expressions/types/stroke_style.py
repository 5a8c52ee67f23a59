"""Line styles: a keyword of CSS, or dashes and the form of their ends."""

from __future__ import annotations

from prism.errors import ExpressionError
from prism.expressions.parsed import Parsed
from prism.expressions.types.token_type import TokenType, spaced

STYLES = ("solid", "dashed", "dotted", "double", "groove", "ridge", "outset", "inset")


def _parse(text: str) -> Parsed:
    source = text.strip()
    if source not in STYLES:
        raise ExpressionError(
            f"“{source[:60]}” is not a line style.", fix="Use " + ", ".join(STYLES) + "."
        )
    return Parsed(literal=source)


TYPE = TokenType(
    "strokeStyle",
    example="solid",
    parse=_parse,
    inner_references=False,
    parts={"dashArray": "dimension", "lineCap": "string"},
    css_parts=spaced("dashArray", "lineCap"),
    room="measures",
)
