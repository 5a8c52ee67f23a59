"""A mode from a mode: same values, utility tokens mirrored along their ladder, meaning and brand
tuned to stand out as much as they do in the mode they come from. Proposed row by row.
"""

from __future__ import annotations

import math
from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal

from prism.checks.contrast import audit
from prism.derive.mapping import ladder_of, reference_to
from prism.tokens.axes import add_mode
from prism.tokens.bindings import words_of
from prism.tokens.edit import set_values
from prism.tokens.model import Condition, Document, Mode, Pairing, Token, Value
from prism.tokens.resolve import Resolver, Theme

Reason = Literal["mirrored", "level", "tuned", "same"]
_UTILITY = frozenset(
    [
        "text",
        "surface",
        "line",
        "ground",
        "background",
        "bg",
        "ink",
        "border",
        "divider",
        "veil",
        "shadow",
        "page",
        "card",
    ]
)
_SURFACE = frozenset(
    ["surface", "ground", "background", "bg", "page", "card", "raised", "sunken", "level"]
)
#: Within this many L* points a color stands out as much as its yardstick.
EVEN = 3.0


@dataclass(frozen=True, slots=True)
class Row:
    """What one token would hold in the new mode: its value now, the proposed one, and why."""

    token: Token
    now: Value
    proposed: Value
    reason: Reason
    words: str


def propose(document: Document, axis: str, source: str, key: str) -> list[Row]:
    """What each semantic and component color would hold in a new mode ``key`` made of ``source``.

    Tokens that refer to others of these tiers follow them and get no row of their own.
    """
    resolver = Resolver(document)
    theme = resolver.theme({axis: source})
    surfaces = _levels(resolver, theme)
    rows: list[Row] = []
    settled: dict[str, Value] = {}
    later: list[tuple[Token, Value]] = []
    for token in document.tokens:
        if token.tier == "raw" or token.type != "color":
            continue
        won = resolver.winner(token.key, theme)
        if won is None:
            continue
        found = ladder_of(document, won[1])
        utility = bool(_UTILITY & set(words_of(token.path)))
        if found is None:
            continue
        if token.key in surfaces:
            value: Value = reference_to(document, _token(document, surfaces[token.key]))
            rows.append(Row(token, won[1], value, "level", "levels get lighter as they rise"))
        elif utility:
            steps, place = found
            target = _token(document, steps[len(steps) - 1 - place])
            value = reference_to(document, target)
            rows.append(Row(token, won[1], value, "mirrored", "step k of n becomes n - k + 1"))
        else:
            later.append((token, won[1]))
            continue
        settled[token.key] = value
    rows += _tuned(document, axis, source, key, settled, later)
    order = {token.key: place for place, token in enumerate(document.tokens)}
    return sorted(rows, key=lambda row: order[row.token.key])


def take(
    document: Document, axis: str, mode: Mode, source: str, accepted: Collection[str]
) -> Document:
    """The document with a mode that is a copy of ``source`` but for the proposed rows accepted, by
    token key."""
    rows = [row for row in propose(document, axis, source, mode.key) if row.token.key in accepted]
    changed = add_mode(document, axis, mode, source)
    return set_values(
        changed, [(row.token.key, Condition.of({axis: mode.key}), row.proposed) for row in rows]
    )


def _levels(resolver: Resolver, theme: Theme) -> dict[str, str]:
    """Steps for the surfaces of one ladder, by token key: mirrored, in order of their names' rise.

    What is lightest by day lies lowest at night: the page takes the darkest step it mirrors to, and
    each level above it a step lighter, so that they stay in order and apart.
    """
    document = resolver.document
    found: dict[tuple[str, ...], list[tuple[Token, int]]] = {}
    for token in document.tokens:
        if token.tier != "semantic" or token.type != "color":
            continue
        words = words_of(token.path)
        if not words or not _SURFACE & set(words[:1]) or "inverse" in words:
            continue
        won = resolver.winner(token.key, theme)
        ladder = ladder_of(document, won[1]) if won else None
        if ladder is not None:
            found.setdefault(ladder[0], []).append((token, ladder[1]))
    steps: dict[str, str] = {}
    for ladder_steps, members in found.items():
        if len(members) < 2:
            continue
        darkest = len(ladder_steps) - 1
        lowest = max(darkest - min(place for _, place in members), 0)
        ranks = sorted({_rank(token) for token, _ in members})
        for token, _ in members:
            rise = ranks.index(_rank(token))
            steps[token.key] = ladder_steps[max(lowest - rise, 0)]
    return steps


_RISE = ("sunken", "well", "page", "base", "ground", "card", "raised", "top", "menu")


def _rank(token: Token) -> int:
    """How high a surface lies by its name."""
    words = words_of(token.path)
    numbers = [int(word) for word in words if word.isdigit()]
    if numbers:
        return 100 + numbers[0]
    return max((_RISE.index(word) for word in words if word in _RISE), default=3)


def _tuned(
    document: Document,
    axis: str,
    source: str,
    key: str,
    settled: dict[str, Value],
    later: list[tuple[Token, Value]],
) -> list[Row]:
    """Rows for colors that carry meaning or brand: the step of their ladder that stands out from
    the background of the new mode as much as they do now, by CIE L*."""
    grounds = _grounds(document, [token for token, _ in later])
    if not grounds:
        return []
    trial = add_mode(document, axis, Mode(key, key), source)
    condition = Condition.of({axis: key})
    trial = set_values(trial, [(token, condition, value) for token, value in settled.items()])
    before, after = Resolver(document), Resolver(trial)
    was, now = before.theme({axis: source}), after.theme({axis: key})
    rows = []
    for token, value in later:
        ground = grounds.get(token.key)
        ladder = ladder_of(document, value)
        if ground is None or ladder is None:
            continue
        (yardstick,) = audit(before, [Pairing("", token.key, (ground,))], [was])
        pairs = [Pairing(str(i), step, (ground,)) for i, step in enumerate(ladder[0])]
        readings = audit(after, pairs, [now])
        gaps = [math.inf if one.missing else abs(one.gap) for one in readings]
        if yardstick.missing or min(gaps) == math.inf:
            continue
        wanted = abs(yardstick.gap)
        required = max(
            (p.required for p in document.pairings if p.foreground == token.key), default=0.0
        )
        fitting = [
            (readings[i].ratio < required, abs(gap - wanted), i)
            for i, gap in enumerate(gaps)
            if gap != math.inf
        ]
        best = min(fitting)[2]
        if best == ladder[1]:
            continue
        proposed = reference_to(document, _token(document, ladder[0][best]))
        words = (
            f"stands out by {gaps[best]:.0f} L* there, {wanted:.0f} here"
            if abs(gaps[best] - wanted) > EVEN
            else "stands out as much as here"
        )
        rows.append(Row(token, value, proposed, "tuned", words))
    return rows


def _grounds(document: Document, tokens: list[Token]) -> dict[str, str]:
    """The background each color is judged on: that of its first pairing, else the page."""
    found: dict[str, str] = {}
    for pairing in document.pairings:
        if len(pairing.backgrounds) == 1:
            found.setdefault(pairing.foreground, pairing.backgrounds[0])
    page = next(
        (
            token.key
            for token in document.tokens
            if token.tier == "semantic" and {"surface", "page"} <= set(words_of(token.path))
        ),
        "",
    )
    return {
        token.key: found.get(token.key, page)
        for token in tokens
        if found.get(token.key, page) and found.get(token.key, page) != token.key
    }


def _token(document: Document, key: str) -> Token:
    token = document.token(key)
    assert token is not None
    return token
