"""The axes as they are shown: their modes, what varies by each, and what a removal would lose."""

from __future__ import annotations

from dataclasses import dataclass

from prism.changes.axes import lost_with_mode
from prism.derive import modes
from prism.derive.tuning import Row
from prism.model.document import Axis, Document, Mode
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver, Theme
from prism.roles import rules
from prism.roles.guess import guess


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
    in the mode it is made from and in the new one, all rows taken. Where there are none, they are
    those that rules make (``by_rule``). ``pairs`` is how many there are."""

    rows: tuple[tuple[Row, str, str], ...]
    short_now: int
    short_then: int
    pairs: int
    by_rule: bool


def proposal(
    resolver: Resolver, theme: Theme, axis: str, source: str, scheme: str = ""
) -> Proposal:
    """A mode of a color ``scheme`` made of ``source``, seen with the other modes of ``theme``. Raises
    ``EditError``."""
    document = resolver.document
    rows = modes.propose(document, axis, source, "proposed", scheme)
    made = modes.with_rows(document, axis, Mode("proposed", "proposed"), source, rows)
    after = Resolver(made)
    made_by = rules.pairings(document, guess(document, resolver)) if not document.pairings else ()
    pairs = document.pairings or tuple(ruled.pairing for ruled in made_by)
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
        bool(made_by),
    )
