"""Everything that falls short, fixed at once: each move in words, and what cannot pass together."""

from __future__ import annotations

from dataclasses import dataclass

from prism.analysis import Analysis
from prism.derive import fixing
from prism.derive.fixing import Fixed
from prism.derive.solving import Wanted, Watch
from prism.expressions.typed_input import typed
from prism.model.document import shown_path
from prism.model.names import condition_words
from prism.resolution.contrast import summary
from prism.resolution.current import resolver_of


@dataclass(frozen=True, slots=True)
class MoveRow:
    """One move: its place among all, the token's path, where the value holds, its text and color before
    and after, and why."""

    number: int
    path: str
    where: str
    before: str
    before_hex: str
    after: str
    after_hex: str
    why: str


@dataclass(frozen=True, slots=True)
class FixAll:
    """All moves, how many pairings were judged, how many readings fall short before and after, what cannot pass together (the pairings,
    and what would free them), and whether nothing nearer passes."""

    rows: tuple[MoveRow, ...]
    pairs: int
    before: int
    short: tuple[str, ...]
    contradictions: tuple[tuple[tuple[str, ...], tuple[str, ...]], ...]
    proven: bool
    made: Fixed


def fix_all(analysis: Analysis, held: frozenset[str], watch: Watch | None = None) -> FixAll:
    """Everything that falls short, moved until it passes; tokens ``held``, by key, stay."""
    document = analysis.document
    pairs = analysis.judged.pairings
    made = fixing.fix(document, Wanted(pairs, analysis.roles, held=held), watch)
    before, after = analysis.resolver, resolver_of(made.document)
    rows = []
    for number, move in enumerate(made.moves):
        token = document.token(move.place.token)
        if token is None:
            continue
        picks = dict(move.place.condition.picks)
        rows.append(
            MoveRow(
                number,
                shown_path(token.path),
                condition_words(document, move.place.condition),
                typed(move.before, token.type).strip("{}"),
                before.resolve(token.key, before.theme(picks)).hex,
                typed(move.after, token.type).strip("{}"),
                after.resolve(token.key, after.theme(picks)).hex,
                move.why,
            )
        )
    return FixAll(
        tuple(rows),
        len(pairs),
        len(made.before),
        tuple(
            f"{summary(document, one.pairing)} reads {one.reading.shown} and needs "
            f"{one.pairing.required:g}"
            for one in made.short
        ),
        tuple(
            (tuple(f"{summary(document, p)} at {p.required:g}" for p in one.pairings), one.free)
            for one in made.contradictions
        ),
        made.proven,
        made,
    )
