"""The declarations of a style sheet, and which of them wins on a page (CSS Cascade 5)."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from functools import cached_property
from math import inf
from typing import Any

import tinycss2

from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.formats.style_sheets.page import Page, Test
from prism.formats.style_sheets.positions import Span
from prism.formats.style_sheets.rule_uses import RuleUses
from prism.formats.style_sheets.selectors import EVERY, ROOT, Way
from prism.formats.style_sheets.together import Together

#: Keywords that ask for the value of the element around (CSS Cascade 5, section 7.3): custom
#: properties are inherited.
INHERITING = frozenset(("inherit", "unset", "revert"))
#: The property that says which color schemes a page has.
SCHEME = "color-scheme"

LayerKey = tuple[float, ...]
#: All ways in which the declarations of a rule hold; they share them.
Ways = tuple[Way, ...]
#: The strongest of some ways that holds on one page, by the identity of the ways.
Held = dict[int, Any]


@dataclass(frozen=True, slots=True)
class Spans:
    """Where a declaration stands in the text of a file, with LF as line ends: it, its value, and its rule."""

    file: str
    declaration: Span
    value: Span
    rule: Span


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
    spans: Spans

    @property
    def text(self) -> str:
        """The value as text."""
        return str(tinycss2.serialize(self.tokens))

    @property
    def keyword(self) -> str:
        """The keyword of CSS that is the whole value; empty where it is none."""
        if len(self.tokens) != 1 or self.tokens[0].type != "ident":
            return ""
        word: str = self.tokens[0].lower_value
        return word if word in INHERITING or word in ("initial", "revert-layer") else ""

    def strength(
        self, page: Page, held: Held | None = None, elements: tuple[int, ...] = ()
    ) -> tuple[Any, ...] | None:
        """How strong the declaration is on a page; None where it does not hold. ``held`` keeps
        what was found of the page for the other declarations of a rule. With ``elements`` only the
        ways that speak of these count, alike."""
        if held is None:
            held = {}
        if id(self.ways) not in held:
            held[id(self.ways)] = max(
                (
                    (0 if elements else way.depth, way.specificity)
                    for way in self.ways
                    if (not elements or way.depth in elements)
                    and all(test.holds(page) for test in way.tests)
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
    """All declarations by property, in order, what was skipped, what properties color, and what is put on what."""

    declarations: dict[str, list[Declaration]] = field(default_factory=dict)
    initial: dict[str, tuple[Any, ...]] = field(default_factory=dict)
    skipped: list[SkippedDeclaration] = field(default_factory=list)
    rule_uses: RuleUses = field(default_factory=RuleUses)
    together: Together = field(default_factory=Together)

    @cached_property
    def several_elements(self) -> bool:
        """Whether properties stand on the root and on elements inside it."""
        return len({self.deepest(name) for name in self.declarations if name != SCHEME}) > 1

    def deepest(self, name: str) -> int:
        """The innermost element on which a property is set."""
        ways = (way.depth for d in self.declarations.get(name, ()) for way in d.ways)
        return max(ways, default=ROOT)

    def winner(self, name: str, page: Page, held: Held | None = None) -> Declaration | None:
        """The declaration whose value a property has on a page; None where it has none.

        It is looked for from the innermost element outwards, by way of the keywords that ask for the
        value of the element around (``inherit``, ``unset``, ``revert``) or of a lower layer.
        """
        best: tuple[tuple[Any, ...], Declaration] | None = None
        for declaration in self.declarations.get(name, ()):
            strength = declaration.strength(page, held)
            if strength is not None and (best is None or strength > best[0]):
                best = (strength, declaration)
        if best is None or best[1].keyword in ("", "initial"):
            return best[1] if best else None
        for element in range(best[0][0], ROOT - 1, -1):
            cascaded = self._cascaded(name, page, element)
            if cascaded is not None and cascaded.keyword not in INHERITING:
                return cascaded
        return None

    def _cascaded(self, name: str, page: Page, element: int) -> Declaration | None:
        """The declaration that wins on one element, with layers rolled back where they say so."""
        standing = []
        for declaration in self.declarations[name]:
            strength = declaration.strength(page, None, (element, EVERY))
            if strength is not None:
                standing.append((strength, declaration))
        below: LayerKey = (inf, inf)
        for _, declaration in sorted(standing, key=lambda pair: pair[0], reverse=True):
            if declaration.layer >= below:
                continue
            if declaration.keyword != "revert-layer":
                return declaration
            below = declaration.layer  # also what stands between its important and its plain place
        return None

    def tests(self, name: str) -> Iterator[Test]:
        """Every test that a property's declarations make, always in the same order."""
        for declaration in self.declarations.get(name, ()):
            for way in declaration.ways:
                if len(way.tests) > 1:
                    yield from sorted(way.tests, key=lambda test: (test.carrier, test.value))
                else:
                    yield from way.tests
