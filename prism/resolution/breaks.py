"""What is broken in a document: references to nothing, circles, values that cannot be computed."""

from __future__ import annotations

from prism.resolution.resolver import Resolver


def breaks(resolver: Resolver, key: str) -> set[str]:
    """Why a token itself is broken, in any theme, a sentence each; empty where it is not."""
    answers = (resolver.resolve(key, theme) for theme in resolver.themes(resolver.influence(key)))
    return {answer.broken for answer in answers if answer.broken and not answer.passed_on}
