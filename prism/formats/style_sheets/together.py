"""Which custom properties a style sheet puts on which: text on a background in one rule.

A rule that sets ``color`` and a background says outright that the one is read on the other (CSS Color 4, CSS
Backgrounds 3). What is only for inactive controls is left out: WCAG 2.2, 1.4.3 asks nothing of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

from prism.model.document import Document, Pairing, Token
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.resolver import Resolver
from prism.roles import rules

_BACKGROUNDS = ("background", "background-color")
#: Parts of a background that a color does not fill alone.
_PICTURES = ("url", "gradient", "image")
_INACTIVE = "disabled"
#: Selectors of what everything stands on.
_PAGE = frozenset((":root", "html", "body"))


class Together:
    """What the rules of style sheets put on what: names of custom properties, in the order they are met."""

    def __init__(self) -> None:
        self.pairs: dict[tuple[str, str], None] = {}
        self.page = ""

    def rule(self, selectors: Sequence[str], body: Iterable[Any]) -> None:
        """Take in a rule with its parsed declarations."""
        if any(_INACTIVE in selector for selector in selectors):
            return
        text = ground = ""
        for node in body:
            if node.type != "declaration":
                continue
            if node.lower_name == "color":
                text = _only(node.value)
            elif node.lower_name in _BACKGROUNDS:
                ground = _only(node.value)
        if ground and not self.page and not _PAGE.isdisjoint(selectors):
            self.page = ground
        if text and ground and text != ground:
            self.pairs.setdefault((text, ground))


def _only(value: Iterable[Any]) -> str:
    """The custom property that a value takes its color from; empty where there is none, several, or a picture."""
    names = []
    for node in value:
        if node.type == "url":
            return ""
        if node.type != "function":
            continue
        if any(word in node.lower_name for word in _PICTURES):
            return ""
        if node.lower_name == "var":
            names += [part.value for part in node.arguments if part.type == "ident"][:1]
        elif any(part.type == "function" for part in node.arguments):
            return ""
    return names[0] if len(names) == 1 else ""


def with_pairings(document: Document, together: Together, tokens: Mapping[str, Token]) -> Document:
    """A document with the pairings that its style sheet shows; ``tokens`` are its tokens by the names of their
    properties."""
    page = tokens.get(together.page)
    made = tuple(_pairings(document, together, tokens, page.key if page else ""))
    return replace(document, pairings=made) if made else document


def _pairings(
    document: Document, together: Together, tokens: Mapping[str, Token], page: str
) -> Iterator[Pairing]:
    tables = AnswerTables(Resolver(document))
    for names in together.pairs:
        text, ground = (tokens.get(name) for name in names)
        if text is None or ground is None or text.type != "color" or ground.type != "color":
            continue
        if _INACTIVE in text.path.lower() or _INACTIVE in ground.path.lower():
            continue
        below = ""
        if _lets_through(tables, ground.key):
            if not page or page == ground.key:
                continue  # what it lies on is not known
            below = page
        yield rules.shown(text.key, ground.key, below)


def _lets_through(tables: AnswerTables, key: str) -> bool:
    """Whether a color is translucent in some theme."""
    colors = (answer.color for _, answer in tables.of(key))
    return any(color is not None and color.alpha < 1 for color in colors)
