"""What may hold of a page: attributes and classes on its root, and media features."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Literal

from prism.formats.css import FEATURES

Kind = Literal["attribute", "class", "media", "scheme", "mapped"]
#: What carries a fact: an attribute by its name, a class by its own, a media feature.
Carrier = tuple[Kind, str]


@dataclass(frozen=True, slots=True)
class Test:
    """One condition on the page, as a selector or a media query states it.

    ``operator`` is that of an attribute selector, ``present`` where only its presence counts.
    """

    kind: Kind
    name: str
    value: str = ""
    operator: str = "="
    ignore_case: bool = False
    negated: bool = False

    @property
    def carrier(self) -> Carrier:
        """What the test looks at."""
        return (self.kind, self.name)

    def holds(self, page: Page) -> bool:
        """Whether the test holds of a page."""
        fact = page.facts.get(self.carrier, _UNASKED.get(self.carrier))
        return self._met(fact) != self.negated

    def _met(self, fact: str | None) -> bool:
        if fact is None:
            return False
        if self.operator == "present":
            return True
        fact, value = (fact.lower(), self.value.lower()) if self.ignore_case else (fact, self.value)
        if self.operator == "=":
            return fact == value
        if self.operator == "~=":
            return value in fact.split()
        if self.operator == "|=":
            return fact == value or fact.startswith(f"{value}-")
        if not value:
            return False
        if self.operator == "^=":
            return fact.startswith(value)
        return fact.endswith(value) if self.operator == "$=" else value in fact


#: What media features are where nobody asks for anything else.
_UNASKED: Mapping[Carrier, str] = {
    ("media", feature): values[0] for feature, values in FEATURES.items()
}
#: Tests that must all hold.
Tests = frozenset[Test]


@dataclass(frozen=True)
class Page:
    """A state of the page: the value that each carrier has. Attributes and classes that are not there
    have none, media features what a plain screen has."""

    facts: Mapping[Carrier, str] = field(default_factory=dict)

    def with_facts(self, facts: Mapping[Carrier, str]) -> Page:
        """This page with some facts beside or in place of its own."""
        return Page({**self.facts, **facts})


def possible(tests: Tests) -> bool:
    """Whether no two tests contradict each other."""
    wanted: dict[Carrier, Test] = {}
    for test in tests:
        if test.negated:
            if replace(test, negated=False) in tests:
                return False
        elif test.operator == "=":
            known = wanted.setdefault(test.carrier, test)
            if known.value != test.value:
                return False
    return True
