"""What lets a surface lift off the one below it, as it is shown before it is taken: in every theme, with all that reads
otherwise."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import count

from prism.analysis import Analysis
from prism.contrast.fixes import Change, change
from prism.contrast.matrix import modes_words
from prism.elevation.fixes import Lifting, liftings
from prism.elevation.lift import Elevation, Standing
from prism.model.document import Document

_LABELS = {
    "step": "Set surface",
    "between": "Set color between",
    "line": "Add line",
    "shadow": "Add shadow",
}


@dataclass(frozen=True, slots=True)
class Stand:
    """How the two surfaces stand in the themes that give them these colors: the line between them, or empty, how far
    apart they lie in L*, whether that will do, and the themes in words."""

    under: str
    over: str
    line: str
    gap: float
    fails: bool
    words: str


@dataclass(frozen=True, slots=True)
class Lift:
    """A way to lift a surface: its kind and button, what it does in words, how the two stand then, and the pairings that
    read otherwise."""

    kind: str
    label: str
    words: str
    stands: tuple[Stand, ...]
    changes: tuple[Change, ...]


def lifts(analysis: Analysis, under: str, over: str) -> list[Lift]:
    """The ways to lift a surface off another, both by key."""
    numbers = count()
    made = liftings(analysis.document, under, over, lambda: f"tried-{next(numbers)}")
    return [_lift(analysis, lifting) for lifting in made]


def _lift(analysis: Analysis, lifting: Lifting) -> Lift:
    changes = tuple(change(analysis.paired, effect) for effect in lifting.effects)
    stands = tuple(_stands(lifting.document, lifting.standings))
    return Lift(lifting.kind, _LABELS[lifting.kind], lifting.words, stands, changes)


def stands(analysis: Analysis, under: str, over: str) -> list[Stand]:
    """How two surfaces stand to each other now."""
    now = Elevation(analysis.document, analysis.answers, analysis.roles)
    return _stands(analysis.document, list(now.standings(under, over)))


def _stands(document: Document, standings: Sequence[Standing]) -> list[Stand]:
    """One for each two colors and line, what fails first."""
    alike: dict[tuple[str, str, str, bool], list[Standing]] = {}
    for standing in standings:
        key = (standing.under, standing.over, standing.line, bool(standing.fault))
        alike.setdefault(key, []).append(standing)
    made = [
        Stand(*key[:3], same[0].gap, key[3], modes_words(document.axes, [s.fixed for s in same]))
        for key, same in alike.items()
    ]
    return sorted(made, key=lambda stand: (not stand.fails, stand.gap))
