"""Linking: raw literals in semantic tokens matched to tokens of the palette.

Exact matches come first; then the nearest by CIEDE2000, up to 1.0 "same to the eye" and up to
5.0 "near" (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from prism.changes.values import refuse_broken
from prism.color import space
from prism.color.difference import delta_e_2000, lab
from prism.errors import ExpressionError
from prism.expressions.typed_input import reference_to
from prism.expressions.values import parse
from prism.model.document import Document, Token
from prism.model.values import Condition, Expression
from prism.resolution.current import resolver_of

SAME, NEAR = 1.0, 5.0
Closeness = Literal["exact", "same to the eye", "near"]


@dataclass(frozen=True, slots=True)
class UnlinkedColor:
    """A literal color that a token holds under one condition."""

    token: str
    condition: Condition
    text: str
    color: space.Color


@dataclass(frozen=True, slots=True)
class Link:
    """A literal and the palette token that could stand in its place.

    ``distance`` is CIEDE2000, 0 for an exact match.
    """

    token: str
    condition: Condition
    text: str
    target: str
    distance: float
    closeness: Closeness


@dataclass(frozen=True, slots=True)
class Proposal:
    """All links that can be offered, and the literals that have no match."""

    links: tuple[Link, ...]
    unmatched: tuple[UnlinkedColor, ...]


def propose(document: Document, *, within: float = NEAR) -> Proposal:
    """A link for every literal color outside the palette whose nearest color is near enough.

    The palette is every raw color token that is the same in all themes; translucency must be
    equal. Of equally near tokens the first in document order is taken.
    """
    palette = _palette(document)
    literals = _literals(document)
    if not literals or not palette:
        return Proposal((), tuple(literals))
    wanted = np.array([space.rgba(literal.color) for literal in literals])
    known = np.array([space.rgba(color) for _, color in palette])
    distances = delta_e_2000(lab(wanted[:, None, :3]), lab(known[None, :, :3]))
    unlike = np.abs(wanted[:, None, 3] - known[None, :, 3]) > 0.5 / 255
    distances = np.where(unlike, np.inf, distances)
    links, unmatched = [], []
    for literal, row in zip(literals, distances, strict=True):
        best = int(np.argmin(np.round(row, 9)))
        target, color = palette[best]
        exact = space.rgba8(color) == space.rgba8(literal.color)
        distance = 0.0 if exact else float(row[best])
        if distance > within:
            unmatched.append(literal)
            continue
        closeness: Closeness = (
            "exact" if exact else "same to the eye" if distance <= SAME else "near"
        )
        links.append(
            Link(literal.token, literal.condition, literal.text, target.key, distance, closeness)
        )
    return Proposal(tuple(links), tuple(unmatched))


def link(document: Document, links: Iterable[Link]) -> Document:
    """The document with the literals of ``links`` replaced by references, all at once.

    Raises ``EditError`` where one of them would make a circle.
    """
    wanted = {(link.token, link.condition): link for link in links}
    tokens = []
    for token in document.tokens:
        values = []
        for condition, value in token.values:
            path = wanted.get((token.key, condition))
            target = document.token(path.target) if path else None
            if (
                target is not None
                and isinstance(value, Expression)
                and path
                and value.text == path.text
            ):
                value = reference_to(document, target)
            values.append((condition, value))
        tokens.append(replace(token, values=tuple(values)))
    changed = replace(document, tokens=tuple(tokens))
    refuse_broken(changed, *{key for key, _ in wanted}, before=document)
    return changed


def raw_groups(document: Document) -> list[tuple[str, int]]:
    """The top groups of raw colors with their sizes: what counts as the palette."""
    groups: dict[str, int] = {}
    for token in document.tokens:
        if token.is_raw_color:
            name = token.top
            groups[name] = groups.get(name, 0) + 1
    return list(groups.items())


def _palette(document: Document) -> list[tuple[Token, space.Color]]:
    resolver = resolver_of(document)
    unlinked = []
    for token in document.tokens:
        reached = resolver.graph.reach([token.key]) if token.is_raw_color else ()
        raw = all(
            (found_token := document.token(key)) and found_token.is_raw_color for key in reached
        )
        if token.is_raw_color and raw and resolver.influence(token.key) == ():
            answer = resolver.resolve(token.key, resolver.default_theme)
            if answer.color is not None:
                unlinked.append((token, answer.color))
    return unlinked


def _literals(document: Document) -> list[UnlinkedColor]:
    literals = []
    for token in document.tokens:
        if token.tier == "raw" or token.type != "color":
            continue
        for condition, value in token.values:
            if not isinstance(value, Expression):
                continue
            try:
                literal = parse(value.text, "color").literal
            except ExpressionError:
                continue
            if isinstance(literal, space.Color):
                fitted = space.fit(literal, document.gamut)
                literals.append(UnlinkedColor(token.key, condition, value.text, fitted))
    return literals
