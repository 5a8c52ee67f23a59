"""Resolved values: what remains when no reference is left, and its CSS text."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.color import space
from prism.expressions.evaluation import OnPage
from prism.expressions.parsed import Plain
from prism.expressions.types import TOKEN_TYPES
from prism.expressions.values import ITEMS, part_type


@dataclass(frozen=True, slots=True)
class Parts:
    """A resolved composite: ordered named parts."""

    parts: tuple[tuple[str, Resolved], ...]


@dataclass(frozen=True, slots=True)
class Items:
    """A resolved list; ``count`` is that of all parts in it, however deep."""

    items: tuple[Resolved, ...]
    count: int = 1


Resolved = Plain | Parts | Items


def css_value(value: Resolved, type: str) -> str:
    """A resolved value as CSS text."""
    if isinstance(value, Items):
        return compose_list(type, [css_value(item, ITEMS[type]) for item in value.items])
    if isinstance(value, Parts):
        texts = [(name, css_value(part, part_type(type, name))) for name, part in value.parts]
        return compose(type, texts)
    return TOKEN_TYPES[type].css(value)


def compose_list(type: str, texts: Sequence[str]) -> str:
    """CSS text of a list from the text of its items."""
    return TOKEN_TYPES[type].css_list(texts)


def compose(type: str, parts: Sequence[tuple[str, str]]) -> str:
    """CSS text of a composite from the text of its parts, in the order CSS wants them."""
    write = TOKEN_TYPES[type].css_parts
    return write(dict(parts)) if write else " ".join(text for _, text in parts)


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
    def on_page(self) -> bool:
        """Whether the color depends on the page it is used on, such as ``currentcolor``."""
        return isinstance(self.value, OnPage)

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
