"""Raw colors that are the same everywhere."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.model.document import Token, shown_path


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each raw color that another one before it is in every theme. Steps of one ramp and of
    another are each in their place."""
    document = analysis.document
    ramp_of = {key: ramp.key for ramp in document.ramps for key in ramp.steps}
    first: dict[tuple[object, ...], Token] = {}
    for token in document.tokens:
        if not token.is_raw_color:
            continue
        answers = tuple((fixed, answer.hex) for fixed, answer in analysis.answers.of(token.key))
        if not all(color for _, color in answers):
            continue
        known = first.setdefault(answers, token)
        if known is token or (known.key in ramp_of and token.key in ramp_of):
            continue
        gone, kept = (token, known) if token.key not in ramp_of else (known, token)
        yield Finding(
            "duplicate",
            f"{shown_path(gone.path)} is the same color as {shown_path(kept.path)}, {answers[0][1]}.",
            gone.key,
            severity="note",
            fixes=(
                Fix(
                    f"Merge into {shown_path(kept.path)}",
                    "remove-token",
                    (("token", gone.key), ("into", kept.key)),
                ),
            ),
            others=(kept.key,),
        )


def _colors(analysis: Analysis) -> Looked:
    return Looked(sum(token.is_raw_color for token in analysis.document.tokens), "raw color")


CHECK = Check(
    "duplicate",
    "Duplicate",
    "Of two names for one color, one is forgotten when it changes.",
    run,
    _colors,
)
