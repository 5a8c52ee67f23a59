"""What the product knows of a type of token: one instance a type, one file each."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal

from prism.color import space
from prism.expressions.evaluation import Calculation, OnPage, Quantity
from prism.expressions.parsed import Parsed, Plain
from prism.model.values import Listing, Value


def css_literal(value: Plain) -> str:
    """A literal as CSS text; a text as it stands."""
    if isinstance(value, space.Color):
        return space.css_text(value)
    if isinstance(value, Quantity):
        return f"{space.number_text(value.number)}{value.unit}"
    if isinstance(value, Calculation | OnPage):
        return value.text
    if isinstance(value, bool):
        return "true" if value else "false"
    return space.number_text(value) if isinstance(value, float) else value


def plain_number(number: float) -> int | float:
    """A number as JSON has it: whole numbers without a point."""
    return int(number) if number == int(number) else number


def json_literal(literal: Plain) -> Any:
    """A literal as a member of a Design Tokens file; None where only its text will do."""
    if isinstance(literal, Quantity | Calculation | OnPage | space.Color):
        return None
    if isinstance(literal, float):
        return plain_number(literal)
    return literal


def joined(texts: Sequence[str]) -> str:
    """A list in CSS: items separated by commas."""
    return ", ".join(texts)


def spaced(*names: str) -> Callable[[Mapping[str, str]], str]:
    """How to write parts in CSS: those that are there, in this order, separated by blanks."""

    def write(parts: Mapping[str, str]) -> str:
        return " ".join(parts[name] for name in names if name in parts)

    return write


@dataclass(frozen=True, slots=True)
class TokenType:
    """A type of token.

    Reading: ``parse`` reads a text that is not one whole reference and raises
    ``ExpressionError``; None where a value is made of ``parts`` (their names and types, all
    needed but those in ``optional``) or of ``items`` alone. ``check_list`` raises
    ``ExpressionError`` where a list cannot be a value. With ``inner_references`` a text may hold
    references beside other words.

    Writing: ``css`` writes a literal, ``css_list`` the texts of items and ``css_parts`` those of
    parts; ``json_text`` is the text of a member of a Design Tokens file that is an object or a
    number, None where it is none of this type; ``json`` writes a literal as such a member, None
    for its text. ``units`` are those that the Design Tokens Format Module knows; ``standard`` says whether the Design Tokens Format Module has the type.

    Typing: ``read_line`` reads a value of many parts from one line, None where the line is none;
    ``line`` writes it so, None where it holds more than a line can say.

    Showing: ``listed`` says among what tokens of the type are listed beside the colors, ``hint`` what can be typed,
    with names and values between backticks; ``example`` is a value as it
    is typed.
    """

    name: str
    example: str = ""
    hint: str = "A token’s name, or a value as CSS writes it."
    parse: Callable[[str], Parsed] | None = None
    inner_references: bool = True
    parts: Mapping[str, str] = field(default_factory=dict)
    optional: tuple[str, ...] = ()
    items: str = ""
    check_list: Callable[[Listing], None] | None = None
    css: Callable[[Plain], str] = css_literal
    css_list: Callable[[Sequence[str]], str] = joined
    css_parts: Callable[[Mapping[str, str]], str] | None = None
    json_text: Callable[[Any], str | None] | None = None
    json: Callable[[Plain], Any] = json_literal
    units: tuple[str, ...] = ()
    standard: bool = True
    read_line: Callable[[str], Value | None] = lambda text: None
    line: Callable[[Value], str | None] = lambda value: None
    listed: Literal["", "measures", "texts"] = ""
