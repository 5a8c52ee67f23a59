"""The tree of an expression: what its text means."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.color import space


@dataclass(frozen=True, slots=True)
class Reference:
    """``{path}``."""

    path: str


@dataclass(frozen=True, slots=True)
class Number:
    """A number with a unit: empty, ``%``, or a CSS unit in lower case."""

    value: float
    unit: str = ""


@dataclass(frozen=True, slots=True)
class Channel:
    """A channel keyword inside a relative color."""

    name: str


@dataclass(frozen=True, slots=True)
class Nothing:
    """``none``."""


@dataclass(frozen=True, slots=True)
class Sum:
    """Terms with their signs."""

    terms: tuple[tuple[int, Math], ...]


@dataclass(frozen=True, slots=True)
class Product:
    """Factors; True marks a divisor."""

    factors: tuple[tuple[bool, Math], ...]


@dataclass(frozen=True, slots=True)
class MathCall:
    """A math function of CSS; ``strategy`` is that of ``round()``."""

    name: str
    arguments: tuple[Math, ...]
    strategy: str = ""


@dataclass(frozen=True, slots=True)
class ColorLiteral:
    """A color without references, as the author wrote it."""

    color: space.Color


@dataclass(frozen=True, slots=True)
class ColorCall:
    """A color function; relative where it has an origin.

    ``function`` is the CSS name, ``space`` the name in ``color()``; ``legacy`` tells that its
    channels are separated by commas.
    """

    function: str
    space: str
    channels: tuple[Math, ...]
    alpha: Math | None
    origin: ColorNode | None = None
    legacy: bool = False


@dataclass(frozen=True, slots=True)
class PageColor:
    """``currentcolor`` or a system color, which only a page can tell; the name as it is written."""

    name: str


@dataclass(frozen=True, slots=True)
class ContrastColor:
    """``contrast-color()``: black or white, whichever stands out more on a color."""

    color: ColorNode


@dataclass(frozen=True, slots=True)
class Mix:
    """``color-mix()``; shares are math of percentages, or None."""

    space: str
    hue: str
    colors: tuple[tuple[ColorNode, Math | None], ...]


@dataclass(frozen=True, slots=True)
class Template:
    """A text with references in it that has a meaning only once they are put in."""

    text: str
    paths: tuple[str, ...]


Math = Reference | Number | Channel | Nothing | Sum | Product | MathCall
ColorNode = Reference | ColorLiteral | ColorCall | PageColor | ContrastColor | Mix
Node = Math | ColorNode | Template


def references_in(node: Node) -> Iterator[str]:
    """Every path a tree refers to, in order, with repeats."""
    if isinstance(node, Reference):
        yield node.path
    elif isinstance(node, Template):
        yield from node.paths
    elif isinstance(node, Sum):
        for _, term in node.terms:
            yield from references_in(term)
    elif isinstance(node, Product):
        for _, factor in node.factors:
            yield from references_in(factor)
    elif isinstance(node, MathCall):
        for argument in node.arguments:
            yield from references_in(argument)
    elif isinstance(node, ColorCall):
        if node.origin is not None:
            yield from references_in(node.origin)
        for channel in (*node.channels, *([node.alpha] if node.alpha is not None else ())):
            yield from references_in(channel)
    elif isinstance(node, ContrastColor):
        yield from references_in(node.color)
    elif isinstance(node, Mix):
        for color, share in node.colors:
            yield from references_in(color)
            if share is not None:
                yield from references_in(share)
