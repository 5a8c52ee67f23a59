"""Names that do not follow the naming scheme of the project."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.expressions.values import nearest
from prism.model.document import Scheme, shown_path
from prism.naming import scheme as naming


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each token whose name begins as those of a scheme do, and is none of them."""
    schemes = analysis.document.schemes
    allowed = {path for scheme in schemes for path in naming.paths(scheme)}
    begun = {word for scheme in schemes for word in _first_words(scheme)}
    for token in analysis.document.tokens:
        path = shown_path(token.path)
        if token.tier == "raw" or token.top not in begun or path in allowed:
            continue
        near = nearest(path, allowed)
        near = f" The nearest is {near}." if near else ""
        yield Finding(
            "naming",
            f"{path} is no name of the naming scheme.{near}",
            token.key,
            severity="note",
            fixes=(Fix("Rename it, or add its words to the scheme."),),
        )


def _first_words(scheme: Scheme) -> tuple[str, ...]:
    return scheme.parts[0][1] if scheme.parts else ()


def _schemes(analysis: Analysis) -> Looked:
    return Looked(len(analysis.document.schemes), "naming scheme")


CHECK = Check(
    "naming", "Name", "A name outside the scheme is not found by those who know it.", run, _schemes
)
