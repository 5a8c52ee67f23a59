"""Lengths and durations that Design Tokens files cannot hold."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Finding, Fix, check_of_tokens, tokens_of
from prism.expressions.evaluation import Calculation, Quantity
from prism.expressions.types import TOKEN_TYPES
from prism.model.document import Token, shown_path
from prism.resolution.answers import css_value


def of(analysis: Analysis, token: Token) -> Iterator[Finding]:
    """A finding for a length or duration in a unit that other readers do not know."""
    resolver = analysis.resolver
    units = TOKEN_TYPES[token.type].units
    if not units:
        return
    value = resolver.resolve(token.key, resolver.default_theme).value
    if isinstance(value, Calculation) or (isinstance(value, Quantity) and value.unit not in units):
        yield Finding(
            "unit",
            f"{shown_path(token.path)} is {css_value(value, token.type)}, which "
            "Design Tokens files cannot hold.",
            token.key,
            fixes=(Fix(f"Use {' or '.join(units)}; other readers see text."),),
        )


CHECK = check_of_tokens("unit", "Unit", "Other programs cannot compute with it.", of, tokens_of)
