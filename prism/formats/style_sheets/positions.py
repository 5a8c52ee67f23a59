"""Where the parts of a style sheet stand in its text: every token with its end, from the tokenizer on.

CSS Syntax 3: a token ends where the next one starts, and what a block holds ends before its bracket. Columns
and lines are those of the tokenizer; places here count characters of the text from 0.
"""

from __future__ import annotations

from array import array
from dataclasses import dataclass
from typing import Any

import tinycss2

_CLOSING = {"{} block": "}", "[] block": "]", "() block": ")", "function": ")"}


@dataclass(frozen=True, slots=True)
class Span:
    """A part of a text, from its first character to the one behind its last."""

    start: int
    end: int

    def of(self, text: str) -> str:
        """The part itself."""
        return text[self.start : self.end]


class Positions:
    """The tokens of a style sheet without its comments, and where each of them stands.

    ``text`` has the line ends of CSS (LF alone); ``starts`` are the places at which its lines start.
    """

    def __init__(self, text: str, starts: array[int]) -> None:
        self.text = text
        self._starts = starts
        self._ends: dict[int, int] = {}
        self._blocks: dict[int, int] = {}
        self.tokens: list[Any] = tinycss2.parse_component_value_list(text)
        self._mark()

    def start(self, node: Any) -> int:
        """Where a token, a declaration or a rule starts."""
        line, column = node.source_line, node.source_column
        place: int = self._starts[line - 1] + column - 1
        return place

    def value(self, declaration: Any) -> Span:
        """Where the value of a declaration stands, without blanks and comments around it; where one would stand
        if it has none."""
        kept = [token for token in declaration.value if token.type != "whitespace"]
        if not kept:
            colon = self._ends[self._next(self._ends[self.start(declaration)])]
            return Span(colon, colon)
        return Span(self.start(kept[0]), self._ends[self.start(kept[-1])])

    def declaration(self, declaration: Any) -> Span:
        """Where a declaration stands, from its name to its value, or to what makes it important; without the
        semicolon."""
        end = self.value(declaration).end
        if declaration.important:
            mark = self._next(end)
            end = self._ends[self._next(self._ends[mark])]
        return Span(self.start(declaration), end)

    def rule(self, rule: Any) -> Span:
        """Where a rule with a block stands, from its selectors or its keyword to its closing bracket."""
        return Span(self.start(rule), self._blocks[id(rule.content)])

    def _next(self, place: int) -> int:
        """The first token at a place or behind it that is neither a blank nor a comment."""
        while self.text[place] in " \n\t" or self.text.startswith("/*", place):
            place = self._ends[place]
        return place

    def _mark(self) -> None:
        """Keep where each token ends, and take the comments out."""
        unclosed = self._unclosed()
        waiting = [(self.tokens, len(self.text))]
        while waiting:
            inside, last = waiting.pop()
            places = [self.start(token) for token in inside]
            ends = [*places[1:], last][: len(places)]
            for token, place, end in zip(inside, places, ends, strict=True):
                self._ends[place] = end
                if token.type in _CLOSING:
                    held = _held(token)
                    self._blocks[id(held)] = end
                    waiting.append((held, end if id(held) in unclosed else end - 1))
            inside[:] = [token for token in inside if token.type != "comment"]

    def _unclosed(self) -> set[int]:
        """The blocks that the end of the text closes, by the identity of what they hold.

        Only blocks at the very end can be: the text ends with the brackets of the innermost of them, outwards to
        the first that has none.
        """
        chain: list[Any] = []
        inside = self.tokens
        while inside and inside[-1].type in _CLOSING:
            chain.append(inside[-1])
            inside = _held(inside[-1])
        for count in range(len(chain) + 1):
            brackets = "".join(_CLOSING[block.type] for block in reversed(chain[count:]))
            if self.text.endswith(brackets):
                return {id(_held(block)) for block in chain[:count]}
        return set()


def _held(block: Any) -> list[Any]:
    held: list[Any] = block.arguments if block.type == "function" else block.content
    return held
