"""Tokens whose names for CSS are the same."""

from __future__ import annotations

import re
from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, tokens_of
from prism.model.document import Token, shown_path
from prism.model.names import css_names, derived_name, own_name


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each token whose custom property would be called as that of one before it, and
    carries a number because of that."""
    first: dict[str, Token] = {}
    names: dict[str, str] = {}
    for token in analysis.document.tokens:
        known = first.setdefault(_wanted(token), token)
        if known is token:
            continue
        names = names or css_names(analysis.document)
        yield Finding(
            "clash",
            f"{shown_path(token.path)} and {shown_path(known.path)} both come to --{_wanted(token)}; "
            f"it is --{names[token.key]} now.",
            token.key,
            others=(known.key,),
            fixes=(Fix("Rename it, or give it a name of its own for CSS."),),
        )


def _wanted(token: Token) -> str:
    """The custom property that a token would have without others; a number it was given is left out."""
    derived = derived_name(token.path)
    given = dict(token.export_names).get("css", "")
    if given and re.fullmatch(re.escape(derived) + r"-\d+", given):
        return f"_{derived}" if token.private else derived
    return own_name(token)


CHECK = Check("clash", "Name clash", "Two tokens cannot have one custom property.", run, tokens_of)
