"""Gradients: colors and where each stands, from 0 to 1."""

from __future__ import annotations

from collections.abc import Mapping

from prism.expressions.types.token_type import TokenType


def _css_parts(parts: Mapping[str, str]) -> str:
    position = parts.get("position", "")
    if not position:
        return parts["color"]
    return f"{parts.get('color', '')} calc({position} * 100%)"


TYPE = TokenType(
    "gradient",
    example='[{"parts":[["color","#236b53"],["position","0"]]},{"parts":[["color",'
    '"#f2b84b"],["position","1"]]}]',
    hint="A token’s name, or the parts as shown above, each a value or a path in braces.",
    parts={"color": "color", "position": "number"},
    items="gradient",
    css_parts=_css_parts,
)
