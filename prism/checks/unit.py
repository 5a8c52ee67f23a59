"""Lengths and durations that Design Tokens files cannot hold."""

from __future__ import annotations

from collections.abc import Iterator

from prism.checks.check import Analyzed, Check, Finding, Fix, tokens_of
from prism.expressions.evaluation import Calculation, Quantity
from prism.expressions.types import TOKEN_TYPES
from prism.model.document import shown_path
from prism.resolution.answers import css_value


def run(analysis: Analyzed) -> Iterator[Finding]:
    """A finding for each length or duration in a unit that other readers do not know."""
    resolver = analysis.resolver
    for token in analysis.document.tokens:
        units = TOKEN_TYPES[token.type].units
        if not units:
            continue
        value = resolver.resolve(token.key, resolver.default_theme).value
        if isinstance(value, Calculation) or (
            isinstance(value, Quantity) and value.unit not in units
        ):
            yield Finding(
                "unit",
                f"{shown_path(token.path)} is {css_value(value, token.type)}, which "
                "Design Tokens files cannot hold.",
                token.key,
                fixes=(Fix(f"Use {' or '.join(units)}; other readers see text."),),
            )


CHECK = Check("unit", "Unit", "Other programs cannot compute with it.", run, tokens_of)
