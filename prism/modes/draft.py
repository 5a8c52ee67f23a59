"""A mode in the making: what is settled so far, and what stands out on it and can be read."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from prism.changes.axes import add_mode
from prism.changes.values import set_values
from prism.expressions.typed_input import reference_to
from prism.model.document import Document, Mode, Pairing, Token
from prism.model.values import Condition, Value
from prism.palette.mapping import ladder_of
from prism.resolution.contrast import REQUIRED, Reading, audit
from prism.resolution.resolver import Resolver, Theme
from prism.solver.levels import plain_ends

Reason = Literal[
    "mirrored",
    "level",
    "tuned",
    "label",
    "role",
    "solved",
    "chosen",
    "refused",
    "quieter",
    "dimmed",
    "other hue",
    "scaled",
]
#: Within this many L* points a color stands out as much as its yardstick.
EVEN = 3.0


@dataclass(frozen=True, slots=True)
class Row:
    """What one token would hold in the new mode: its value now, the proposed one, and why; ``others``
    are values under narrower conditions, as for one brand."""

    token: Token
    now: Value
    proposed: Value
    reason: Reason
    words: str
    others: tuple[tuple[Condition, Value], ...] = ()


class Trial:
    """A new mode ``key`` of an axis that starts as a copy of ``source``, and its rows so far."""

    def __init__(self, before: Resolver, axis: str, source: str, key: str) -> None:
        self.before = before
        self.was = before.theme({axis: source})
        self.rows: dict[str, Row] = {}
        self.axis, self.key = axis, key
        self._picks = {axis: key}
        self._copy = add_mode(before.document, axis, Mode(key, key), source)
        self._after = Resolver(self._copy, before)
        self._labels: frozenset[str] = frozenset()
        #: White and black, and the ends of all ramps, by key.
        self._ends: list[str] = []
        self._pairings: dict[str, list[Pairing]] = {}
        for pairing in before.document.pairings:
            self._pairings.setdefault(pairing.foreground, []).append(pairing)

    def put(self, token: Token, now: Value, proposed: Value, reason: Reason, words: str) -> None:
        """Settle what a token holds."""
        self.rows[token.key] = Row(token, now, proposed, reason, words)

    def opaque(self, steps: Iterable[str]) -> bool:
        """Whether no step of a ladder lets anything through."""
        colors = [self.before.resolve(key, self.was).color for key in steps]
        return all(color is None or color.alpha >= 1 for color in colors)

    def reference(self, key: str) -> Value:
        """The reference to a token, by key."""
        token = self.before.document.token(key)
        assert token is not None
        return reference_to(self.before.document, token)

    def tune(
        self, tokens: Sequence[tuple[Token, Value]], page: str, owners: Mapping[str, str]
    ) -> None:
        """Settle colors that carry meaning or brand, given with their values: the step of their
        ladder that stands out from the background of the new mode as much as they do now, by CIE
        L*. Fills come before the labels that lie on them; a label takes what can be read on its
        fill. ``page`` is the key of the token that the others stand on, empty without one;
        ``owners`` are those that labels stand on, by key.
        """
        self._labels = frozenset(owners)
        grounds = _grounds(self.before.document, [token for token, _ in tokens], page, owners)
        waiting = {token.key for token, _ in tokens}
        fills = [known for known in tokens if grounds.get(known[0].key) not in waiting]
        labels = [known for known in tokens if grounds.get(known[0].key) in waiting]
        for wave in (fills, labels):
            after, theme = self._now()
            for token, value in wave:
                if token.key in grounds:
                    self._tune(after, theme, token, value, grounds[token.key])

    def fix(self, keys: Iterable[str]) -> None:
        """Move what can be read now and could not be read then along its ladder, no further than
        it must; ``keys`` are of tokens that stand on one."""
        after, theme = self._now()
        document = self.before.document
        for key in keys:
            pairings = self._pairings.get(key, [])
            read = audit(self.before, pairings, [self.was])
            held = [before for before, now in zip(pairings, read, strict=True) if now.passes]
            row = self.rows[key]
            ladder = ladder_of(document, row.proposed)
            if ladder is None or not any(reading.fails for reading in audit(after, held, [theme])):
                continue
            steps, place = ladder
            short = _falling_short(after, theme, steps, held)
            best = min(range(len(steps)), key=lambda i: (short[i], abs(i - place), i))
            if short[best] < short[place]:
                by = abs(best - place)
                words = f"{row.words}, then {by} step{'s' if by > 1 else ''} on to be read"
                self.put(row.token, row.now, self.reference(steps[best]), row.reason, words)

    def _now(self) -> tuple[Resolver, Theme]:
        """The document as it would be, and the theme of the new mode."""
        condition = Condition.of(self._picks)
        values = [(key, condition, row.proposed) for key, row in self.rows.items()]
        after = Resolver(set_values(self._copy, values, tried=True), self._after)
        self._after = after
        return after, after.theme(self._picks)

    def _tune(self, after: Resolver, theme: Theme, token: Token, value: Value, ground: str) -> None:
        pairings = self._pairings.get(token.key, [])
        ladder = ladder_of(self.before.document, value)
        if ladder is None or not self.opaque(ladder[0]):
            self._end_of_ink(after, theme, token, value, ground)
            return
        steps = ladder[0]
        (yardstick,) = audit(self.before, [Pairing("", token.key, (ground,))], [self.was])
        readings = audit(after, [Pairing("", step, (ground,)) for step in steps], [theme])
        gaps = [math.inf if reading.missing else abs(reading.gap) for reading in readings]
        if yardstick.missing or min(gaps) == math.inf:
            return
        wanted = abs(yardstick.gap)
        short = _falling_short(after, theme, steps, pairings)
        best = min(range(len(steps)), key=lambda i: (short[i], abs(gaps[i] - wanted), i))
        if short[best] and self._end_of_ink(after, theme, token, value, ground):
            return
        words = (
            "stands out as much as here"
            if abs(gaps[best] - wanted) <= EVEN
            else f"stands out by {gaps[best]:.0f} L* there, {wanted:.0f} here"
        )
        self.put(token, value, self.reference(steps[best]), "tuned", words)

    def _read(
        self, after: Resolver, theme: Theme, keys: Sequence[str], ground: str
    ) -> list[Reading]:
        pairs = [Pairing(key, key, (ground,)) for key in keys]
        return [reading for reading in audit(after, pairs, [theme]) if not reading.missing]

    def _end_of_ink(
        self, after: Resolver, theme: Theme, token: Token, value: Value, ground: str
    ) -> bool:
        """Whether a color that can no longer be read on its ground took the end of the ink that
        can: of the first and last steps of the fill's own ramp if one reads, else of all ramps,
        white and black, the one of the highest contrast."""
        default = REQUIRED["text"] if token.key in self._labels else 0.0
        pairings = self._pairings.get(token.key, ())
        required = max((fill.required for fill in pairings), default=default)
        if not required:
            return False
        own = self._read(after, theme, [token.key], ground)
        if not own or own[0].ratio >= required:
            return False
        if not self._ends:
            ramps = [ramp for ramp in after.document.ramps if len(ramp.steps) >= 3]
            ends = (key for ramp in ramps for key in (ramp.steps[0], ramp.steps[-1]))
            self._ends = [*plain_ends(after, theme), *ends]
        known = self._read(after, theme, self._ends, ground)
        if not known:
            return False
        fill = self.rows.get(ground)
        ladder = ladder_of(after.document, fill.proposed) if fill is not None else None
        near = {ladder[0][0], ladder[0][-1]} if ladder else set[str]()
        of_fill = self._read(after, theme, sorted(near), ground)
        reaching = [reading for reading in of_fill if reading.ratio >= required]
        best = max(reaching or known, key=lambda reading: reading.ratio)
        words = f"{best.shown} on its fill, {own[0].shown} as it is"
        self.put(token, value, self.reference(best.pairing), "label", words)
        return True


def _falling_short(
    resolver: Resolver, theme: Theme, steps: Sequence[str], pairings: Sequence[Pairing]
) -> list[int]:
    """For each step of a ladder, of how many pairings it would fall short."""
    pairs = [
        Pairing("", step, pairing.backgrounds, required=pairing.required, page=pairing.page)
        for step in steps
        for pairing in pairings
    ]
    fails = [reading.fails for reading in audit(resolver, pairs, [theme])]
    width = len(pairings)
    return [sum(fails[i * width : (i + 1) * width]) for i in range(len(steps))]


def _grounds(
    document: Document, tokens: list[Token], page: str, owners: Mapping[str, str]
) -> dict[str, str]:
    """The background each color is judged on: that of its first pairing, else what it belongs to, else
    the page."""
    grounds: dict[str, str] = {}
    for pairing in document.pairings:
        if len(pairing.backgrounds) == 1:
            grounds.setdefault(pairing.foreground, pairing.backgrounds[0])
    grounds = {**owners, **grounds}
    return {
        token.key: grounds.get(token.key, page)
        for token in tokens
        if grounds.get(token.key, page) and grounds.get(token.key, page) != token.key
    }
