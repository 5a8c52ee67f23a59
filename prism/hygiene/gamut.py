"""Colors that screens of sRGB cannot show."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Finding, Fix, Looked, check_of_tokens
from prism.color import space
from prism.model.document import Token, shown_path
from prism.model.values import Expression


def of(analysis: Analysis, token: Token) -> Iterator[Finding]:
    """A finding for a color that lies beyond sRGB, or had to be brought into the gamut, by a value of
    its own."""
    if token.type != "color" or all(_is_alias(value) for _, value in token.values):
        return
    beyond = [
        (fixed, answer)
        for fixed, answer in analysis.answers.of(token.key)
        if answer.color is not None and (answer.mapped or not space.in_gamut(answer.color, "srgb"))
    ]
    if beyond:
        yield _finding(analysis, token, beyond[0][1].hex, [fixed for fixed, _ in beyond])


def _finding(analysis: Analysis, token: Token, shown: str, parts: list[tuple[int, ...]]) -> Finding:
    return Finding(
        "gamut",
        f"{shown_path(token.path)} lies beyond sRGB; most screens show {shown}.",
        token.key,
        themes=sum(analysis.answers.share(fixed) for fixed in parts),
        severity="note",
        fixes=(Fix("Lower its chroma, or leave it to wide screens."),),
    )


def _is_alias(value: object) -> bool:
    text = value.text.strip() if isinstance(value, Expression) else ""
    return text.startswith("{") and text.endswith("}") and text.count("{") == 1


def _colors(analysis: Analysis) -> Looked:
    return Looked(sum(token.type == "color" for token in analysis.document.tokens), "color")


CHECK = check_of_tokens("gamut", "Beyond sRGB", "Most screens show another color.", of, _colors)
