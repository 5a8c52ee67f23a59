"""What a style sheet came to: its tokens, and what was skipped."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import tinycss2

from prism.formats import css_selectors
from prism.formats.css_tokens import (
    font_families,
)
from prism.model.document import Document
from prism.model.values import BASE, Condition, Expression, Listing, Value

Picks = css_selectors.Picks


@dataclass(frozen=True, slots=True)
class SkippedDeclaration:
    """A declaration that did not become a token's value, and why."""

    name: str
    selector: str
    reason: str


@dataclass(frozen=True, slots=True)
class StyleSheet:
    """The document a style sheet came to, and what was skipped."""

    document: Document
    skipped: tuple[SkippedDeclaration, ...]


@dataclass(slots=True)
class Property:
    name: str
    values: dict[Picks, list[Any]] = field(default_factory=dict)
    selectors: dict[Picks, str] = field(default_factory=dict)
    type: str = ""


def folded(values: dict[Condition, Value]) -> dict[Condition, Value]:
    """Values without the conditions on one axis that repeat the base, where none is between."""
    base = values.get(BASE)
    axes = {axis for condition in values for axis, _ in condition.picks}
    if base is None or len(axes) != 1:
        return values
    return {c: value for c, value in values.items() if c == BASE or value != base}


def value_of(text: str, type: str) -> Value:
    if type == "fontFamily" and not text.startswith("{"):
        return Listing(tuple(Expression(name) for name in font_families(text) or ()))
    if type == "string" and not text.startswith("{"):
        token = tinycss2.parse_one_component_value(text)
        return Expression(str(token.value))
    return Expression(text)
