"""What a text means once it is read."""

from __future__ import annotations

from dataclasses import dataclass

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import Calculation, OnPage, Quantity
from prism.expressions.tree import Node

#: A literal of any type.
Plain = space.Color | OnPage | Quantity | Calculation | float | str | bool


@dataclass(frozen=True, slots=True)
class Parsed:
    """What a text means.

    ``reference`` is the path where the whole text is one; ``literal`` a value without
    references; ``tree`` what has to be computed; ``references`` every path in it, in order;
    ``problem`` what keeps it from being read before the pieces it refers to are put in.
    """

    reference: str = ""
    literal: Plain | None = None
    tree: Node | None = None
    references: tuple[str, ...] = ()
    problem: ExpressionError | None = None
