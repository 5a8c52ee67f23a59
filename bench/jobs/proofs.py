"""Proofs of outcomes outside the page: by the files that were exported, the resolver, and Chromium."""

from __future__ import annotations

from itertools import count

from playwright.sync_api import Page

from prism.analysis import Analysis
from prism.color import space
from prism.formats import css, files
from prism.model.document import Document
from prism.model.names import css_names
from prism.resolution.contrast import Reading, audit
from prism.view_models.scenes import SceneRead
from prism.view_models.stage import Staged


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
    readings = audit(analysis.judging, analysis.judged.pairings, list(analysis.resolver.themes()))
    return [reading for reading in readings if reading.fails]


def scene_falling_short(document: Document, scene: SceneRead) -> int:
    """How many texts of a scene are below 4.5, over all themes."""
    analysis = Analysis(document)
    themes = analysis.resolver.themes()
    return sum(Staged(analysis, scene, theme).failing()[0] for theme in themes)


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
