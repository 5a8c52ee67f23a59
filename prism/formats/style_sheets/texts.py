"""The text of a custom property as an expression: references, fallbacks, ``light-dark()``."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Protocol

import tinycss2

from prism.formats.style_sheets.declarations import Declaration
from prism.formats.style_sheets.outcome import NOT_THERE
from prism.formats.style_sheets.references import reference
from prism.formats.style_sheets.tokens import comma_parts, trim

_DEEPEST = 60
Theme = tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Text:
    """The text of a property on one page, with references; ``why`` says why there is none though
    a declaration won, ``declaration`` is that one. No text: no value, but for one that is there in
    a browser and ``unread`` here."""

    text: str | None
    declaration: Declaration | None = None
    why: str = ""
    unread: bool = False


class Known(Protocol):
    """What a text needs to know of the other properties in a theme."""

    paths: Mapping[str, str]

    def there(self, name: str, theme: Theme) -> bool: ...

    def unread(self, name: str, theme: Theme) -> bool: ...

    def is_dark(self, theme: Theme) -> bool: ...


class Writer:
    """Component values as the text of an expression: ``var(--x)`` becomes ``{x}``."""

    def __init__(self, values: Known, theme: Theme) -> None:
        self.values = values
        self.theme = theme
        self.why = ""
        self.unread = False

    def text(self, tokens: Sequence[Any], depth: int) -> str:
        if depth > _DEEPEST:
            self.why, self.unread = self.why or "has functions in too many levels", True
            return ""
        return "".join(self._one(token, depth) for token in tokens)

    def _one(self, token: Any, depth: int) -> str:
        if token.type in ("comment", "whitespace"):
            return " "
        if token.type == "function":
            if token.lower_name == "var":
                return self._variable(token, depth)
            if token.lower_name == "light-dark":
                parts = comma_parts(token.arguments)
                side = parts[1 if self.values.is_dark(self.theme) and len(parts) > 1 else 0]
                return self.text(trim(side), depth + 1)
            name = tinycss2.serializer.serialize_identifier(token.name)
            return f"{name}({self.text(token.arguments, depth + 1)})"
        if token.type in ("() block", "[] block"):
            opening, closing = token.type[0], token.type[1]
            return f"{opening}{self.text(token.content, depth + 1)}{closing}"
        return str(tinycss2.serialize([token]))

    def _variable(self, token: Any, depth: int) -> str:
        name, fallback = reference(token)
        if name in self.values.paths and self.values.there(name, self.theme):
            return "{" + self.values.paths[name] + "}"
        if self.values.unread(name, self.theme):
            self.why, self.unread = self.why or f"needs {name}, which was skipped", True
            return ""
        if fallback is not None:
            return self.text(trim(fallback), depth + 1)
        self.why = self.why or f"needs {name}{NOT_THERE}"
        return ""
