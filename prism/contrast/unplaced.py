"""Colors without a known place: nobody knows what stands on them, or what they stand on, and no pairing holds them.

What is said of pairings is said of those that were judged; these are what was left out of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from prism.analysis import Analysis
from prism.model.document import Document, Pairing, Token, shown_path
from prism.roles.grounds import Guess
from prism.roles.role import UNKNOWN


def unplaced(analysis: Analysis) -> tuple[Token, ...]:
    """The colors of a document that no pairing judges, as what they are for is not known; asked for by
    ``Analysis.once``."""
    return unplaced_of(analysis.document, analysis.roles, analysis.judged.pairings)


def unplaced_of(
    document: Document, guesses: Mapping[str, Guess], pairings: Iterable[Pairing]
) -> tuple[Token, ...]:
    """As ``unplaced``, of a document with some pairings and what its colors are for. A step of a palette needs no
    place; where nothing refers to any, so that the palette is all there is, no color has one."""
    judged = {
        key
        for pairing in pairings
        for key in (pairing.foreground, *pairing.backgrounds, pairing.page)
    }
    colors = [token for token in document.tokens if token.type == "color"]
    known = [token for token in colors if token.key in guesses]
    return tuple(
        token
        for token in known or colors
        if token.key not in judged
        and (token.key not in guesses or guesses[token.key].role == UNKNOWN)
    )


def named(tokens: Iterable[Token], most: int = 12) -> str:
    """The paths of colors, some of them where there are many."""
    paths = [shown_path(token.path) for token in tokens]
    rest = len(paths) - most
    return ", ".join(paths[:most]) + (f" and {rest} more" if rest > 0 else "")


def sentence(count: int) -> str:
    """How many colors have no known place: ``4 colors have no known place, so they were not judged.`` Empty for none."""
    if not count:
        return ""
    if count == 1:
        return "1 color has no known place, so it was not judged."
    return f"{count} colors have no known place, so they were not judged."
