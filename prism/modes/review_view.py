"""A proposed mode as it is reviewed: each row with its colors and its tightest pairing before and after,
what falls short, and what contradicts what."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.contrast import presumed
from prism.expressions.typed_input import typed
from prism.model.document import Document, Pairing
from prism.model.names import condition_words
from prism.model.values import Condition
from prism.modes.draft import Row
from prism.modes.review import Asked, Review, review
from prism.resolution.answers import Answer
from prism.resolution.contrast import Reading, audit, summary
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Theme
from prism.solver import Watch

#: By token: its tightest pairing in words, and the readings of that now and then.
Tightest = Mapping[str, tuple[str, Reading | None, Reading | None]]


@dataclass(frozen=True, slots=True)
class Other:
    """A value in some themes of the other axes: where, as typed, and its color there as hex."""

    where: str
    text: str
    hex: str


@dataclass(frozen=True, slots=True)
class ReviewRow:
    """A row with its colors now and then as hex, what comes of other values, its value as it is typed, and the tightest pairing of
    its token, in words, with its readings now and then; these are None where it is in none."""

    row: Row
    now_hex: str
    then_hex: str
    now_result: str
    then_result: str
    text: str
    others: tuple[Other, ...]
    pairing: str
    before: Reading | None
    after: Reading | None


@dataclass(frozen=True, slots=True)
class ShortWords:
    """A pairing that falls short: its words, the theme, its ratio and what it needs."""

    words: str
    theme: str
    shown: str
    required: str


@dataclass(frozen=True, slots=True)
class ContradictionWords:
    """Pairings that contradict one another, with what each needs, and what would free them."""

    pairings: tuple[str, ...]
    free: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Proposal:
    """A proposed mode: its rows, how many were moved so that all pass, the pairings judged, how many of these are
    presumed and whether rules made them for this alone, how many readings fall short in the mode it is made from, which do in the
    new one, and whether it is proven that nothing nearer passes."""

    rows: tuple[ReviewRow, ...]
    moved: int
    pairs: int
    presumed: int
    by_rule: bool
    short_now: int
    short: tuple[ShortWords, ...]
    contradictions: tuple[ContradictionWords, ...]
    proven: bool
    made: Review

    @property
    def known(self) -> int:
        """How many pairings are known to be needed."""
        return self.pairs - self.presumed


def proposal(
    analysis: Analysis, theme: Theme, asked: Asked, watch: Watch | None = None, earlier: str = ""
) -> Proposal:
    """A mode that is asked for, seen with the other modes of ``theme``; ``earlier`` is what was found before
    for the same document. Raises ``PrismError``."""
    document, resolver = analysis.document, analysis.resolver
    made = review(document, asked, watch, earlier)
    after = resolver_of(made.document)
    picks = resolver.picks(theme)
    now = resolver.theme(picks | {asked.axis: asked.source})
    then = after.theme(picks | {asked.axis: asked.mode.key})
    before = audit(resolver, made.pairs, [now])
    reads = list(zip(made.pairs, before, audit(after, made.pairs, [then]), strict=True))
    tightest = _tightest(analysis, reads)
    rows = (
        _row(made, asked, row, resolver.resolve(row.token.key, now), tightest, then)
        for row in made.rows
    )
    return Proposal(
        tuple(rows),
        sum(row.reason == "solved" for row in made.rows),
        len(made.pairs),
        presumed.among(document, made.pairs, analysis.roles),
        made.by_rule,
        made.short_before,
        tuple(_short(made)),
        tuple(_contradictions(made)),
        made.solved.proven,
        made,
    )


def _row(
    made: Review, asked: Asked, row: Row, was: Answer, tightest: Tightest, then: Theme
) -> ReviewRow:
    answer = resolver_of(made.document).resolve(row.token.key, then)
    return ReviewRow(
        row,
        was.hex,
        answer.hex,
        was.css if not was.hex else "",
        answer.css if not answer.hex else "",
        typed(row.proposed, row.token.type).strip("{}"),
        tuple(_others(made.document, row, asked)),
        *tightest.get(row.token.key, ("", None, None)),
    )


def _tightest(analysis: Analysis, reads: Sequence[tuple[Pairing, Reading, Reading]]) -> Tightest:
    """The pairing of each token, or of what refers to it, that comes closest to its ratio then."""
    least: dict[str, tuple[float, str, Reading, Reading]] = {}
    for pairing, now, then in reads:
        if then.missing or not then.required:
            continue
        margin = then.ratio / then.required
        names = {pairing.foreground, *pairing.backgrounds}
        for key in names | {
            target for name in names for target in analysis.resolver.all_targets(name)
        }:
            if key not in least or margin < least[key][0]:
                least[key] = margin, summary(analysis.document, pairing), now, then
    return {key: (words, now, then) for key, (_, words, now, then) in least.items()}


def _others(document: Document, row: Row, asked: Asked) -> Iterator[Other]:
    resolver = resolver_of(document)
    for condition, value in row.others:
        rest = {axis: mode for axis, mode in condition.picks if axis != asked.axis}
        theme = resolver.theme(dict(condition.picks))
        yield Other(
            condition_words(document, Condition.of(rest)),
            typed(value, row.token.type).strip("{}"),
            resolver.resolve(row.token.key, theme).hex,
        )


def _short(made: Review) -> Iterator[ShortWords]:
    for short in made.short:
        yield ShortWords(
            summary(made.document, short.pairing),
            _where(made.document, short.reading.theme),
            short.reading.shown,
            f"{short.pairing.required:g}",
        )


def _where(document: Document, theme: Theme) -> str:
    """What a theme picks beside the default modes."""
    picks = {
        axis.key: axis.modes[mode].key
        for axis, mode in zip(document.axes, theme, strict=True)
        if axis.modes[mode].key != axis.default
    }
    return condition_words(document, Condition.of(picks))


def _contradictions(made: Review) -> Iterator[ContradictionWords]:
    for contradiction in made.contradictions:
        yield ContradictionWords(
            tuple(
                f"{summary(made.document, pairing)} at {pairing.required:g}"
                for pairing in contradiction.pairings
            ),
            contradiction.free,
        )
