"""The tiers of imported tokens: what refers to others, and what its name says it is for."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from prism.expressions import tiers
from prism.model.document import Token
from prism.model.grouping import NO_GROUP, groups
from prism.roles.lexicon import meanings_of, words_of

#: Meanings that say what a color is for, and not what it is.
_FOR = frozenset(
    (
        *("surface", "text", "label", "icon", "line", "ring", "page", "card", "raised", "floating"),
        *("sunken", "modal", "tooltip", "field", "link", "focus", "hint", "fill"),
    )
)
#: Colors that are numbered alike make a palette from this many on.
_PALETTE = 5


def with_tiers(tokens: tuple[Token, ...]) -> tuple[Token, ...]:
    """Tokens with their tier guessed: as ``expressions.tiers`` does; and literal colors that are named
    after what they are for are semantic, where a palette stands beside them or they vary by mode."""
    guessed = tiers.with_tiers(tokens)
    listed = groups(guessed)
    sizes, named = Counter[str](), Counter[str]()
    for token in guessed:
        sizes[listed[token.key][0]] += 1
        named[listed[token.key][0]] += _has_purpose(token)
    purposeful = [
        token
        for token in guessed
        if _has_purpose(token)
        and (
            listed[token.key][0] == NO_GROUP
            or 2 * named[listed[token.key][0]] > sizes[listed[token.key][0]]
        )
    ]
    varies = any(len(token.values) > 1 for token in purposeful)
    if not purposeful or not (varies or _has_palette(guessed)):
        return guessed
    keys = {token.key for token in purposeful}
    return tuple(replace(t, tier="semantic") if t.key in keys else t for t in guessed)


def _has_purpose(token: Token) -> bool:
    words = words_of(token.path)
    if token.tier != "raw" or token.type != "color" or not words or words[-1].isdigit():
        return False
    return any(meanings_of(word) & _FOR for word in words)


def _has_palette(tokens: Sequence[Token]) -> bool:
    """Whether there are colors that differ by a number alone."""
    counts: Counter[tuple[str, ...]] = Counter()
    for token in tokens:
        words = words_of(token.path)
        if token.type == "color" and token.tier == "raw" and len(words) > 1 and words[-1].isdigit():
            counts[words[:-1]] += 1
    return max(counts.values(), default=0) >= _PALETTE
