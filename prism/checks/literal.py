"""Semantic and component tokens that hold a literal color."""

from __future__ import annotations

from collections.abc import Iterator

from prism.checks.check import Analyzed, Finding, Fix, above_raw, check_of_tokens
from prism.expressions.values import references
from prism.model.document import Token, shown_path


def of(analysis: Analyzed, token: Token) -> Iterator[Finding]:
    """A finding for a color token above the raw tier with a value that refers to no token."""
    if token.tier == "raw" or token.type != "color":
        return
    if any(not list(references(value, token.type)) for _, value in token.values):
        yield Finding(
            "literal",
            f"{shown_path(token.path)} holds a literal among references.",
            token.key,
            severity="note",
            fixes=(Fix("Link it to a raw token."),),
        )


CHECK = check_of_tokens(
    "literal", "Literal", "A literal does not follow its palette.", of, above_raw
)
