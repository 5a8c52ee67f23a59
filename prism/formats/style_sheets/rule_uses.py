"""What the rules of a style sheet color with its custom properties: which part of which element, in which state.

Elements are told by their tags, attributes and pseudo-elements (HTML, Selectors 4), and by what the words of classes
mean. A property that a component sets from another one hands its uses on: ``.button { --ground: var(--accent) }``.
Names of properties: CSS Color 4, CSS Backgrounds 3, CSS UI 4, SVG 2.
"""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from prism.formats.style_sheets.references import variables
from prism.roles.lexicon import meanings_of, words_of
from prism.roles.uses import PARTS, Use

#: The part that a property colors; borders and backgrounds have many properties.
_PARTS: Mapping[str, str] = {
    "color": "text",
    "-webkit-text-fill-color": "text",
    "caret-color": "text",
    "fill": "icon",
    "stroke": "icon",
    "outline": "focus",
    "outline-color": "focus",
    "box-shadow": "shadow",
    "text-shadow": "shadow",
    "column-rule": "line",
    "font-family": "font",
}
_BEGINNINGS = (("background", "background"), ("border", "line"))
#: Uses of a property that are kept, the most frequent ones; and the properties that it is followed through at most.
MOST, _MOST_FOLLOWED = 8, 200
_LONGEST = 400
_MOST_STEPS = 5
_MOST_SELECTORS = 40
_ROOTS = frozenset((":root", "html", "body"))
_TAGS: Mapping[str, str] = {
    "a": "link",
    "button": "button",
    "input": "field",
    "select": "field",
    "textarea": "field",
    "code": "code",
    "pre": "code",
    "kbd": "code",
    "samp": "code",
    "mark": "mark",
    "small": "small",
    "figcaption": "small",
    "caption": "small",
    "hr": "rule",
    "th": "table",
    "td": "table",
    "tr": "table",
    "thead": "table",
    "table": "table",
    "progress": "meter",
    "meter": "meter",
    "dialog": "card",
    "article": "card",
    "aside": "card",
    "blockquote": "quote",
    "body": "page",
    "html": "page",
    "h1": "heading",
    "h2": "heading",
    "h3": "heading",
    "h4": "heading",
    "h5": "heading",
    "h6": "heading",
}
#: Elements that meanings of the words of a class name, the first that fits.
_CLASSES: Mapping[str, str] = {
    "success": "success",
    "warning": "warning",
    "error": "error",
    "information": "information",
    "action": "button",
    "field": "field",
    "link": "link",
    "tooltip": "tooltip",
    "card": "card",
    "floating": "card",
    "modal": "card",
}
_STATES = (
    ("disabled", re.compile(r":disabled|\[disabled|aria-disabled|\.(?:is-)?disabled\b")),
    ("pressed", re.compile(r":active\b")),
    ("hover", re.compile(r":hover\b")),
    ("focus", re.compile(r":focus\b|:focus-visible\b|:focus-within\b|\.(?:is-)?focus")),
    ("selected", re.compile(r":checked\b|aria-(?:selected|current|pressed)|\.(?:is-)?(?:active|selected|current)\b")),
)  # fmt: skip
_BUTTON_TYPES = re.compile(r"\[type=['\"]?(?:submit|button|reset)")
_OTHER_INPUTS = re.compile(r"\[type=['\"]?(?:checkbox|radio|range|color|file|image)")
_NOT = re.compile(r":not\((?:[^()]|\([^()]*\))*\)")
_WRAP = re.compile(r":(?:is|where|matches|-webkit-any)\(")
_COMBINATOR = re.compile(r"[\s>+~]+(?![^()\[\]]*[)\]])")
_TAG = re.compile(r"^[a-z][a-z0-9]*")
_CLASS = re.compile(r"\.([\w-]+)")


@dataclass(frozen=True, slots=True)
class Subject:
    """An element that a selector names, and the state that it asks for; empty where it says neither."""

    element: str = ""
    state: str = ""


def subject(selector: str) -> Subject:
    """What the last compound of a selector names."""
    if len(selector) > _LONGEST:
        return Subject()
    plain = _NOT.sub("", selector.strip())
    state = next((state for state, found in _STATES if found.search(plain)), "")
    if _WRAP.sub("", plain).strip("() ") in _ROOTS:
        return Subject("page", state)
    last = _COMBINATOR.split(plain.strip())[-1]
    last = _WRAP.sub("", last).split(",")[0].strip("() ")
    return Subject(_element(last.lower()), state)


def _element(compound: str) -> str:
    if "::placeholder" in compound or "input-placeholder" in compound:
        return "placeholder"
    if "::selection" in compound or "::-moz-selection" in compound:
        return "selection"
    if "scrollbar" in compound:
        return "scrollbar"
    if _BUTTON_TYPES.search(compound):
        return "button"
    if _OTHER_INPUTS.search(compound):
        return "switch"
    meant = {
        m for name in _CLASS.findall(compound) for word in words_of(name) for m in meanings_of(word)
    }
    for meaning, element in _CLASSES.items():
        if meaning in meant:
            return element
    tag = _TAG.match(compound)
    return _TAGS.get(tag[0], "") if tag else ""


class RuleUses:
    """What is colored with what in the rules of style sheets, counted."""

    def __init__(self) -> None:
        self._parts: dict[str, Counter[str]] = {}
        self._counted: dict[str, Counter[Use]] = {}
        #: Which properties rules set from a property, each with the elements of the rules.
        self._handed: dict[str, dict[tuple[str, Subject], None]] = {}

    def rule(self, selectors: Sequence[str], body: Iterable[Any], *, holds: bool) -> None:
        """Take in a rule with its parsed declarations. Where it does not hold on a page as it is, as in print, the parts
        count and the elements do not."""
        subjects = list(dict.fromkeys(map(subject, selectors[:_MOST_SELECTORS]))) if holds else []
        for node in body:
            if node.type != "declaration":
                continue
            if node.name.startswith("--"):
                for source in variables(node.value):
                    handed = self._handed.setdefault(source, {})
                    handed.update(dict.fromkeys((node.name, one) for one in subjects))
                continue
            part = _part(node.lower_name)
            for name in variables(node.value) if part else ():
                self._parts.setdefault(name, Counter())[part] += 1
                counted = self._counted.setdefault(name, Counter())
                for one in subjects if part in PARTS else ():
                    counted[Use(part, one.element, one.state)] += 1

    def parts(self, name: str) -> tuple[str, ...]:
        """The parts that a property colors somewhere, or ``font``, what it does most first."""
        return tuple(part for part, _ in self._parts.get(name, Counter()).most_common())

    def of(self, name: str, there: Container[str]) -> tuple[str, ...]:
        """The uses of a property in words: its parts, then those of elements, those of the page and the most frequent
        first.

        ``there`` are properties that are tokens themselves: what they are set from in a mode of the page is no more
        than a value of theirs.
        """
        found: Counter[Use] = Counter()
        seen = {name}
        work: list[tuple[str, Subject, int]] = [(name, Subject(), 0)]
        while work and len(seen) <= _MOST_FOLLOWED:
            current, within, depth = work.pop()
            for use, count in self._counted.get(current, Counter()).items():
                if within.element in ("", use.element) or not use.element:
                    element, state = within.element or use.element, within.state or use.state
                    found[Use(use.part, element, state)] += count
            for target, where in self._handed.get(current, {}) if depth < _MOST_STEPS else ():
                if target in seen or where.element == "page":
                    continue
                if target in there and not where.element:
                    continue
                seen.add(target)
                inner = Subject(where.element or within.element, where.state)
                work.append((target, inner, depth + 1))
        page_first = sorted(found.items(), key=lambda item: (item[0].element != "page", -item[1]))
        uses = (str(use) for use, _ in page_first[:MOST])
        return tuple(dict.fromkeys((*self.parts(name), *uses)))


def _part(name: str) -> str:
    """The part that a property of CSS colors, or ``font``; empty for others."""
    known = _PARTS.get(name, "")
    return known or next((part for start, part in _BEGINNINGS if name.startswith(start)), "")
