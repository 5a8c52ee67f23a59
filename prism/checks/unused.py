"""Raw colors that nothing uses, and unused deprecated tokens."""

from __future__ import annotations

from collections.abc import Iterator

from prism.checks.check import Analyzed, Check, Finding
from prism.expressions.values import references
from prism.model.document import Document, shown_path


def used_tokens(document: Document) -> set[str]:
    """Keys of the tokens that a value, a pairing, a set, a ramp or a scene uses."""
    used = {
        target.key
        for token in document.tokens
        for _, value in token.values
        for path in references(value, token.type)
        if (target := document.token_at(path)) is not None
    }
    for pairing in document.pairings:
        used.update((pairing.foreground, *pairing.backgrounds, pairing.page))
    for scene in document.scenes:
        used.update(key for _, key in scene.bindings)
    for ramp in document.ramps:
        used.update(ramp.steps)
        used.add(ramp.base)
    for told_apart in document.telling_apart:
        used.update(told_apart.tokens)
    return used


def run(analysis: Analyzed) -> Iterator[Finding]:
    """A finding for each raw color that nothing uses, and each deprecated raw token.

    Steps of ramps and scales are there to be chosen from, used or not.
    """
    used = used_tokens(analysis.document)
    for token in analysis.document.tokens:
        if token.tier != "raw" or token.key in used:
            continue
        if token.type != "color" and token.deprecated is None:
            continue
        path = shown_path(token.path)
        if token.deprecated is None:
            yield Finding(
                "unused",
                f"{path} is unused.",
                token.key,
                severity="advice",
                fixes=("Remove it, or refer to it.",),
            )
        else:
            successor = token.deprecated or "no successor is named"
            yield Finding(
                "unused",
                f"{path} is unused and deprecated: {successor.rstrip('.')}.",
                token.key,
                severity="advice",
                fixes=("Remove it.",),
            )


CHECK = Check("unused", "Unused", "Unused tokens make a scheme harder to read.", run)
