"""The text of a style sheet: what a parser could not read, and the files it imports."""

from __future__ import annotations

import itertools
import posixpath
import re
from typing import Any

import tinycss2

_ENDS = re.compile(r"[;{}]|\*/")
#: Characters of an unreadable declaration that are shown.
_SHOWN = 60


class Source:
    """The text of a style sheet, with line ends as CSS counts them."""

    def __init__(self, text: str) -> None:
        self.text = re.sub("\r\n?|\f", "\n", text)
        lengths = (len(line) + 1 for line in self.text.split("\n"))
        self._starts = (0, *itertools.accumulate(lengths))

    def unreadable(self, error: Any) -> str:
        """The start of the custom property that a parse error stands for; empty for any other."""
        place = self._starts[error.source_line - 1] + error.source_column - 1
        before = _ENDS.split(self.text[max(0, place - _SHOWN) : place])[-1]
        after = _ENDS.split(self.text[place : place + _SHOWN])[0]
        declaration = " ".join((before + after).split())
        return declaration[:_SHOWN] if declaration.startswith("--") else ""


def imported(text: str, file: str) -> set[str]:
    """The files that a style sheet imports, by their names beside it."""
    rules = tinycss2.parse_stylesheet(text, skip_comments=True, skip_whitespace=True)
    return {
        beside(file, target_of(rule))
        for rule in rules
        if rule.type == "at-rule" and rule.lower_at_keyword == "import"
    }


def target_of(rule: Any) -> str:
    """The file that an ``@import`` names."""
    first = next((token for token in rule.prelude if token.type != "whitespace"), None)
    if first is not None and first.type in ("string", "url"):
        return str(first.value)
    if first is not None and first.type == "function" and first.arguments:
        return str(getattr(first.arguments[0], "value", ""))
    return ""


def beside(file: str, target: str) -> str:
    """The name of a file that another one imports."""
    return posixpath.normpath(posixpath.join(posixpath.dirname(file), target))
