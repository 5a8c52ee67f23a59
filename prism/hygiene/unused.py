"""Raw colors that nothing uses, and unused deprecated tokens."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.commands.names import shown_ramp
from prism.model.document import shown_path


def used_tokens(analysis: Analysis, ramps: bool = True) -> set[str]:
    """Keys of the tokens that a value, a pairing, a set or a scene uses, or with ``ramps`` a ramp has."""
    document = analysis.document
    used = analysis.resolver.graph.named()
    for pairing in document.pairings:
        used.update((pairing.foreground, *pairing.backgrounds, pairing.page))
    for scene in document.scenes:
        used.update(key for _, key in scene.bindings)
    if ramps:
        for ramp in document.ramps:
            used.update(ramp.steps)
            used.add(ramp.base)
    for told_apart in document.telling_apart:
        used.update(told_apart.tokens)
    return used


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each raw color that nothing uses, each deprecated raw token, and each ramp of which
    no step is used.

    Steps of ramps and scales are there to be chosen from, used or not.
    """
    yield from _unused_ramps(analysis)
    used = used_tokens(analysis)
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
                severity="note",
                fixes=(
                    Fix("Remove it", "remove-token", (("token", token.key),)),
                    Fix("Refer to it."),
                ),
            )
        else:
            successor = token.deprecated or "no successor is named"
            yield Finding(
                "unused",
                f"{path} is unused and deprecated: {successor.rstrip('.')}.",
                token.key,
                severity="note",
                fixes=(Fix("Remove it", "remove-token", (("token", token.key),)),),
            )


def _unused_ramps(analysis: Analysis) -> Iterator[Finding]:
    document = analysis.document
    used = used_tokens(analysis, ramps=False)
    for ramp in document.ramps:
        members = tuple(filter(None, (*ramp.steps, ramp.base)))
        if len(ramp.steps) > 1 and used.isdisjoint(members):
            yield Finding(
                "unused",
                f"Nothing uses the ramp {shown_ramp(ramp)}, {len(members)} colors.",
                severity="note",
                fixes=(
                    Fix("Remove it", "delete-tokens", tuple(("tokens", key) for key in members)),
                ),
                about=ramp.key,
            )


def _raw(analysis: Analysis) -> Looked:
    return Looked(sum(token.tier == "raw" for token in analysis.document.tokens), "raw token")


CHECK = Check("unused", "Unused", "Unused tokens make a scheme harder to read.", run, _raw)
