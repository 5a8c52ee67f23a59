"""Private tokens that are given out all the same."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.model.document import shown_path


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each private token that has a name for export, or that a scene is bound to."""
    bound = {key for scene in analysis.document.scenes for _, key in scene.bindings}
    for token in analysis.document.tokens:
        if not token.private:
            continue
        if token.export_names:
            cause = f"has a name for export, {token.export_names[0][1]}"
        elif token.key in bound:
            cause = "is bound to a slot of a scene"
        else:
            continue
        yield Finding(
            "private",
            f"{shown_path(token.path)} is private and {cause}.",
            token.key,
            fixes=(Fix("Make it public, or take the name out."),),
        )


def _private(analysis: Analysis) -> Looked:
    return Looked(sum(token.private for token in analysis.document.tokens), "private token")


CHECK = Check("private", "Private", "What others can see, they come to depend on.", run, _private)
