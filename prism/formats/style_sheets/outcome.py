"""What a style sheet came to: its tokens, and what was skipped."""

from __future__ import annotations

from dataclasses import dataclass

import tinycss2

from prism.expressions.syntax import reference_of
from prism.expressions.types import TOKEN_TYPES, font_family
from prism.model.document import Document
from prism.model.values import Expression, Value

#: Why a declaration has no value in a browser either.
CIRCULAR = "is a circular reference"
NOT_THERE = ", which is not there"


@dataclass(frozen=True, slots=True)
class SkippedDeclaration:
    """A declaration that did not become a token's value, why, and in which line it stands."""

    name: str
    selector: str
    reason: str
    line: int = 0

    @property
    def is_broken(self) -> bool:
        """Whether it refers in a circle or to what is not there, as a browser finds too."""
        return self.reason == CIRCULAR or self.reason.endswith(NOT_THERE)


@dataclass(frozen=True, slots=True)
class StyleSheet:
    """The document a style sheet came to, and what was skipped."""

    document: Document
    skipped: tuple[SkippedDeclaration, ...]


def value_of(text: str, type: str) -> Value:
    """The value that the text of a property of a type means."""
    if type == "fontFamily" and not text.startswith("{"):
        return font_family.read_css(text)
    if type == "string" and not text.startswith("{"):
        token = tinycss2.parse_one_component_value(text)
        return Expression(str(token.value))
    known = TOKEN_TYPES[type]
    if (known.parts or known.items) and not reference_of(text):
        return known.read_line(text) or Expression(text)
    return Expression(text)
