"""The declarations of a style sheet, and which of them wins on a page (CSS Cascade 5)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

import tinycss2

from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.formats.style_sheets.page import Page, Test
from prism.formats.style_sheets.selectors import Way

#: The property that says which color schemes a page has.
SCHEME = "color-scheme"

LayerKey = tuple[float, ...]
#: All ways in which the declarations of a rule hold; they share them.
Ways = tuple[Way, ...]
#: The strongest of some ways that holds on one page, by the identity of the ways.
Held = dict[int, Any]


@dataclass(frozen=True, slots=True)
class Declaration:
    """A declaration of a property: where it stands, when it holds and how strong it is."""

    name: str
    tokens: tuple[Any, ...]
    line: int
    selector: str
    ways: Ways
    important: bool
    layer: LayerKey
    order: int

    @property
    def text(self) -> str:
        """The value as text."""
        return str(tinycss2.serialize(self.tokens))

    def strength(self, page: Page, held: Held | None = None) -> tuple[Any, ...] | None:
        """How strong the declaration is on a page; None where it does not hold. ``held`` keeps
        what was found of the page for the other declarations of a rule."""
        if held is None:
            held = {}
        if id(self.ways) not in held:
            held[id(self.ways)] = max(
                (
                    (way.depth, way.specificity)
                    for way in self.ways
                    if all(test.holds(page) for test in way.tests)
                ),
                default=None,
            )
        best = held[id(self.ways)]
        if best is None:
            return None
        depth, specificity = best
        layer = tuple(-rank for rank in self.layer) if self.important else self.layer
        return depth, self.important, layer, specificity, self.order


@dataclass
class Sheet:
    """All declarations by property, in order, and what was skipped."""

    declarations: dict[str, list[Declaration]] = field(default_factory=dict)
    initial: dict[str, tuple[Any, ...]] = field(default_factory=dict)
    skipped: list[SkippedDeclaration] = field(default_factory=list)

    def winner(self, name: str, page: Page, held: Held | None = None) -> Declaration | None:
        """The declaration that wins on a page; None where none holds."""
        best: tuple[tuple[Any, ...], Declaration] | None = None
        for declaration in self.declarations.get(name, ()):
            strength = declaration.strength(page, held)
            if strength is not None and (best is None or strength > best[0]):
                best = (strength, declaration)
        return best[1] if best else None

    def next_below(self, winner: Declaration, page: Page) -> Declaration | None:
        """The declaration that wins where the layer of ``winner`` is left out, as
        ``revert-layer`` asks for."""
        rest = [d for d in self.declarations[winner.name] if d.layer != winner.layer]
        return Sheet({winner.name: rest}).winner(winner.name, page)

    def tests(self, name: str) -> Iterator[Test]:
        """Every test that a property's declarations make, always in the same order."""
        for declaration in self.declarations.get(name, ()):
            for way in declaration.ways:
                if len(way.tests) > 1:
                    yield from sorted(way.tests, key=lambda test: (test.carrier, test.value))
                else:
                    yield from way.tests
