"""Tokens that refer to nothing, to another type, or in a circle."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Finding, Fix, check_of_tokens, tokens_of
from prism.model.document import Token, shown_path


def of(analysis: Analysis, token: Token) -> Iterator[Finding]:
    """A finding for a reason why a token itself has no result in some theme."""
    document, answers = analysis.document, analysis.answers
    reasons = {
        answer.broken: fixed
        for fixed, answer in answers.of(token.key)
        if answer.broken and not answer.passed_on
    }
    for sentence, fixed in reasons.items():
        modes = zip(document.axes, fixed, strict=True)
        yield Finding(
            "broken",
            f"{shown_path(token.path)} has no result: {sentence}",
            token.key,
            ", ".join(f"{axis.name} {axis.modes[i].name}" for axis, i in modes if i >= 0),
            answers.share(fixed),
            "error",
            (Fix("Give it another value."),),
            about=sentence,
        )


CHECK = check_of_tokens("broken", "Broken", "A broken token shows nothing.", of, tokens_of)
