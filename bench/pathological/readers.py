"""What pathological texts go through in the core, and in what is shown of it."""

from __future__ import annotations

import itertools
from collections.abc import Callable

from bench.pathological.shapes import MOST
from prism.errors import PrismError
from prism.model.document import TYPES, Document, Token


def _key() -> Callable[[], str]:
    numbers = itertools.count()
    return lambda: f"k{next(numbers)}"


def _document() -> Document:
    from prism.model.values import BASE, Expression

    colors = [Token("a", "a", "color", "raw", ((BASE, Expression("#123456")),))]
    colors += [
        Token(f"t{i}", f"a.t{i}x", "color", "semantic", ((BASE, Expression("{a}")),))
        for i in range(20)
    ]
    return Document(name="Small", tokens=tuple(colors))


def through_file(name: str) -> Callable[[str], None]:
    """Reads a file, resolves it, writes it and runs every check."""

    def run(text: str) -> None:
        from prism.formats import css_in_place, files
        from prism.resolution.current import resolver_of

        document = files.read({name: text.encode(errors="replace")[:MOST]}, _key()).document
        resolver = resolver_of(document)
        for token in document.tokens:
            resolver.resolve(token.key, resolver.default_theme)
        css_in_place.write(document)
        files.write(document, "css", resolver.default_theme)

    return run


def through_text(text: str) -> None:
    """Reads a pasted text as whatever it holds."""
    from prism.palette import imports

    try:
        imports.document_of_text(text, _key())
    except PrismError:
        imports.from_text(_document(), text)


def through_value(text: str) -> None:
    """Reads a value as each type."""
    from prism.changes.values import set_value
    from prism.expressions.typed_input import read_typed, typed
    from prism.model.values import BASE
    from prism.resolution.resolver import Resolver

    for kind in TYPES:
        token = Token("v", "v", kind, "raw", ())
        document = Document(name="Small", tokens=(*_document().tokens, token))
        try:
            value = read_typed(document, text, token)
            typed(value, kind)
            changed = set_value(document, "v", BASE, value)
            resolver = Resolver(changed)
            resolver.resolve("v", resolver.default_theme)
        except PrismError:
            continue


def through_paste(text: str) -> None:
    """Pastes a text onto the sheet."""
    from prism.sheet import paste

    document = _document()
    paste.grid(text)
    named = paste.named(document, text)
    if named is not None:
        list(named.unknown)


def through_name(text: str) -> None:
    """Adds and renames a token."""
    from prism.changes import structure
    from prism.model.names import segment

    segment(text)
    structure.rename_token(_document(), "a", text)


def through_find(text: str) -> None:
    """Looks for a text in names and values, and completes it."""
    from prism.analysis import Analysis
    from prism.sheet import completion, filters

    analysis = Analysis(_document())
    document, resolver = analysis.document, analysis.resolver
    filters.choose(analysis, filters.Filter(words=text), [resolver.default_theme])
    completion.complete(document, text, document.tokens[1], resolver=resolver)


def through_pattern(text: str) -> None:
    """Looks for what a pattern of paths fits."""
    from prism.roles import patterns

    patterns.fitting(_document(), text)


def through_names(text: str) -> None:
    """Makes names by a scheme."""
    from prism.naming import scheme as naming

    scheme = naming.read("a", [("part", text), ("other", "a b c")], "k")
    naming.names(_document(), scheme)


def through_words(text: str) -> None:
    """Asks for ideas by words."""
    from prism.palette.ideas import Brief
    from studio.standins import word_ideas

    word_ideas.WordIdeas().ideas(Brief(text))


def through_note(text: str) -> None:
    """Shows a description."""
    from studio.ui import markdown

    markdown.markup(text)


def through_target(text: str) -> None:
    """Reads the fields of a ramp."""
    from prism.palette import ramps, recipes

    ramps.make(recipes.read({"seed": text, "targets": text, "names": text}))


READERS: dict[str, Callable[[str], None]] = {
    "css": through_file("a.css"), "tokens": through_file("a.tokens.json"), "csv": through_file("a.csv"),
    "gpl": through_file("a.gpl"), "svg": through_file("a.svg"), "text": through_text, "paste": through_paste,
    "value": through_value, "name": through_name, "find": through_find, "pattern": through_pattern,
    "names": through_names, "words": through_words, "note": through_note, "target": through_target,
}  # fmt: skip
