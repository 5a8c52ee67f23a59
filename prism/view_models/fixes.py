"""What would make a pairing pass, in words, with all that it changes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.color.contrast import truncate_ratio
from prism.derive.passing import Effect, Fix, fixes, new_color, sets
from prism.model.document import Document, Pairing
from prism.resolution.contrast import REQUIRED, summary


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
    found = fixes(analysis.judged, pairing)
    nudged = new_color(analysis.judged, pairing)
    return list(described(analysis.judged, [*found, *([nudged] if nudged else [])]))


def otherwise(analysis: Analysis, pairing: Pairing) -> list[str]:
    """What else helps where a pairing falls short, in sentences: WCAG 2.2, 1.4.3 for large text and 1.4.11 for a line."""
    short = analysis.failing.get(pairing.key)
    if short is None:
        return []
    said = []
    if pairing.use == "text" and pairing.required <= REQUIRED["text"]:
        missing = REQUIRED["large text"] - short.least
        words = (
            "passes everywhere"
            if missing <= 0
            else f"still misses by {truncate_ratio(missing + 0.005)}"
        )
        said.append(f"As large text, 24 px or 18.66 px bold, it needs 3 and {words}.")
    if pairing.use in ("control", "graphic"):
        said.append(
            "A line of its own around it that reaches 3 on the same background does as well."
        )
    elif analysis.document.token(pairing.backgrounds[0]) is not None:
        said.append(
            "An overlay under the words, or another surface, parts them from the background."
        )
    return said


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
