"""Modes in which every token is the same."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.resolution.answer_tables import Rows, common


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each two modes of an axis that no token tells apart."""
    document, tables = analysis.document, analysis.answers
    for place, axis in enumerate(document.axes):
        apart = set[tuple[int, int]]()
        pairs = list(combinations(range(len(axis.modes)), 2))
        for token in document.tokens:
            if len(apart) == len(pairs):
                break
            if axis.key not in analysis.resolver.influence(token.key):
                continue
            rows = tables.of(token.key)
            apart.update(p for p in pairs if p not in apart and _differ(rows, place, *p))
        for first, second in pairs:
            if (first, second) in apart:
                continue
            yield Finding(
                "same-modes",
                f"{axis.name}: {axis.modes[first].name} and {axis.modes[second].name} are the "
                "same in every token.",
                where=axis.name,
                about=f"{axis.key} {axis.modes[first].key} {axis.modes[second].key}",
                severity="note",
                fixes=(Fix("Give one of them values of its own, or remove it."),),
            )


def _differ(rows: Rows, place: int, first: int, second: int) -> bool:
    """Whether a token has another answer in one mode than in the other, all else alike."""
    members = [
        (_freed(fixed, place), answer) for fixed, answer in rows if fixed[place] in (-1, first)
    ]
    two = [(_freed(fixed, place), answer) for fixed, answer in rows if fixed[place] in (-1, second)]
    return any(
        common(fixed, other_fixed) is not None and answer != other
        for fixed, answer in members
        for other_fixed, other in two
        if answer is not other
    )


def _freed(fixed: tuple[int, ...], place: int) -> tuple[int, ...]:
    return (*fixed[:place], -1, *fixed[place + 1 :])


def _modes(analysis: Analysis) -> Looked:
    return Looked(sum(len(axis.modes) for axis in analysis.document.axes), "mode")


CHECK = Check(
    "same-modes",
    "Same modes",
    "A mode that changes nothing misleads those who pick it.",
    run,
    _modes,
)
