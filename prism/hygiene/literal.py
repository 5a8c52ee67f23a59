"""Semantic and component tokens that hold a literal color."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Finding, Fix, above_raw, check_of_tokens
from prism.expressions.values import references
from prism.model.document import Token, shown_path


def is_unlinked(token: Token) -> bool:
    """Whether a token is a color above the raw tier with a value that refers to no token."""
    if token.tier == "raw" or token.type != "color":
        return False
    return any(not list(references(value, token.type)) for _, value in token.values)


def of(analysis: Analysis, token: Token) -> Iterator[Finding]:
    """A finding for a color that follows no palette."""
    if is_unlinked(token):
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
