"""Transitions: how long, how late and along which curve."""

from __future__ import annotations

from prism.expressions.types.token_type import TokenType, spaced

TYPE = TokenType(
    "transition",
    example='{"parts":[["duration","120ms"],["delay","0ms"],["timingFunction",["0.2","0",'
    '"0","1"]]]}',
    hint="A token’s name, or the parts as shown above, each a value or a path in braces.",
    parts={"duration": "duration", "delay": "duration", "timingFunction": "cubicBezier"},
    css_parts=spaced("duration", "timingFunction", "delay"),
)
