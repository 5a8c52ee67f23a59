"""Writing tokens of the demo briefly."""

from __future__ import annotations

from prism.model.document import Token
from prism.model.values import BASE, Composite, Condition, Expression, Value


def token(
    path: str, type: str, tier: str, *values: tuple[dict[str, str], str | Value], **more: str
) -> Token:
    """A token whose key is its path; each value with the modes it holds in."""
    stored = tuple(
        (
            Condition.of(when) if when else BASE,
            Expression(value) if isinstance(value, str) else value,
        )
        for when, value in values
    )
    return Token(path, path, type, tier, stored, **more)  # type: ignore[arg-type]


def shadow(color: str, down: str = "1px", out: str = "4px") -> Value:
    """A shadow straight under a thing."""
    parts = {"color": color, "offsetX": "0px", "offsetY": down, "blur": out, "spread": "0px"}
    return Composite(tuple((name, Expression(text)) for name, text in parts.items()))
