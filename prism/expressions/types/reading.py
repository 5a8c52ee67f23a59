"""Reading texts: what several types share."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from prism.color import space
from prism.errors import ExpressionError, FormatError
from prism.expressions import evaluation, syntax
from prism.expressions.evaluation import DependsOnPageError, OnPage, Quantity
from prism.expressions.parsed import Parsed, Plain
from prism.expressions.tree import (
    ColorCall,
    ColorLiteral,
    ContrastColor,
    Mix,
    Node,
    PageColor,
    Template,
    references_in,
)

_LARGEST = 1e12


def nothing(path: str, types: tuple[str, ...]) -> object:
    """The lookup of a text that may hold no reference."""
    raise ExpressionError(f"{{{path}}} cannot stand here.")


def evaluate(tree: Node, type: str, look: evaluation.Lookup) -> Plain:
    """The value of a tree, with references looked up.

    A color that only a page can tell comes out as ``OnPage``, with the references put in.
    """
    assert not isinstance(tree, Template), "pieces are put in before"
    if isinstance(tree, ColorLiteral | ColorCall | Mix | PageColor | ContrastColor):
        try:
            return evaluation.evaluate_color(tree, look)
        except DependsOnPageError:
            return OnPage(evaluation.css(tree, lambda path: _shown(look(path, ("color",)))))
    return evaluation.evaluate_numeric(tree, type, look)


def _shown(value: object) -> str:
    if isinstance(value, OnPage):
        return value.text
    assert isinstance(value, space.Color)
    return space.css_text(value)


def computed(tree: Node, type: str) -> Parsed:
    """A tree, or what it comes to where it refers to nothing."""
    paths = tuple(references_in(tree))
    if paths:
        return Parsed(tree=tree, references=paths)
    return Parsed(literal=evaluate(tree, type, nothing), tree=tree)


def numeric(type: str) -> Callable[[str], Parsed]:
    """Reads numbers with the units of ``type``, and what can be computed with them."""

    def parse(text: str) -> Parsed:
        return computed(syntax.parse_math(text.strip()), type)

    return parse


def is_number(value: Any) -> bool:
    """Whether a member is a number of a size that values have."""
    return isinstance(value, int | float) and not isinstance(value, bool) and abs(value) < _LARGEST


def number_text(raw: Any) -> str | None:
    """The text of a member that is a number; None for anything else."""
    return repr(raw) if isinstance(raw, int | float) and not isinstance(raw, bool) else None


def quantity_text(type: str, units: tuple[str, str]) -> Callable[[Any], str | None]:
    """Reads ``{"value": number, "unit": unit}`` with the units that the standard knows."""

    def read(raw: Any) -> str | None:
        if isinstance(raw, int | float) and not isinstance(raw, bool) and raw == 0:
            return repr(raw)
        if not isinstance(raw, dict):
            return None
        if not (set(raw) >= {"value", "unit"} and is_number(raw["value"])):
            raise FormatError(f"A {type} has a value and a unit.")
        if raw["unit"] not in units:
            raise FormatError(
                f"“{str(raw['unit'])[:20]}” is not a unit of a {type}.",
                fix=f"The standard knows {' and '.join(units)}.",
            )
        return f"{raw['value']!r}{raw['unit']}"

    return read


def quantity_json(units: tuple[str, str]) -> Callable[[Plain], Any]:
    """Writes ``{"value": number, "unit": unit}`` where the standard knows the unit."""

    def write(literal: Plain) -> Any:
        if isinstance(literal, Quantity) and literal.unit in units:
            number = literal.number
            return {"value": int(number) if number == int(number) else number, "unit": literal.unit}
        return None

    return write
