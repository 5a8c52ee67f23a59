"""Shadows: one, or several in layers, the nearest first."""

from __future__ import annotations

from collections.abc import Mapping

from prism.expressions.types.token_type import TokenType, spaced

_outer = spaced("offsetX", "offsetY", "blur", "spread", "color")


def _css_parts(parts: Mapping[str, str]) -> str:
    return f"inset {_outer(parts)}" if parts.get("inset") == "true" else _outer(parts)


TYPE = TokenType(
    "shadow",
    example='{"parts":[["color","rgb(0 0 0 / 0.15)"],["offsetX","0px"],["offsetY","2px"],["blur",'
    '"6px"],["spread","0px"]]}',
    hint="A token’s name, or the parts as shown above, each a value or a path in braces.",
    parts={
        "color": "color", "offsetX": "dimension", "offsetY": "dimension",
        "blur": "dimension", "spread": "dimension", "inset": "boolean",
    },
    optional=("inset",),
    items="shadow",
    css_parts=_css_parts,
)  # fmt: skip
