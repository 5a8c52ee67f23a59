"""Values of the Design Tokens Format Module, to and from the core's values.

What is said here of the module (2025.10) is from memory.
"""

from __future__ import annotations

import re
from typing import Any
from urllib.parse import unquote

from prism.errors import ExpressionError, FormatError
from prism.expressions.syntax import reference_of
from prism.expressions.types import TOKEN_TYPES
from prism.expressions.values import ITEMS, MAX_ITEMS, check, parse, part_type, too_many
from prism.model.values import Absent, Composite, Expression, Listing, Value

_POINTER = re.compile(r"#/(.+)\Z", re.DOTALL)


def read(raw: Any, type: str, place: str) -> Value:
    """The value that ``$value`` states. Raises ``FormatError`` at ``place``."""
    try:
        value = _read(raw, type)
        check(value, type)
    except FormatError as error:
        raise error.at(place) from None
    except ExpressionError as error:
        raise FormatError(error.sentence, fix=error.fix, place=error.at(place).place) from None
    return value


def pointer_path(raw: Any) -> str:
    """The token path where ``raw`` is a ``$ref`` to a whole value; empty for anything else."""
    if not (isinstance(raw, dict) and set(raw) == {"$ref"} and isinstance(raw["$ref"], str)):
        return ""
    match = _POINTER.match(raw["$ref"])
    if match is None:
        raise FormatError(
            f"“{raw['$ref'][:80]}” points outside the imported documents.",
            fix="Only pointers that begin with #/ are followed.",
        )
    segments = [unquote(part).replace("~1", "/").replace("~0", "~") for part in match[1].split("/")]
    if segments[-1] == "$value":
        segments.pop()
    elif "$value" in segments:
        raise FormatError(
            f"“{raw['$ref'][:80]}” points into a value.",
            fix="Point to a whole token, up to its $value.",
        )
    return ".".join(segments)


def _read(raw: Any, type: str) -> Value:
    path = pointer_path(raw)
    if path:
        return Expression("{" + path + "}")
    if isinstance(raw, str) and reference_of(raw):
        return Expression(raw.strip())
    token_type = TOKEN_TYPES[type]
    text = token_type.json_text(raw) if token_type.json_text else None
    if text is not None:
        return Expression(text)
    if isinstance(raw, list):
        if type == "dimension" or not token_type.items:
            raise FormatError(f"A {type} is not a list.")
        if len(raw) > MAX_ITEMS:
            raise too_many(len(raw))
        return Listing(tuple(_read(item, token_type.items) for item in raw))
    if isinstance(raw, dict) and token_type.parts:
        return Composite(tuple((name, _part(part, type, name)) for name, part in raw.items()))
    if isinstance(raw, str):
        return (type == "fontFamily" and token_type.read_line(raw)) or Expression(raw)
    if isinstance(raw, int | float) and not isinstance(raw, bool):
        raise FormatError(f"The number {raw} is not a {type}.")
    raise FormatError(f"The value does not fit the type {type}.")


def _part(raw: Any, type: str, name: str) -> Value:
    if name == "dashArray" and isinstance(raw, list):
        return Listing(tuple(_read(item, "dimension") for item in raw))
    try:
        return _read(raw, part_type(type, name))
    except FormatError as error:
        raise error.at(name) from None


def write(value: Value, type: str) -> Any:
    """The plainest ``$value`` of the module for a value."""
    if isinstance(value, Listing):
        return [write(item, ITEMS[type]) for item in value.items]
    if isinstance(value, Absent):
        raise FormatError("No value cannot be stated.")
    if isinstance(value, Composite):
        return {name: _write_part(part, type, name) for name, part in value.parts}
    parsed = parse(value.text, type)
    if parsed.reference:
        return "{" + parsed.reference + "}"
    member = None if parsed.literal is None else TOKEN_TYPES[type].json(parsed.literal)
    return value.text.strip() if member is None else member


def _write_part(part: Value, type: str, name: str) -> Any:
    if name == "dashArray" and isinstance(part, Listing):
        return [write(item, "dimension") for item in part.items]
    return write(part, part_type(type, name))
