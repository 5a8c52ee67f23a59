"""Pairings that are presumed: a rule makes them of colors of which it is not sure what they are for.

They are judged like others, and told apart from them: that they fall short is a warning, as nobody knows yet whether
the two meet.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.model.document import Document, Pairing, shown_path
from prism.roles.grounds import Guess


def presumed(analysis: Analysis) -> frozenset[str]:
    """The keys of presumed pairings; asked for by ``Analysis.once``."""
    by_role = {rule.key for rule in analysis.document.rules if rule.by_role}
    return frozenset(
        made.pairing.key
        for made in analysis.by_rule
        if made.rule in by_role and doubted(made.pairing, analysis.roles)
    )


@dataclass(frozen=True, slots=True)
class Counts:
    """How many pairings are known and presumed, and how many of each fall short in some theme."""

    known: int
    known_failing: int
    presumed: int
    presumed_failing: int


def counts(analysis: Analysis) -> Counts:
    """The pairings of a document, counted."""
    doubtful = analysis.once(presumed)
    short = len(doubtful & analysis.failing.keys())
    return Counts(
        len(analysis.paired.pairings) - len(doubtful),
        len(analysis.failing) - short,
        len(doubtful),
        short,
    )


def among(document: Document, pairs: Iterable[Pairing], guesses: Mapping[str, Guess]) -> int:
    """How many of the pairings that a document is judged by are presumed: its own are not, whatever they are of."""
    own = {pairing.key for pairing in document.pairings}
    return sum(bool(doubted(one, guesses)) for one in pairs if one.key not in own)


def doubted(pairing: Pairing, guesses: Mapping[str, Guess]) -> tuple[str, ...]:
    """The keys of the colors of a pairing of which it is not sure what they are for."""
    keys = (pairing.foreground, *pairing.backgrounds)
    return tuple(key for key in keys if (known := guesses.get(key)) is None or not known.is_sure)


def why(document: Document, pairing: Pairing, guesses: Mapping[str, Guess]) -> str:
    """``presumed, as it is not sure what ink and paper are for``; empty where both are sure."""
    tokens = [token for key in doubted(pairing, guesses) if (token := document.token(key))]
    names = " and ".join(shown_path(token.path) for token in tokens)
    if not names:
        return ""
    return f"presumed, as it is not sure what {names} {'is' if len(tokens) == 1 else 'are'} for"
