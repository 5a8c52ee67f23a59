"""Everything that falls short, fixed at once: each move in words, and what cannot pass together."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.contrast import fix_all as fixing
from prism.contrast.fix_all import Fixed
from prism.expressions.typed_input import typed
from prism.model.document import Document, shown_path
from prism.model.names import condition_words
from prism.resolution.contrast import summary
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from prism.solver import SearchResult, Wanted, Watch
from prism.solver.search_result import read


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


@dataclass(frozen=True, slots=True)
class Scope:
    """What is to be fixed: everything, or the pairings that a ``token`` by key has a part in, or what falls short
    in a ``mode`` of an ``axis``, by key, or the ``levels`` of surfaces alone. Tokens ``held``, by key, stay;
    ``new_colors`` may be made between the steps of the palette, and overlays of other opacities."""

    held: frozenset[str] = frozenset()
    token: str = ""
    axis: str = ""
    mode: str = ""
    levels: bool = False
    new_colors: bool = False

    def wanted(self, analysis: Analysis) -> Wanted:
        """What to solve for."""
        pairs = analysis.paired.pairings
        aside: Iterable[int] = ()
        if self.levels:
            aside = range(len(pairs))
        elif self.token:
            users = {self.token, *analysis.resolver.graph.users({self.token})}
            aside = (
                place
                for place, pairing in enumerate(pairs)
                if users.isdisjoint((pairing.foreground, *pairing.backgrounds))
            )
        return Wanted(
            pairs,
            analysis.roles,
            within={self.axis: self.mode} if self.axis else {},
            held=self.held,
            # Between two steps a level may still lie apart.
            new_colors=self.levels or self.new_colors,
            aside=frozenset(aside),
            levels=self.levels,
        )


def searched(analysis: Analysis, scope: Scope, watch: Watch | None = None) -> str:
    """What ``fix_all`` needs to find nothing again, as text; empty where it was stopped before a move
    was found."""
    wanted = scope.wanted(analysis)
    pairs = wanted.pairs
    made = fixing.fix(analysis.document, wanted, watch)
    stopped = watch is not None and watch.stopped() and not made.moves
    return "" if stopped else SearchResult(made.moves, made.contradictions, made.proven).text(pairs)


def fix_all(
    analysis: Analysis, scope: Scope, watch: Watch | None = None, earlier: str = ""
) -> FixAll:
    """What falls short in a scope, moved until it passes. ``earlier`` is what was found before for the same
    document and scope. Raises ``PrismError`` where that belongs to another."""
    document = analysis.document
    wanted = scope.wanted(analysis)
    pairs = wanted.pairs
    kept = read(earlier, pairs) if earlier else None
    made = fixing.fix(document, wanted, watch, kept)
    before, after = analysis.resolver, resolver_of(made.document)
    return FixAll(
        tuple(_rows(document, made, before, after)),
        len(pairs) - len(wanted.aside),
        len(made.before),
        tuple(
            f"{summary(document, short.pairing)} {short.reading.shown}:1, needs "
            f"{short.pairing.required:g}:1"
            for short in made.short
        ),
        tuple(
            (
                tuple(f"{summary(document, p)} at {p.required:g}" for p in contradiction.pairings),
                contradiction.free,
            )
            for contradiction in made.contradictions
        ),
        made.proven,
        made,
    )


def _rows(document: Document, made: Fixed, before: Resolver, after: Resolver) -> Iterator[MoveRow]:
    for number, move in enumerate(made.moves):
        token = document.token(move.place.token)
        if token is None:
            continue
        picks = dict(move.place.condition.picks)
        yield MoveRow(
            number,
            shown_path(token.path),
            condition_words(document, move.place.condition),
            typed(move.before, token.type).strip("{}"),
            before.resolve(token.key, before.theme(picks)).hex,
            typed(move.after, token.type).strip("{}"),
            after.resolve(token.key, after.theme(picks)).hex,
            move.why,
        )
