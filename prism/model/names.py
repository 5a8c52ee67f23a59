"""Names in CSS: custom properties, attributes and modes, and what is done on a clash."""

from __future__ import annotations

import re
from dataclasses import replace
from functools import lru_cache

from prism.model.document import Document, Token, shown_path
from prism.model.values import Condition

_OTHER = re.compile(r"[^a-z0-9_]+")
_VALID = re.compile(r"[^\s\x00-\x1f\x7f<\ud800-\udfff]{1,200}\Z")


def segment(text: str) -> str:
    """One name segment in CSS: lower case, other characters to ``-``, never only dashes."""
    name = _OTHER.sub("-", text.lower())
    return name if name.strip("-") else "u" + "-".join(f"{ord(character):x}" for character in text)


@lru_cache(maxsize=65536)
def derived_name(path: str) -> str:
    """The custom property name of a path, without its two dashes."""
    return "-".join(segment(part) for part in shown_path(path).split("."))


def is_css_name(name: str) -> bool:
    """Whether a custom property can be called like this, after its two dashes; what CSS does not
    allow as it stands is escaped where it is written."""
    return _VALID.match(name) is not None


def own_name(token: Token) -> str:
    """The name given for CSS, or the one derived from the path."""
    given = dict(token.export_names).get("css", "")
    name = given if _VALID.match(given) else derived_name(token.path)
    return f"_{name}" if token.private else name


def css_names(document: Document) -> dict[str, str]:
    """Custom property name, without dashes, by token key.

    Names that were given stand; of derived names that meet, the first in document order
    keeps it and the others take ``-2``, ``-3`` and so on.
    """
    names: dict[str, str] = {}
    taken: set[str] = set()
    numbers: dict[str, int] = {}
    for given in (True, False):
        for token in document.tokens:
            if bool(dict(token.export_names).get("css")) is given:
                wanted = name = own_name(token)
                while name in taken:
                    number = numbers[wanted] = numbers.get(wanted, 1) + 1
                    name = f"{wanted}-{number}"
                names[token.key] = name
                taken.add(name)
    return names


def free_name(wanted: str, taken: set[str]) -> str:
    """``wanted``, or the first of ``wanted-2``, ``wanted-3``… that is not taken."""
    name, number = wanted, 2
    while name in taken:
        name, number = f"{wanted}-{number}", number + 1
    return name


def axis_names(document: Document) -> dict[str, str]:
    """Attribute name, without ``data-``, by axis key; ``zone`` is never one."""
    names: dict[str, str] = {}
    for axis in document.axes:
        names[axis.key] = free_name(segment(axis.name), {"zone", *names.values()})
    return names


def mode_names(document: Document) -> dict[tuple[str, str], str]:
    """Attribute value by axis key and mode key; ``system`` is never one."""
    names: dict[tuple[str, str], str] = {}
    for axis in document.axes:
        taken = {"system"}
        for mode in axis.modes:
            name = free_name(segment(mode.name), taken)
            names[axis.key, mode.key] = name
            taken.add(name)
    return names


def settle_names(document: Document) -> Document:
    """Give each token whose CSS name clashes its numbered name, so that it keeps it."""
    names = css_names(document)
    tokens = []
    for token in document.tokens:
        name = names[token.key].removeprefix("_") if token.private else names[token.key]
        if "css" not in dict(token.export_names) and name != derived_name(token.path):
            token = replace(token, export_names=(*token.export_names, ("css", name)))
        tokens.append(token)
    return replace(document, tokens=tuple(tokens))


def named_picks(document: Document, condition: Condition) -> dict[str, str]:
    """The modes of a condition by the names of their axes, in the order of the axes."""
    return {
        axis.name: axis.mode(mode).name
        for axis in document.axes
        if (mode := condition.mode_on(axis.key)) is not None
    }


def condition_words(document: Document, condition: Condition) -> str:
    """A condition in words: ``always``, or ``appearance dark, brand Osprelle``."""
    named = [f"{axis} {mode}" for axis, mode in named_picks(document, condition).items()]
    return ", ".join(named) or "every mode"
