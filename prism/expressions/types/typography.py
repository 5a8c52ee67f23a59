"""Type: family, size, weight, spacing and height of lines."""

from __future__ import annotations

from collections.abc import Mapping

from prism.expressions.types import font_family
from prism.expressions.types.shorthand import composite, split
from prism.expressions.types.token_type import TokenType
from prism.model.values import Composite, Expression, Value

_NORMAL = "0px"
_SPACING = "letter-spacing:"


def _css_parts(parts: Mapping[str, str]) -> str:
    """The shorthand of a font, which has no letter spacing (CSS Fonts 4, section 2.7)."""
    size = parts.get("fontSize", "medium")
    line = f"{size}/{parts['lineHeight']}" if "lineHeight" in parts else size
    texts = [parts.get("fontWeight", ""), line, parts.get("fontFamily", "inherit")]
    return " ".join(text for text in texts if text)


def _read_line(text: str) -> Value | None:
    """``weight size/line-height family``, then ``; letter-spacing: length`` where there is one."""
    font, *more = split(text, ";")
    spacing = _NORMAL
    if more:
        if len(more) > 1 or not more[0].startswith(_SPACING):
            return None
        spacing = more[0].removeprefix(_SPACING).strip()
    words = split(font, " ")
    if len(words) < 3:
        return None
    sizes = split(words[1], "/")
    if len(sizes) != 2:
        return None
    family = font.split(words[1], 1)[1].strip()
    plain = family.strip("\"'")
    return composite(
        {
            "fontFamily": font_family.TYPE.read_line(family) or plain,
            "fontSize": sizes[0],
            "fontWeight": words[0],
            "letterSpacing": spacing,
            "lineHeight": sizes[1],
        }
    )


def _line(value: Value) -> str | None:
    if not isinstance(value, Composite):
        return None
    parts = dict(value.parts)
    if set(parts) != set(TYPE.parts):
        return None
    family = parts.pop("fontFamily")
    texts = {name: part.text for name, part in parts.items() if isinstance(part, Expression)}
    name = family.text if isinstance(family, Expression) else font_family.TYPE.line(family)
    if len(texts) < len(parts) or name is None:
        return None
    font = f"{texts['fontWeight']} {texts['fontSize']}/{texts['lineHeight']} {name}"
    spacing = texts["letterSpacing"]
    return font if spacing == _NORMAL else f"{font}; {_SPACING} {spacing}"


TYPE = TokenType(
    "typography",
    example="600 16px/1.4 Hanken Grotesk; letter-spacing: 0.2px",
    hint="A token’s name, or `weight size/line-height family; letter-spacing: length`, each a value or "
    "a path in braces.",
    parts={
        "fontFamily": "fontFamily", "fontSize": "dimension", "fontWeight": "fontWeight",
        "letterSpacing": "dimension", "lineHeight": "number",
    },
    css_parts=_css_parts,
    read_line=_read_line,
    line=_line,
    listed="measures",
)  # fmt: skip
