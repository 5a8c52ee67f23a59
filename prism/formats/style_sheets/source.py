"""The text of a style sheet: what a parser could not read, and the files it imports."""

from __future__ import annotations

import posixpath
import re
from array import array
from functools import cached_property
from typing import Any

import tinycss2

from prism.errors import FormatError
from prism.expressions.marks import LONG_NUMBER, MOST_DIGITS
from prism.formats.limits import MAX_NESTING, MAX_PARTS
from prism.formats.style_sheets.positions import Positions

_PIECE = 1 << 16
_PART = re.compile(r"[\w-]+|[^\w\s-]")
#: Brackets, and what hides brackets: comments, strings and escapes, closed or not.
_BRACKETS = re.compile(
    r"""/\*(?:.*?\*/|.*\Z)|"(?:[^"\\\n]|\\.)*+["\n]?|'(?:[^'\\\n]|\\.)*+['\n]?|\\.|[(){}\[\]]""",
    re.DOTALL,
)
_ENDS = re.compile(r"[;{}]|\*/")
#: Characters of an unreadable declaration that are shown.
_SHOWN = 60


class Source:
    """The text of a style sheet, with line ends as CSS counts them."""

    def __init__(self, text: str) -> None:
        self.text = re.sub("\r\n?|\f", "\n", text)

    @cached_property
    def positions(self) -> Positions:
        """Its tokens, and where each stands."""
        return Positions(self.text, self._starts)

    @cached_property
    def _starts(self) -> array[int]:
        """Where each line starts."""
        return array("L", (0, *(match.end() for match in re.finditer("\n", self.text))))

    def unreadable(self, error: Any) -> str:
        """The start of the custom property that a parse error stands for; empty for any other."""
        place = self._starts[error.source_line - 1] + error.source_column - 1
        before = _ENDS.split(self.text[max(0, place - _SHOWN) : place])[-1]
        after = _ENDS.split(self.text[place : place + _SHOWN])[0]
        declaration = " ".join((before + after).split())
        return declaration[:_SHOWN] if declaration.startswith("--") else ""


def refuse_endless(text: str, file: str) -> None:
    """Raise ``FormatError`` for a style sheet of too many parts, or nested too deeply.

    Parsing makes an object of each part, so that is said before anything is parsed.
    """
    depth = 0
    for match in _BRACKETS.finditer(text):
        mark = match[0]
        if mark in ("(", "{", "["):
            depth += 1
            if depth > MAX_NESTING:
                raise FormatError(
                    f"The style sheet is nested deeper than {MAX_NESTING} levels.",
                    place=f"{file}, line {text.count(chr(10), 0, match.start()) + 1}",
                )
        elif mark in (")", "}", "]"):
            depth = max(depth - 1, 0)
    number = LONG_NUMBER.search(text)
    if number is not None:
        raise FormatError(
            f"The style sheet contains a number of more than {MOST_DIGITS} digits.",
            place=f"{file}, line {text.count(chr(10), 0, number.start()) + 1}",
        )
    parts = 0
    for start in range(0, len(text), _PIECE):
        parts += len(_PART.findall(text, start, start + _PIECE))
        if parts > MAX_PARTS:
            raise FormatError(
                f"The style sheet has more than {MAX_PARTS:,} words and marks.",
                place=file,
                fix="Split it, or import the part that declares custom properties.",
            )


def imported(text: str, file: str) -> set[str]:
    """The files that a style sheet imports, by their names beside it."""
    refuse_endless(text, file)
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
