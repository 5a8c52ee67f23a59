"""Pieces: texts that mean something only inside other values, such as ``13, 110, 253``.

CSS puts the text of a custom property in wherever it is used. What is stored is safe to be written
into any style sheet: whole component values, no end of a declaration, nothing that is loaded.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import Any

import tinycss2

from prism.errors import ExpressionError
from prism.expressions.marks import LONG_NUMBER, MOST_DIGITS, deepest
from prism.expressions.math_syntax import REFERENCE
from prism.expressions.tree import Template

MAX_NESTING = 60
_LOADS = frozenset(("url", "src", "image", "image-set", "-webkit-image-set", "element", "attr"))
_STAND_IN = "np-piece"


def template(text: str) -> Template | None:
    """A text with references as a template; None where it has none or cannot stand in CSS."""
    paths = tuple(match[1].strip() for match in REFERENCE.finditer(text))
    if not paths or fault_of(text):
        return None
    return Template(text, paths)


def put_in(node: Template, text_of: Callable[[str], str]) -> str:
    """The text with each reference replaced by what ``text_of`` gives for its path."""
    return REFERENCE.sub(lambda match: text_of(match[1].strip()), node.text)


def check(text: str) -> None:
    """Raise ``ExpressionError`` unless a text, with or without references, can stand in CSS."""
    fault = fault_of(text)
    if fault:
        raise ExpressionError(fault)


def fault_of(text: str) -> str:
    """Why a text cannot stand in a declaration of CSS, as a sentence; empty where it can."""
    if "</" in text:
        return "“</” cannot stand in a value."
    plain = REFERENCE.sub(_STAND_IN, text)
    if LONG_NUMBER.search(plain):
        return f"A number has more than {MOST_DIGITS} digits."
    if deepest(plain) > MAX_NESTING:
        return "The value is nested too deeply."
    return _fault(tinycss2.parse_component_value_list(plain), 0)


def _fault(nodes: Iterable[Any], depth: int) -> str:
    if depth > MAX_NESTING:
        return "The value is nested too deeply."
    for node in nodes:
        if node.type == "error":
            return "The value has a bracket or a quote too many."
        if node.type == "literal" and node.value in (";", "!", "<!--", "-->"):
            return f"“{node.value}” ends a declaration and cannot stand in a value."
        if node.type == "{} block":
            return "Curly brackets cannot stand in a value."
        if node.type == "url" or (node.type == "function" and node.lower_name in _LOADS):
            return "The value refers to a file or an attribute, which a token cannot hold."
        inner = getattr(node, "arguments", None) or getattr(node, "content", None)
        if isinstance(inner, list) and (fault := _fault(inner, depth + 1)):
            return fault
    return ""
