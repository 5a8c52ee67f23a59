"""The axes as they are shown: their modes, what varies by each, and what a removal would lose."""

from __future__ import annotations

from dataclasses import dataclass

from prism.analysis import Analysis
from prism.changes.axes import lost_with_mode
from prism.derive import modes
from prism.derive.tuning import Row
from prism.model.document import Axis, Document, Mode
from prism.resolution.contrast import audit
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Theme


@dataclass(frozen=True, slots=True)
class ModeRow:
    """A mode, how many values hold in it alone, and the preferences that lead to it."""

    mode: Mode
    values: int
    follows: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class AxisRow:
    """An axis with its modes, and how many tokens have a value on it."""

    axis: Axis
    modes: tuple[ModeRow, ...]
    tokens: int


def rows(document: Document) -> list[AxisRow]:
    """Every axis in order."""
    sections = []
    for axis in document.axes:
        follows = axis.follows
        shown = tuple(
            ModeRow(
                mode,
                len(lost_with_mode(document, axis.key, mode.key)),
                tuple(
                    f"{follows.feature}: {value}"
                    for value, key in (follows.modes if follows else ())
                    if follows and key == mode.key
                ),
            )
            for mode in axis.modes
        )
        tokens = sum(
            any(condition.mode_on(axis.key) for condition, _ in token.values)
            for token in document.tokens
        )
        sections.append(AxisRow(axis, shown, tokens))
    return sections


@dataclass(frozen=True, slots=True)
class Proposal:
    """A proposed mode: each row with its color now and then, as hex, and how many pairings fall short
    in the mode it is made from and in the new one, all rows taken: those of the document and of its
    rules, and where there are none those of all rules (``by_rule``). ``pairs`` is how many there are.
    """

    rows: tuple[tuple[Row, str, str], ...]
    short_now: int
    short_then: int
    pairs: int
    by_rule: bool


def proposal(
    analysis: Analysis, theme: Theme, axis: str, source: str, scheme: str = ""
) -> Proposal:
    """A mode of a color ``scheme`` made of ``source``, seen with the other modes of ``theme``. Raises
    ``EditError``."""
    document, resolver = analysis.document, analysis.resolver
    rows = modes.propose(document, axis, source, "proposed", scheme)
    made = modes.with_rows(document, axis, Mode("proposed", "proposed"), source, rows)
    after = resolver_of(made)
    pairs = analysis.judged.pairings
    by_rule = not pairs
    if by_rule:
        pairs = tuple(offer.pairing for offer in analysis.offered)
    picks = resolver.picks(theme)
    now, then = resolver.theme(picks | {axis: source}), after.theme(picks | {axis: "proposed"})
    return Proposal(
        tuple(
            (row, resolver.resolve(row.token.key, now).hex, after.resolve(row.token.key, then).hex)
            for row in rows
        ),
        sum(reading.fails for reading in audit(resolver, pairs, [now])),
        sum(reading.fails for reading in audit(after, pairs, [then])),
        len(pairs),
        by_rule,
    )
