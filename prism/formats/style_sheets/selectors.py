"""Which state of the page a selector asks for, and for which element.

Selectors Level 4, as far as they speak of the page's root, its body or every element. cssselect2
parses; nesting selectors are put in before.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product
from math import prod
from typing import Any

from cssselect2 import parser

from prism.formats.style_sheets.page import Test, Tests

Specificity = tuple[int, int, int]
#: How deep an element lies: the root, the body, every element. The deeper one's own value counts.
ROOT, BODY, EVERY = 0, 1, 2
_ELEMENTS = {"html": ROOT, "body": BODY}
_MOST_WAYS = 64
_PART = "speaks of a part of the page"


@dataclass(frozen=True, slots=True)
class Way:
    """One way in which a selector can hold: for an element of this depth where the tests do.

    ``loose`` tells that the selector does not say which element it speaks of.
    """

    tests: Tests
    depth: int
    specificity: Specificity = (0, 0, 0)
    loose: bool = False


class UnreadableSelectorError(Exception):
    """Why a selector is none of the page; ``silent`` where nothing is lost by skipping it beside
    another one of the same rule."""

    def __init__(self, reason: str, *, silent: bool = False) -> None:
        super().__init__(reason)
        self.reason = reason
        self.silent = silent


def read(selector: str) -> list[Way]:
    """The ways in which one selector holds. Raises ``UnreadableSelectorError``."""
    if "::" in selector:
        raise UnreadableSelectorError("speaks of a pseudo-element", silent=True)
    try:
        parsed = list(parser.parse(selector))
    except parser.SelectorError:
        raise UnreadableSelectorError("has a selector that cannot be read") from None
    if len(parsed) != 1:
        raise UnreadableSelectorError("has a selector that cannot be read")
    specificity = tuple(parsed[0].specificity)
    ways = _ways(parsed[0].parsed_tree)
    if len(ways) > _MOST_WAYS:
        raise UnreadableSelectorError("holds in too many ways")
    return [
        Way(
            tests,
            EVERY if depth is None and not tests else depth or ROOT,
            specificity,
            depth is None and bool(tests),
        )
        for tests, depth in ways
    ]


#: Tests and the depth of the element, None where the selector does not say which it is.
_Half = tuple[Tests, int | None]


def _ways(tree: Any) -> list[_Half]:
    if isinstance(tree, parser.CombinedSelector):
        if tree.combinator not in (" ", ">"):
            raise UnreadableSelectorError(_PART)
        left, right = _ways(tree.left), _ways(tree.right)
        if len(left) * len(right) > _MOST_WAYS:
            raise UnreadableSelectorError("holds in too many ways")
        return [
            (outer | inner, _inner_depth(above, below, inner))
            for (outer, above), (inner, below) in product(left, right)
        ]
    return _compound(tree)


def _inner_depth(above: int | None, below: int | None, tests: Tests) -> int | None:
    """The depth of an element inside another."""
    if below is None:
        return EVERY if not tests else above
    if below <= (ROOT if above is None else above) and below != BODY:
        raise UnreadableSelectorError(_PART)
    return below


def _compound(tree: Any) -> list[_Half]:
    ways: list[_Half] = [(frozenset(), None)]
    for simple in tree.simple_selectors:
        more = list(_simple(simple))
        joined = [
            (tests | added, _same(depth, named)) for tests, depth in ways for added, named in more
        ]
        ways = [(tests, depth) for tests, depth in joined if depth != -1]
        if len(ways) > _MOST_WAYS:
            raise UnreadableSelectorError("holds in too many ways")
    if not ways:
        raise UnreadableSelectorError("can never hold", silent=True)
    return [(tests, depth) for tests, depth in ways]


def _same(first: int | None, second: int | None) -> int | None:
    """The depth of an element that two selectors name; -1 where they name two."""
    if first is None or second is None:
        return second if first is None else first
    return first if first == second else -1


def _simple(simple: Any) -> Iterator[_Half]:
    """The ways in which one simple selector holds."""
    if isinstance(simple, parser.LocalNameSelector):
        if simple.lower_local_name not in _ELEMENTS:
            raise UnreadableSelectorError(_PART)
        yield frozenset(), _ELEMENTS[simple.lower_local_name]
    elif isinstance(simple, parser.ClassSelector):
        yield frozenset((Test("class", simple.class_name),)), None
    elif isinstance(simple, parser.AttributeSelector):
        yield frozenset((_attribute(simple),)), None
    elif isinstance(simple, parser.PseudoClassSelector):
        yield from _pseudo_class(simple.name)
    elif isinstance(simple, parser.MatchesAnySelector | parser.SpecificityAdjustmentSelector):
        for selector in simple.selector_list:
            yield from _ways(selector.parsed_tree)
    elif isinstance(simple, parser.NegationSelector):
        yield from _negation(simple)
    elif isinstance(simple, parser.RelationalSelector):
        raise UnreadableSelectorError("depends on what stands on the page")
    elif isinstance(simple, parser.FunctionalPseudoClassSelector) and simple.name == "host":
        raise UnreadableSelectorError("speaks of shadow roots", silent=True)
    elif isinstance(simple, parser.NamespaceSelector):
        yield frozenset(), None
    else:
        raise UnreadableSelectorError(_PART)


def _pseudo_class(name: str) -> Iterator[_Half]:
    if name == "root":
        yield frozenset(), ROOT
    elif name == "host":
        raise UnreadableSelectorError("speaks of shadow roots", silent=True)
    else:
        raise UnreadableSelectorError(_PART)


def _attribute(simple: Any) -> Test:
    operator = simple.operator or "present"
    ignore_case = simple.case_sensitive is False
    return Test("attribute", simple.lower_name, simple.value or "", operator, ignore_case)


def _negation(simple: Any) -> Iterator[_Half]:
    """None of the selectors of a list holds: for each of them, one of its tests does not."""
    denied: list[list[Test]] = []
    for selector in simple.selector_list:
        for tests, depth in _ways(selector.parsed_tree):
            if depth not in (None, ROOT):
                continue  # another element, so it does not hold anyway
            if not tests:
                raise UnreadableSelectorError("can never hold", silent=True)
            denied.append([_negated(test) for test in tests])
    if prod(map(len, denied)) > _MOST_WAYS:
        raise UnreadableSelectorError("holds in too many ways")
    for choice in product(*denied):
        yield frozenset(choice), None


def _negated(test: Test) -> Test:
    return Test(test.kind, test.name, test.value, test.operator, test.ignore_case, not test.negated)
