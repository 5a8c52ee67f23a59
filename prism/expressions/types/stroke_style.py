"""Line styles: a keyword of CSS, or dashes and the form of their ends."""

from __future__ import annotations

from prism.errors import ExpressionError
from prism.expressions.parsed import Parsed
from prism.expressions.types.shorthand import composite, items_of, listing, split
from prism.expressions.types.token_type import TokenType, spaced
from prism.model.values import Composite, Expression, Value

STYLES = ("solid", "dashed", "dotted", "double", "groove", "ridge", "outset", "inset")
_ENDS = ("round", "butt", "square")


def _parse(text: str) -> Parsed:
    source = text.strip()
    if source not in STYLES:
        raise ExpressionError(
            f"“{source[:60]}” is not a line style.", fix="Use " + ", ".join(STYLES) + "."
        )
    return Parsed(literal=source)


def _read_line(text: str) -> Value | None:
    """Lengths of dashes and gaps, then the form of the ends: ``4px 2px round``."""
    *lengths, end = split(text, " ") or [""]
    if not lengths or end not in _ENDS:
        return None
    return composite({"dashArray": listing(lengths), "lineCap": end})


def _line(value: Value) -> str | None:
    parts = dict(value.parts) if isinstance(value, Composite) else {}
    lengths, end = parts.get("dashArray"), parts.get("lineCap")
    texts = items_of(lengths) if lengths is not None else None
    return f"{' '.join(texts)} {end.text}" if texts and isinstance(end, Expression) else None


TYPE = TokenType(
    "strokeStyle",
    example="solid",
    parse=_parse,
    inner_references=False,
    parts={"dashArray": "dimension", "lineCap": "string"},
    css_parts=spaced("dashArray", "lineCap"),
    read_line=_read_line,
    line=_line,
    listed="measures",
)
