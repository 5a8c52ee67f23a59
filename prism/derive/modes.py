"""A mode from a mode: same values, utility tokens mirrored along their ladder, meaning and brand
tuned to stand out as much as they do in the mode they come from. Proposed row by row.
"""

from __future__ import annotations

import math
from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal

from prism.checks.contrast import audit
from prism.derive.mapping import ladder_of
from prism.errors import EditError
from prism.tokens.axes import add_mode
from prism.tokens.bindings import words_of
from prism.tokens.edit import set_values
from prism.tokens.entry import reference_to
from prism.tokens.expressions import reference_of
from prism.tokens.model import (
    Condition,
    Document,
    Expression,
    Mode,
    Pairing,
    Ramp,
    Token,
    Value,
)
from prism.tokens.resolve import Resolver, Theme

Reason = Literal["mirrored", "level", "tuned", "label"]
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
    owner = document.axis(axis)
    if owner is None or all(mode.key != source for mode in owner.modes):
        raise EditError("The mode to start from is no longer there.")
    resolver = Resolver(document)
    theme = resolver.theme({axis: source})
    surfaces = _levels(resolver, theme)
    rows: list[Row] = []
    settled: dict[str, Value] = {}
    later: list[tuple[Token, Value]] = []
    for token in document.tokens:
        if token.tier == "raw" or token.type != "color" or _is_rung(document, token):
            continue
        won = resolver.winner(token.key, theme)
        if won is None:
            continue
        found = ladder_of(document, won[1])
        utility = bool(_UTILITY & set(words_of(token.path)))
        if token.key in surfaces:
            value: Value = reference_to(document, _token(document, surfaces[token.key]))
            rows.append(Row(token, won[1], value, "level", "levels get lighter as they rise"))
        elif found is None or not _opaque(resolver, found[0], theme):
            if isinstance(won[1], Expression) and not _follows(document, won[1]):
                later.append((token, won[1]))
            continue
        elif _follows(document, won[1]):
            continue
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
    differing = [row for row in rows if row.proposed != row.now]
    return sorted(differing, key=lambda row: order[row.token.key])


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


def _is_rung(document: Document, token: Token) -> bool:
    """Whether a token is a step of a ladder that others stand on, such as ``accent.8``."""
    if not token.leaf.isdigit() or not token.group:
        return False
    beside = [one for one in document.tokens if one.group == token.group]
    return sum(one.leaf.isdigit() for one in beside) >= 5


def _levels(resolver: Resolver, theme: Theme) -> dict[str, str]:
    """Steps for the surfaces, by token key, on the ladder that most of them stand on.

    What is lightest by day lies lowest at night: the lowest level takes the step opposite to the
    lightest one used, and each level above it a step lighter, so that they stay in order and apart.
    Surfaces of a single color, such as white, join them.
    """
    document = resolver.document
    members: list[Token] = []
    found: dict[tuple[str, ...], list[int]] = {}
    for token in document.tokens:
        words = words_of(token.path)
        if token.tier != "semantic" or token.type != "color" or not words:
            continue
        if words[0] not in _SURFACE or "inverse" in words:
            continue
        won = resolver.winner(token.key, theme)
        answer = resolver.resolve(token.key, theme).color
        if won is None or answer is None or answer.alpha < 1:
            continue
        members.append(token)
        ladder = ladder_of(document, won[1])
        if ladder is not None:
            found.setdefault(ladder[0], []).append(ladder[1])
    if len(members) < 2 or not found:
        return {}
    steps, used = max(found.items(), key=lambda one: len(one[1]))
    lowest = len(steps) - 1 - min(used)
    ranks = sorted({_rank(token) for token in members})
    return {token.key: steps[max(lowest - ranks.index(_rank(token)), 0)] for token in members}


_RISE = ("sunken", "well", "page", "base", "ground", "card", "raised", "top", "menu")


def _rank(token: Token) -> int:
    """How high a surface lies by its name."""
    words = words_of(token.path)
    numbers = [int(word) for word in words if word.isdigit()]
    if numbers:
        return 100 + numbers[0]
    return max((_RISE.index(word) for word in words if word in _RISE), default=3)


def _follows(document: Document, value: Value) -> bool:
    """Whether a value refers to a semantic token that is no rung, and so follows it."""
    path = reference_of(value.text) if isinstance(value, Expression) else ""
    target = document.token_at(path) if path else None
    return target is not None and target.tier != "raw" and not _is_rung(document, target)


def _opaque(resolver: Resolver, steps: tuple[str, ...], theme: Theme) -> bool:
    colors = [resolver.resolve(key, theme).color for key in steps]
    return all(color is None or color.alpha >= 1 for color in colors)


def _tuned(
    document: Document,
    axis: str,
    source: str,
    key: str,
    settled: dict[str, Value],
    later: list[tuple[Token, Value]],
) -> list[Row]:
    """Rows for colors that carry meaning or brand: the step of their ladder that stands out from
    the background of the new mode as much as they do now, by CIE L*. Fills come before the labels
    that lie on them; a label takes what can be read on its fill.
    """
    grounds = _grounds(document, [token for token, _ in later])
    waiting = {token.key for token, _ in later}
    fills = [one for one in later if grounds.get(one[0].key) not in waiting]
    labels = [one for one in later if grounds.get(one[0].key) in waiting]
    before = Resolver(document)
    trial = add_mode(document, axis, Mode(key, key), source)
    condition = Condition.of({axis: key})
    rows: list[Row] = []
    for wave in (fills, labels):
        held = [(token, condition, value) for token, value in settled.items()]
        after = Resolver(set_values(trial, held))
        themes = before.theme({axis: source}), after.theme({axis: key})
        for token, value in wave:
            ground = grounds.get(token.key)
            if ground is not None:
                row = _row(before, after, themes, token, value, ground)
                if row is not None:
                    rows.append(row)
                    settled[token.key] = row.proposed
    return rows


def _row(
    before: Resolver,
    after: Resolver,
    themes: tuple[Theme, Theme],
    token: Token,
    value: Value,
    ground: str,
) -> Row | None:
    document = before.document
    was, now = themes
    required = max(
        (p.required for p in document.pairings if p.foreground == token.key), default=0.0
    )
    ladder = ladder_of(document, value)
    if ladder is None or not _opaque(before, ladder[0], was):
        return _label(after, now, token, value, ground, required)
    (yardstick,) = audit(before, [Pairing("", token.key, (ground,))], [was])
    pairs = [Pairing(str(i), step, (ground,)) for i, step in enumerate(ladder[0])]
    readings = audit(after, pairs, [now])
    gaps = [math.inf if one.missing else abs(one.gap) for one in readings]
    if yardstick.missing or min(gaps) == math.inf:
        return None
    wanted = abs(yardstick.gap)
    best = min(
        (readings[i].ratio < required, abs(gap - wanted), i)
        for i, gap in enumerate(gaps)
        if gap != math.inf
    )[2]
    proposed = reference_to(document, _token(document, ladder[0][best]))
    even = abs(gaps[best] - wanted) <= EVEN
    words = (
        "stands out as much as here"
        if even
        else f"stands out by {gaps[best]:.0f} L* there, {wanted:.0f} here"
    )
    return Row(token, value, proposed, "tuned", words)


def _label(
    after: Resolver, theme: Theme, token: Token, value: Value, ground: str, required: float
) -> Row | None:
    """A color without a ladder that can no longer be read on its ground takes the end of the ink
    that can: the step of the most used ladder, white or black, of the highest contrast."""
    document = after.document
    if not required:
        return None
    ends = {key: None for ramp in document.ramps if len(ramp.steps) >= 3 for key in _ends(ramp)}
    plain = [t.key for t in document.tokens if t.tier == "raw" and t.path in ("white", "black")]
    keys = [token.key, *plain, *ends]
    readings = audit(after, [Pairing(key, key, (ground,)) for key in keys], [theme])
    own = readings[0]
    if own.missing or own.ratio >= required:
        return None
    known = [one for one in readings[1:] if not one.missing]
    if not known:
        return None
    best = max(known, key=lambda one: one.ratio)
    proposed = reference_to(document, _token(document, best.pairing))
    return Row(token, value, proposed, "label", f"{best.shown} on its fill, {own.shown} as it is")


def _ends(ramp: Ramp) -> tuple[str, str]:
    return ramp.steps[0], ramp.steps[-1]


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
