"""Tokens without a value in some themes."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Finding, Fix, check_of_tokens, tokens_of
from prism.model.document import Document, Token, shown_path
from prism.model.values import BASE


def of(analysis: Analysis, token: Token) -> Iterator[Finding]:
    """A finding for a token without a base value."""
    if token.value(BASE) is not None:
        return
    modes = _modes(analysis.document, token)
    yield Finding(
        "absent",
        f"{shown_path(token.path)} is there only under {', '.join(modes)}."
        if modes
        else f"{shown_path(token.path)} has no value at all.",
        token.key,
        fixes=(Fix("Give it a base value, if it is meant to show elsewhere."),),
    )


def _modes(document: Document, token: Token) -> list[str]:
    """The modes that a token has values in, axis by axis, in words."""
    words = []
    for axis in document.axes:
        modes = dict.fromkeys(condition.mode_on(axis.key) for condition, _ in token.values)
        names = [axis.mode(mode).name for mode in modes if mode is not None]
        if names:
            words.append(f"{axis.name} {' and '.join(names)}")
    return words


CHECK = check_of_tokens(
    "absent", "Missing in some themes", "Something is missing in a theme.", of, tokens_of
)
