"""Starting points for new projects: whole schemes of our own, each with a page on how it is meant."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from prism.model.document import Document
from prism.palette.building import NewKey
from prism.starters import dense_tool, one_product, several_brands


@dataclass(frozen=True, slots=True)
class Starter:
    """A starting point: ``build(new_key)`` gives its document."""

    id: str
    name: str
    sentence: str
    build: Callable[[NewKey], Document]


STARTERS = (
    Starter(
        "one-product",
        "One product, light and dark",
        "One brand color on a tinted neutral, every role mapped for light and dark.",
        one_product.build,
    ),
    Starter(
        "several-brands",
        "Several brands",
        "Three identities over one set of meanings; what differs stands in one place.",
        several_brands.build,
    ),
    Starter(
        "dense-tool",
        "A dense tool with charts",
        "Many surfaces, small type, two densities, and eight series that can be told apart.",
        dense_tool.build,
    ),
)


def starter(id: str) -> Starter | None:
    """The starting point with this id, or None."""
    return next((starter for starter in STARTERS if starter.id == id), None)
