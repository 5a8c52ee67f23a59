"""Component tokens that skip the semantic tier."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.model.document import Token, shown_path


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each component color that refers to a raw color, where there are semantic ones."""
    document = analysis.document
    if not any(token.tier == "semantic" and token.type == "color" for token in document.tokens):
        return
    for token in document.tokens:
        if token.tier != "component" or token.type != "color":
            continue
        raw = _raw_targets(analysis, token)
        if raw:
            yield Finding(
                "skipping",
                f"{shown_path(token.path)} takes {raw[0]} from the palette, past the semantic tokens.",
                token.key,
                severity="note",
                fixes=(Fix("Refer to a semantic token of that color."),),
            )


def _raw_targets(analysis: Analysis, token: Token) -> list[str]:
    document = analysis.document
    targets = (document.token(key) for key in analysis.resolver.all_targets(token.key))
    return [shown_path(target.path) for target in targets if target and target.tier == "raw"]


def _components(analysis: Analysis) -> Looked:
    return Looked(sum(t.tier == "component" for t in analysis.document.tokens), "component token")


CHECK = Check(
    "skipping",
    "Past the semantic tier",
    "A part that takes its color from the palette is forgotten when meanings change.",
    run,
    _components,
)
