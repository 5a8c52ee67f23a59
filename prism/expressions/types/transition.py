"""Transitions: how long, how late and along which curve."""

from __future__ import annotations

from prism.expressions.types import cubic_bezier
from prism.expressions.types.shorthand import composite, split
from prism.expressions.types.token_type import TokenType, spaced
from prism.model.values import Composite, Expression, Value


def _read_line(text: str) -> Value | None:
    """``duration curve delay?`` (CSS Transitions 1, section 2.5)."""
    words = split(text, " ")
    if not 2 <= len(words) <= 3:
        return None
    curve = cubic_bezier.TYPE.read_line(words[1]) or words[1]
    delay = words[2] if len(words) == 3 else "0ms"
    return composite({"duration": words[0], "delay": delay, "timingFunction": curve})


def _line(value: Value) -> str | None:
    if not isinstance(value, Composite):
        return None
    parts = dict(value.parts)
    curve = parts.get("timingFunction")
    texts = [parts.get("duration"), curve, parts.get("delay")]
    shown = [part.text if isinstance(part, Expression) else None for part in texts]
    if curve is not None and shown[1] is None:
        shown[1] = cubic_bezier.TYPE.line(curve)
    return None if None in shown else " ".join(text for text in shown if text)


TYPE = TokenType(
    "transition",
    example="120ms cubic-bezier(0.2, 0, 0, 1) 0ms",
    hint="A token’s name, or `duration curve delay`, each a value or a path in braces.",
    parts={"duration": "duration", "delay": "duration", "timingFunction": "cubicBezier"},
    css_parts=spaced("duration", "timingFunction", "delay"),
    read_line=_read_line,
    line=_line,
    listed="measures",
)
