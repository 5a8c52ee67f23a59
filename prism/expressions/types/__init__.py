"""The types of tokens. A new type is a file here, a line below and its name in the model."""

from __future__ import annotations

from collections.abc import Mapping

from prism.expressions.types import (
    boolean,
    border,
    color,
    cubic_bezier,
    dimension,
    duration,
    font_family,
    font_weight,
    gradient,
    number,
    piece,
    shadow,
    string,
    stroke_style,
    transition,
    typography,
)
from prism.expressions.types.token_type import TokenType

_FILES = (
    color, dimension, number, duration, font_family, font_weight, cubic_bezier, stroke_style,
    string, boolean, piece, shadow, border, gradient, typography, transition,
)  # fmt: skip

#: Every type by its name.
TOKEN_TYPES: Mapping[str, TokenType] = {file.TYPE.name: file.TYPE for file in _FILES}
