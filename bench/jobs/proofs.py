"""Proofs of outcomes outside the page: by the files that were exported, the resolver, and Chromium."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import count

from coloraide import Color
from playwright.sync_api import Page

from prism.analysis import Analysis
from prism.color import space
from prism.formats import css, files
from prism.model.document import Document
from prism.model.names import css_names
from prism.resolution.contrast import Reading, audit
from prism.scenes.markup import SceneRead
from prism.scenes.stage import Staged


class NotDoneError(AssertionError):
    """A job that did not come to what it was done for."""


def proved(holds: bool, sentence: str) -> None:
    """Raise ``NotDoneError`` where something does not hold."""
    if not holds:
        raise NotDoneError(sentence)


def document_of(text: str, name: str = "exported.css") -> Document:
    """The document of an exported file."""
    numbers = count()
    return files.read({name: text.encode()}, lambda: f"x{next(numbers)}").document


def falling_short(document: Document) -> list[Reading]:
    """Every reading of every pairing, by hand or by rule, that falls short in some theme."""
    analysis = Analysis(document)
    readings = audit(
        analysis.paired_resolver, analysis.paired.pairings, list(analysis.resolver.themes())
    )
    return [reading for reading in readings if reading.fails]


def scene_falling_short(document: Document, scene: SceneRead) -> int:
    """How many texts of a scene are below 4.5, over all themes."""
    analysis = Analysis(document)
    themes = analysis.resolver.themes()
    return sum(Staged(analysis, scene, theme).failing()[0] for theme in themes)


def seen_otherwise(document: Document, shown: Mapping[tuple[str, ...], Sequence[float]]) -> int:
    """How many of the differences that are shown, for two paths in normal, protan, deutan and tritan sight and without
    color, are not the least one over all themes by coloraide: its Machado filters, its CIEDE2000."""
    resolver = Analysis(document).resolver
    wrong = 0
    for (first, second), numbers in shown.items():
        keys = [token.key for path in (first, second) if (token := document.token_at(path))]
        least: list[tuple[bool, float]] = [(True, 1e9)] * len(numbers)
        for theme in resolver.themes():
            pair = [Color(resolver.resolve(key, theme).hex) for key in keys]
            for place, sight in enumerate(_SIGHTS):
                one, other = (_seen(color, sight) for color in pair)
                apart = one.delta_e(other, method="2000", space="lab")
                lighter = abs(one.convert("lab")["l"] - other.convert("lab")["l"])
                least[place] = min(least[place], (apart >= 10 or lighter >= 20, apart))
        wrong += sum(abs(a - b) > 0.06 for a, (_, b) in zip(numbers, least, strict=True))
    return wrong


_SIGHTS = ("normal", "protan", "deutan", "tritan", "gray")


def _seen(color: Color, sight: str) -> Color:
    if sight == "normal":
        return color
    if sight == "gray":
        light = color.convert("srgb-linear")
        shade = 0.2126 * light["r"] + 0.7152 * light["g"] + 0.0722 * light["b"]
        return Color("srgb-linear", [shade] * 3)
    return color.filter(sight, 1, method="machado").clip()


def same_in_chromium(page: Page, sheet: str, document: Document) -> int:
    """How many colors a style sheet gives in Chromium, each theme by its attributes, as the resolver says;
    raises where one differs by more than 1 of 255."""
    resolver = Analysis(document).resolver
    names = css_names(document)
    blank = page.context.browser.new_page()  # type: ignore[union-attr]
    compared = 0
    try:
        for theme in resolver.themes():
            marks = " ".join(f'{k}="{v}"' for k, v in css.root_attributes(document, theme).items())
            blank.set_content(f"<!doctype html><html {marks}><style>{sheet}</style><body></body>")
            for token in document.tokens:
                wanted = resolver.resolve(token.key, theme).color
                if token.private or wanted is None or not space.in_gamut(wanted, "srgb"):
                    continue
                shown = blank.evaluate(
                    """(name) => { document.body.style.color = `var(${name})`;
                        return getComputedStyle(document.body).color; }""",
                    f"--{names[token.key]}",
                )
                got = space.rgba8(space.fit(space.parse_function(str(shown)), "srgb"))
                near = all(
                    abs(a - b) <= 1 for a, b in zip(got[:3], space.rgba8(wanted)[:3], strict=True)
                )
                proved(near, f"{token.path} is {shown} in Chromium, {space.hex_text(wanted)} here")
                compared += 1
    finally:
        blank.close()
    return compared
