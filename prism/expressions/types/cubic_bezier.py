"""Curves of motion: a cubic Bézier curve of four numbers."""

from __future__ import annotations

from collections.abc import Sequence

from prism.errors import ExpressionError
from prism.expressions.syntax import reference_of
from prism.expressions.types import number
from prism.expressions.types.shorthand import items_of, listing, split
from prism.expressions.types.token_type import TokenType
from prism.model.values import Expression, Listing, Value

#: The curves that CSS has names for (CSS Easing 1, section 2.2).
_NAMED = {
    "linear": ["0", "0", "1", "1"],
    "ease": ["0.25", "0.1", "0.25", "1"],
    "ease-in": ["0.42", "0", "1", "1"],
    "ease-out": ["0", "0", "0.58", "1"],
    "ease-in-out": ["0.42", "0", "0.58", "1"],
}
_OPENING = "cubic-bezier("


def _check_list(value: Listing) -> None:
    if len(value.items) != 4:
        raise ExpressionError("A cubic Bézier curve has four numbers.")
    for place in (0, 2):
        item = value.items[place]
        if not isinstance(item, Expression) or reference_of(item.text):
            continue
        assert number.TYPE.parse is not None
        literal = number.TYPE.parse(item.text).literal
        if isinstance(literal, float) and not 0 <= literal <= 1:
            raise ExpressionError(
                "The first and third number of a cubic Bézier curve lie between 0 and 1."
            )


def _css_list(texts: Sequence[str]) -> str:
    return f"cubic-bezier({', '.join(texts)})"


def _read_line(text: str) -> Value | None:
    """``cubic-bezier(x1, y1, x2, y2)``, or a name that CSS has for a curve."""
    plain = text.strip()
    if plain in _NAMED:
        return listing(_NAMED[plain])
    if not (plain.startswith(_OPENING) and plain.endswith(")")):
        return None
    return listing(split(plain[len(_OPENING) : -1], ","))


def _line(value: Value) -> str | None:
    texts = items_of(value)
    return _css_list(texts) if texts else None


TYPE = TokenType(
    "cubicBezier",
    example="cubic-bezier(0.2, 0, 0, 1)",
    hint="A token’s name, `cubic-bezier(x1, y1, x2, y2)`, or a curve that CSS has a name for.",
    items="number",
    check_list=_check_list,
    css_list=_css_list,
    read_line=_read_line,
    line=_line,
    listed="measures",
)
