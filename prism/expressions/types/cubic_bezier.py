"""Curves of motion: a cubic Bézier curve of four numbers."""

from __future__ import annotations

from collections.abc import Sequence

from prism.errors import ExpressionError
from prism.expressions.syntax import reference_of
from prism.expressions.types import number
from prism.expressions.types.token_type import TokenType
from prism.model.values import Expression, Listing


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


TYPE = TokenType(
    "cubicBezier",
    example='["0.2","0","0","1"]',
    items="number",
    check_list=_check_list,
    css_list=_css_list,
    room="measures",
)
