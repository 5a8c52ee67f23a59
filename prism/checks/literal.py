"""Semantic and component tokens that hold a literal color."""

from __future__ import annotations

from collections.abc import Iterator

from prism.checks.check import Analyzed, Check, Finding, Fix, above_raw
from prism.expressions.values import references
from prism.model.document import shown_path


def run(analysis: Analyzed) -> Iterator[Finding]:
    """A finding for each color token above the raw tier with a value that refers to no token."""
    for token in analysis.document.tokens:
        if token.tier == "raw" or token.type != "color":
            continue
        if any(not list(references(value, token.type)) for _, value in token.values):
            yield Finding(
                "literal",
                f"{shown_path(token.path)} holds a literal among references.",
                token.key,
                severity="note",
                fixes=(Fix("Link it to a raw token."),),
            )


CHECK = Check("literal", "Literal", "A literal does not follow its palette.", run, above_raw)
