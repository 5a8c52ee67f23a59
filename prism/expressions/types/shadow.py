"""Shadows: one, or several in layers, the nearest first."""

from __future__ import annotations

from collections.abc import Mapping

from prism.expressions.syntax import reference_of
from prism.expressions.types.shorthand import composite, split, texts_of
from prism.expressions.types.token_type import TokenType, spaced
from prism.model.values import Composite, Expression, Listing, Value

_outer = spaced("offsetX", "offsetY", "blur", "spread", "color")


def _css_parts(parts: Mapping[str, str]) -> str:
    return f"inset {_outer(parts)}" if parts.get("inset") == "true" else _outer(parts)


def _read_line(text: str) -> Value | None:
    """``inset? x y blur? spread? color``, or the color first; layers are separated by commas (CSS
    Backgrounds 3, section 6.1)."""
    layers = [_read_layer(layer) for layer in split(text, ",")]
    made = [layer for layer in layers if layer is not None]
    if len(made) < len(layers) or (len(made) == 1 and isinstance(made[0], Expression)):
        return None
    return made[0] if len(made) == 1 else Listing(tuple(made))


def _read_layer(text: str) -> Value | None:
    words = split(text, " ")
    if len(words) == 1 and reference_of(words[0]):
        return Expression(words[0])
    inset = "inset" in words
    words = [word for word in words if word != "inset"]
    if not 3 <= len(words) <= 5:
        return None
    color = words.pop(0 if words[-1][0] in "+-.0123456789" else -1)
    lengths = words + ["0px"] * (4 - len(words))
    parts = dict(zip(("offsetX", "offsetY", "blur", "spread"), lengths, strict=True))
    return composite({"color": color, **parts, **({"inset": "true"} if inset else {})})


def _line(value: Value) -> str | None:
    if not isinstance(value, Listing):
        return _layer_line(value) if isinstance(value, Composite) else None
    lines = [_layer_line(item) for item in value.items]
    return None if None in lines else ", ".join(line for line in lines if line)


def _layer_line(value: Value) -> str | None:
    if isinstance(value, Expression):
        return value.text
    parts = texts_of(value)
    return _css_parts(parts) if parts else None


TYPE = TokenType(
    "shadow",
    example="0px 2px 6px 0px rgb(0 0 0 / 0.15)",
    hint="A token’s name, or `x y blur spread color`, each a value or a path in braces.",
    parts={
        "color": "color", "offsetX": "dimension", "offsetY": "dimension",
        "blur": "dimension", "spread": "dimension", "inset": "boolean",
    },
    optional=("inset",),
    items="shadow",
    css_parts=_css_parts,
    read_line=_read_line,
    line=_line,
    listed="measures",
)  # fmt: skip
