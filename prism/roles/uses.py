"""What a color is used for, as style sheets show it: a part of an element, in a state.

A use is kept with a token as words, ``background of a button on hover``, that a person can read and change; what
people type themselves, such as ``headlines``, is no use of this kind and is left as it is.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

#: Parts that properties of CSS color, as uses name them.
PARTS = ("text", "background", "line", "focus", "shadow", "icon")
#: Elements as uses name them.
ELEMENTS = {
    "page": "the page",
    "link": "a link",
    "button": "a button",
    "field": "a field",
    "placeholder": "a placeholder",
    "switch": "a switch",
    "code": "code",
    "mark": "marked text",
    "small": "small print",
    "heading": "a heading",
    "rule": "a rule",
    "table": "a table",
    "meter": "a meter",
    "card": "a card",
    "quote": "a quotation",
    "tooltip": "a tooltip",
    "selection": "a selection",
    "scrollbar": "a scrollbar",
    "success": "success",
    "warning": "a warning",
    "error": "an error",
    "information": "information",
}
STATES = {
    "hover": "on hover",
    "pressed": "when pressed",
    "selected": "when selected",
    "focus": "in focus",
    "disabled": "when disabled",
}
_BY_WORDS = {words: element for element, words in ELEMENTS.items()}


@dataclass(frozen=True, slots=True)
class Use:
    """A part of an element in a state. No element is any; no state is that of rest."""

    part: str
    element: str = ""
    state: str = ""

    def __str__(self) -> str:
        of = f" of {ELEMENTS[self.element]}" if self.element else ""
        return f"{self.part}{of}{f' {STATES[self.state]}' if self.state else ''}"


@lru_cache(maxsize=4096)
def _read(text: str) -> Use | None:
    rest, state = text, ""
    for name, words in STATES.items():
        if text.endswith(f" {words}"):
            rest, state = text.removesuffix(f" {words}"), name
    part, of, element = rest.partition(" of ")
    if part not in PARTS or (of and element not in _BY_WORDS):
        return None
    return Use(part, _BY_WORDS[element] if of else "", state)


def read(texts: Iterable[str]) -> list[Use]:
    """The uses among some texts, in their order."""
    return [use for text in texts if (use := _read(text)) is not None]


def parts(texts: Iterable[str]) -> tuple[str, ...]:
    """The parts that are named without an element, in their order: what is used most comes first."""
    return tuple(use.part for use in read(texts) if not use.element and not use.state)
