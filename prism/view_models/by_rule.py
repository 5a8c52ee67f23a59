"""What rules offer: the pairings that are not there yet, and what could not be judged."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.roles.rules import RULES, unjudged


@dataclass(frozen=True, slots=True)
class Offer:
    """How many pairings the rules would add, for each rule its sentence and how many it would, and
    the paths of colors of which nobody knows what they are for."""

    count: int
    rules: tuple[tuple[str, int], ...]
    unknown: tuple[str, ...]


def offer(analysis: Analysis) -> Offer:
    """What the rules would add to a document."""
    counted = Counter(by_rule.rule for by_rule in analysis.by_rule)
    listed = tuple((rule.sentence, counted[rule.id]) for rule in RULES if counted[rule.id])
    return Offer(counted.total(), listed, tuple(unjudged(analysis.document, analysis.roles)))
