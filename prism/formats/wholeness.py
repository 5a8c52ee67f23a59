"""The last step of every reader: what came is a whole document, or is refused with its place."""

from __future__ import annotations

from collections.abc import Mapping

from prism.errors import FormatError
from prism.formats.limits import MAX_AXES, MAX_TOKENS, MAX_VALUES
from prism.model.document import Document
from prism.model.whole import flaws


def whole(document: Document, places: Mapping[str, str], file: str = "") -> Document:
    """``document`` itself; ``FormatError`` for the first thing that keeps it from being whole.

    ``places`` names, by path, where each token stood; ``file`` is the place of all else.
    References to nothing and circles are kept as they are.
    """
    values = sum(len(token.values) for token in document.tokens)
    for count, most, what in (
        (len(document.tokens), MAX_TOKENS, "tokens"),
        (values, MAX_VALUES, "values"),
        (len(document.axes), MAX_AXES, "axes"),
    ):
        if count > most:
            raise FormatError(f"There are {count:,} {what}; {most:,} are read at most.", place=file)
    for flaw in flaws(document):
        token = document.token(flaw.key) if flaw.kind == "token" else None
        place = places.get(token.path, token.path) if token else file or document.name
        raise FormatError(flaw.sentence, place=place[:200], fix="Change it there and import again.")
    return document
