"""Deprecated tokens that are still used."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.expressions.values import references
from prism.model.document import Document, shown_path


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each deprecated token that a value, a pairing or a scene uses."""
    users = _users(analysis.document)
    for token in analysis.document.tokens:
        if token.deprecated is None or token.key not in users:
            continue
        named = users[token.key]
        more = f" and {len(named) - 1} more" if len(named) > 1 else ""
        reason = f": {token.deprecated.rstrip('.')}" if token.deprecated else ""
        yield Finding(
            "deprecated",
            f"{shown_path(token.path)} is deprecated{reason}, and used by {named[0]}{more}.",
            token.key,
            fixes=(Fix("Use its successor there."),),
        )


def _users(document: Document) -> dict[str, list[str]]:
    """What uses each deprecated token, in words, by key."""
    old = {token.key for token in document.tokens if token.deprecated is not None}
    users: dict[str, list[str]] = {}
    if not old:
        return users
    for token in document.tokens:
        for _, value in token.values:
            for path in references(value, token.type):
                target = document.token_at(path)
                if target is not None and target.key in old:
                    users.setdefault(target.key, []).append(shown_path(token.path))
    for pairing in document.pairings:
        for key in {pairing.foreground, *pairing.backgrounds} & old:
            users.setdefault(key, []).append("a pairing")
    for scene in document.scenes:
        for slot, key in scene.bindings:
            if key in old:
                users.setdefault(key, []).append(f"the slot {slot}")
    return users


def _deprecated(analysis: Analysis) -> Looked:
    count = sum(token.deprecated is not None for token in analysis.document.tokens)
    return Looked(count, "deprecated token")


CHECK = Check("deprecated", "Deprecated", "What is used cannot be taken out.", run, _deprecated)
