"""Type: family, size, weight, spacing and height of lines."""

from __future__ import annotations

from collections.abc import Mapping

from prism.expressions.types.token_type import TokenType


def _css_parts(parts: Mapping[str, str]) -> str:
    """The shorthand of a font, which has no letter spacing (CSS Fonts 4, section 2.7)."""
    size = parts.get("fontSize", "medium")
    line = f"{size}/{parts['lineHeight']}" if "lineHeight" in parts else size
    texts = [parts.get("fontWeight", ""), line, parts.get("fontFamily", "inherit")]
    return " ".join(text for text in texts if text)


TYPE = TokenType(
    "typography",
    example='{"parts":[["fontFamily","Hanken Grotesk"],["fontSize","16px"],["fontWeight",'
    '"600"],["letterSpacing","0px"],["lineHeight","1.4"]]}',
    hint="A token’s name, or the parts as shown above, each a value or a path in braces.",
    parts={
        "fontFamily": "fontFamily", "fontSize": "dimension", "fontWeight": "fontWeight",
        "letterSpacing": "dimension", "lineHeight": "number",
    },
    css_parts=_css_parts,
)  # fmt: skip
