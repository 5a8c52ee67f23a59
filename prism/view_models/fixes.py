"""What would make a pairing pass, in words, with all that it changes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.color.contrast import truncate_ratio
from prism.derive.passing import Effect, Fix, fixes, sets
from prism.model.document import Document, Pairing
from prism.resolution.contrast import summary


@dataclass(frozen=True, slots=True)
class Change:
    """What a fix does to one pairing: its words, its lowest ratio before and after, and what it
    needs."""

    words: str
    before: str
    after: str
    required: float
    passes: bool


@dataclass(frozen=True, slots=True)
class Offer:
    """A fix: which color it moves, what it sets, in words, and what that changes."""

    side: str
    sets: tuple[str, ...]
    change: Change
    others: tuple[Change, ...]

    @property
    def words(self) -> str:
        """What it sets, as one text."""
        return ", ".join(self.sets)


def offers(analysis: Analysis, pairing: Pairing) -> list[Offer]:
    """The fixes of a pairing that falls short in some theme."""
    if pairing.key not in analysis.failing:
        return []
    return list(described(analysis.judged, fixes(analysis.judged, pairing)))


def described(document: Document, found: list[Fix]) -> Iterator[Offer]:
    """Fixes in words."""
    for fix in found:
        first, *others = (_change(document, effect) for effect in fix.effects)
        yield Offer(fix.side, tuple(sets(document, fix)), first, tuple(others))


def _change(document: Document, effect: Effect) -> Change:
    pairing = effect.pairing
    return Change(
        summary(document, pairing),
        truncate_ratio(effect.before),
        truncate_ratio(effect.after),
        pairing.required,
        effect.after >= pairing.required,
    )
