"""Resolved values: what remains when no reference is left, and its CSS text."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.color import space
from prism.expressions.evaluation import Calculation, Quantity
from prism.expressions.values import FONT_WEIGHTS, ITEMS, Plain, part_type


@dataclass(frozen=True, slots=True)
class Parts:
    """A resolved composite: ordered named parts."""

    parts: tuple[tuple[str, Resolved], ...]


@dataclass(frozen=True, slots=True)
class Items:
    """A resolved list."""

    items: tuple[Resolved, ...]


Resolved = Plain | Parts | Items


def css_value(value: Resolved, type: str) -> str:
    """A resolved value as CSS text."""
    if isinstance(value, space.Color):
        return space.css_text(value)
    if isinstance(value, Quantity):
        return f"{space.number_text(value.number)}{value.unit}"
    if isinstance(value, Calculation):
        return value.text
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, float):
        return space.number_text(value)
    if isinstance(value, str):
        return plain_css(value, type)
    if isinstance(value, Items):
        texts = [css_value(item, ITEMS[type]) for item in value.items]
        return compose_list(type, texts)
    return compose(
        type, [(name, css_value(part, part_type(type, name))) for name, part in value.parts]
    )


def plain_css(value: str, type: str) -> str:
    """A string-like literal as CSS text, quoted where CSS wants quotes."""
    if type == "string" or (type == "fontFamily" and not value.replace("-", "").isalnum()):
        escaped = value.replace("\\", "\\\\").replace('"', '\\"')
        escaped = "".join(c if ord(c) >= 32 and c != "\x7f" else f"\\{ord(c):x} " for c in escaped)
        return f'"{escaped}"'.replace("<", "\\3c ")
    if type == "fontWeight":
        return str(FONT_WEIGHTS[value])
    return value


def compose_list(type: str, texts: Sequence[str]) -> str:
    """CSS text of a list from the text of its items."""
    if type == "cubicBezier":
        return f"cubic-bezier({', '.join(texts)})"
    return ", ".join(texts)


def compose(type: str, parts: Sequence[tuple[str, str]]) -> str:
    """CSS text of a composite from the text of its parts, in the order CSS wants them."""
    by_name = dict(parts)
    if type == "shadow":
        order = ("offsetX", "offsetY", "blur", "spread", "color")
        texts = [by_name[name] for name in order if name in by_name]
        return " ".join(["inset", *texts] if by_name.get("inset") == "true" else texts)
    if type == "border":
        return " ".join(by_name[n] for n in ("width", "style", "color") if n in by_name)
    if type == "transition":
        return " ".join(by_name[n] for n in ("duration", "timingFunction", "delay") if n in by_name)
    if type == "gradient":
        position = by_name.get("position", "")
        return (
            f"{by_name.get('color', '')} calc({position} * 100%)" if position else by_name["color"]
        )
    if type == "typography":
        size = by_name.get("fontSize", "medium")
        line = f"{size}/{by_name['lineHeight']}" if "lineHeight" in by_name else size
        texts = [by_name.get("fontWeight", ""), line, by_name.get("fontFamily", "inherit")]
        return " ".join(text for text in texts if text)
    return " ".join(text for _, text in parts)


@dataclass(frozen=True, slots=True)
class Answer:
    """What a token is in a theme.

    ``value`` is None where the token is absent or broken. ``mapped`` tells that the color had
    to be brought into the document's gamut. ``broken`` is a sentence, empty where all is well;
    ``passed_on`` tells that what is broken is something the token refers to.
    """

    type: str
    value: Resolved | None = None
    mapped: bool = False
    broken: str = ""
    passed_on: bool = False

    @property
    def absent(self) -> bool:
        """Whether the token has no value here, without being broken."""
        return self.value is None and not self.broken

    @property
    def color(self) -> space.Color | None:
        """The resolved color, or None for any other type."""
        return self.value if isinstance(self.value, space.Color) else None

    @property
    def hex(self) -> str:
        """``#rrggbb`` or ``#rrggbbaa`` for a color, empty otherwise."""
        return space.hex_text(self.value) if isinstance(self.value, space.Color) else ""

    @property
    def css(self) -> str:
        """The value as CSS text; empty where there is none."""
        return "" if self.value is None else css_value(self.value, self.type)
