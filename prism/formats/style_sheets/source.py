"""The text of a style sheet, for finding what a parser could not read."""

from __future__ import annotations

import itertools
import re
from typing import Any

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
