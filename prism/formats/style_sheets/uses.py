"""What a style sheet uses its custom properties for: the parts that they color, and fonts.

Names of properties: CSS Color 4, CSS Backgrounds 3, CSS UI 4, SVG 2.
"""

from __future__ import annotations

import re
from collections import Counter

from prism.formats.text_files import without_comments

_ENDS = re.compile(r"[;{}]")
_REFERENCE = re.compile(r"var\(\s*(--[^\s,():]+)")
#: The part that a property colors; borders and backgrounds have many properties.
_PARTS = {
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


def uses(text: str) -> dict[str, tuple[str, ...]]:
    """The parts that each custom property colors somewhere in a style sheet, what it does most first.

    Declarations are taken one by one, whatever rule they stand in.
    """
    counted: dict[str, Counter[str]] = {}
    for declaration in _ENDS.split(without_comments(text)):
        name, colon, value = declaration.partition(":")
        part = part_of(name.strip().lower()) if colon and "var(" in value else ""
        for reference in _REFERENCE.findall(value) if part else ():
            counted.setdefault(reference, Counter())[part] += 1
    return {name: tuple(part for part, _ in of.most_common()) for name, of in counted.items()}


def part_of(name: str) -> str:
    """The part that a property of CSS colors, or ``font``; empty for others."""
    known = _PARTS.get(name, "")
    return known or next((part for start, part in _BEGINNINGS if name.startswith(start)), "")
