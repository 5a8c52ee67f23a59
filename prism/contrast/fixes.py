"""What would make a pairing pass, in words, with all that it changes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import count

from prism.analysis import Analysis
from prism.changes.values import set_values
from prism.color.contrast import truncate_ratio
from prism.contrast.matrix import AnswerRow, answers
from prism.contrast.nearest_step import Effect, Fix, fixes, new_color, sets
from prism.contrast.separation import Parting, partings
from prism.model.document import Document, Pairing
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.contrast import REQUIRED, summary
from prism.resolution.current import resolver_of

#: What the button of each way to part two colors says.
_PARTING = {"surface": "Use surface", "line": "Add line", "overlay": "Add overlay"}


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
    """A fix: which color it moves, or what it puts between the two; what it sets, in words; what that changes; and the
    button for it."""

    side: str
    sets: tuple[str, ...]
    change: Change
    others: tuple[Change, ...]
    label: str

    @property
    def parts(self) -> bool:
        """Whether it moves neither color."""
        return self.side in _PARTING

    @property
    def words(self) -> str:
        """What it sets, as one text."""
        return ", ".join(self.sets)


def offers(analysis: Analysis, pairing: Pairing) -> list[Offer]:
    """The fixes of a pairing that falls short in some theme."""
    if pairing.key not in analysis.failing:
        return []
    return analysis.lately(_offers, pairing)


def _offers(analysis: Analysis, pairing: Pairing) -> list[Offer]:
    moved = [fix for fix, _ in _moves(analysis, pairing)]
    parted = (_parted(parting) for parting in _partings(analysis, pairing))
    return [*described(analysis.paired, moved), *parted]


def tried(analysis: Analysis, pairing: Pairing, side: str) -> list[AnswerRow] | None:
    """How a pairing reads in all themes once a fix is taken, the worst first; None where there is no such fix."""
    if pairing.key not in analysis.failing:
        return None
    if side in _PARTING:
        for parting in _partings(analysis, pairing):
            if parting.kind == side:
                return answers(AnswerTables(resolver_of(parting.document)), parting.pairing)
        return None
    for fix, after in _moves(analysis, pairing):
        if fix.side == side:
            return answers(AnswerTables(resolver_of(after)), pairing)
    return None


def _moves(analysis: Analysis, pairing: Pairing) -> list[tuple[Fix, Document]]:
    """The fixes that move a color, each with the document that has it."""
    nudged = new_color(analysis.paired, pairing)
    offered = [*fixes(analysis.paired, pairing), *([nudged] if nudged else [])]
    return [(fix, set_values(analysis.document, fix.settings)) for fix in offered]


def _partings(analysis: Analysis, pairing: Pairing) -> list[Parting]:
    numbers = count()
    return partings(analysis.document, pairing, lambda: f"tried-{next(numbers)}")


def _parted(parting: Parting) -> Offer:
    change = Change(
        summary(parting.document, parting.pairing),
        truncate_ratio(parting.before),
        truncate_ratio(parting.after),
        parting.pairing.required,
        passes=True,
    )
    return Offer(parting.kind, (parting.words,), change, (), _PARTING[parting.kind])


def otherwise(analysis: Analysis, pairing: Pairing) -> list[str]:
    """What else helps where a pairing falls short, in sentences: WCAG 2.2, 1.4.3 for large text and 1.4.11 for a line."""
    short = analysis.failing.get(pairing.key)
    if short is None:
        return []
    sentences = []
    if pairing.use == "text" and pairing.required <= REQUIRED["text"]:
        missing = REQUIRED["large text"] - short.least
        words = (
            "passes everywhere"
            if missing <= 0
            else f"still misses by {truncate_ratio(missing + 0.005)}"
        )
        sentences.append(f"As large text, 24 px or 18.66 px bold, it needs 3 and {words}.")
    return sentences


def described(document: Document, offered: list[Fix]) -> Iterator[Offer]:
    """Fixes in words."""
    for fix in offered:
        first, *others = (change(document, effect) for effect in fix.effects)
        label = "Set new color" if fix.side == "color" else f"Set {fix.side}"
        yield Offer(fix.side, tuple(sets(document, fix)), first, tuple(others), label)


def change(document: Document, effect: Effect) -> Change:
    pairing = effect.pairing
    return Change(
        summary(document, pairing),
        truncate_ratio(effect.before),
        truncate_ratio(effect.after),
        pairing.required,
        effect.after >= pairing.required,
    )
