"""Colors that nobody judged: they stand in no known pairing, and are not known to need none.

What is said of pairings is said of those that are known; these are what was left out of it.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from prism.analysis import Analysis
from prism.expressions.syntax import reference_of
from prism.model.document import Document, Pairing, Token, shown_path
from prism.model.values import Expression
from prism.roles.grounds import Guess
from prism.roles.role import UNKNOWN, Role


def unplaced(analysis: Analysis) -> tuple[Token, ...]:
    """The colors of a document that no pairing judges; asked for by ``Analysis.once``."""
    return unplaced_of(analysis.document, analysis.roles, analysis.paired.pairings)


def unplaced_of(
    document: Document, guesses: Mapping[str, Guess], pairings: Iterable[Pairing]
) -> tuple[Token, ...]:
    """As ``unplaced``, of a document with some pairings and what its colors are for.

    A step of a palette needs no pairing, unless the palette is all there is. A token that only refers to others that are
    judged is judged with them.
    """
    judged = _judged(document, pairings)
    colors = [token for token in document.tokens if token.type == "color"]
    known = [token for token in colors if token.key in guesses]
    return tuple(
        token
        for token in known or colors
        if token.key not in judged and not _needs_none(guesses.get(token.key))
    )


def _needs_none(known: Guess | None) -> bool:
    """Whether it is sure that a color needs no contrast: WCAG 2.2, 1.4.3 and 1.4.11, asks none of what is inactive or
    only sets off."""
    return known is not None and known.is_sure and known.role != UNKNOWN and _is_exempt(known.role)


def _is_exempt(role: Role) -> bool:
    if role.state == "disabled" or role.detail == "disabled" or role.kind in ("shadow", "overlay"):
        return True
    return role.kind == "line" and role.detail in ("", "soft")


def _judged(document: Document, pairings: Iterable[Pairing]) -> set[str]:
    """The keys of tokens in pairings, and of those that only refer to such."""
    judged = {
        key
        for pairing in pairings
        for key in (pairing.foreground, *pairing.backgrounds, pairing.page)
    }
    waiting: dict[str, set[str]] = {}
    users: dict[str, list[str]] = {}
    for token in document.tokens:
        targets = _targets(document, token)
        if targets and token.tier != "raw" and token.key not in judged:
            waiting[token.key] = targets
            for target in targets:
                users.setdefault(target, []).append(token.key)
    fresh = list(judged)
    while fresh:
        for user in users.get(done := fresh.pop(), ()):
            waiting[user].discard(done)
            if not waiting[user]:
                judged.add(user)
                fresh.append(user)
    return judged


def _targets(document: Document, token: Token) -> set[str]:
    """The keys of the tokens that all values of a token are plain references to; empty where one is not."""
    targets = set[str]()
    for _, value in token.values:
        path = reference_of(value.text) if isinstance(value, Expression) else None
        target = document.token_at(path) if path else None
        if target is None:
            return set()
        targets.add(target.key)
    return targets


def named(tokens: Iterable[Token], most: int = 12) -> str:
    """The paths of colors, some of them where there are many."""
    paths = [shown_path(token.path) for token in tokens]
    rest = len(paths) - most
    return ", ".join(paths[:most]) + (f" and {rest} more" if rest > 0 else "")


def sentence(count: int) -> str:
    """``4 colors are in no known pairing, so they were not judged.`` Empty for none."""
    if not count:
        return ""
    if count == 1:
        return "1 color is in no known pairing, so it was not judged."
    return f"{count} colors are in no known pairing, so they were not judged."
