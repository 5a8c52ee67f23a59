"""The last step of every reader: what came is a whole document, or is refused with its place."""

from __future__ import annotations

from collections.abc import Mapping

from prism.errors import FormatError
from prism.model.document import Document
from prism.model.whole import flaws


def whole(document: Document, places: Mapping[str, str], file: str = "") -> Document:
    """``document`` itself; ``FormatError`` for the first thing that keeps it from being whole.

    ``places`` names, by path, where each token stood; ``file`` is the place of all else.
    References to nothing and circles are kept as they are.
    """
    for flaw in flaws(document):
        token = document.token(flaw.key) if flaw.kind == "token" else None
        place = places.get(token.path, token.path) if token else file or document.name
        raise FormatError(flaw.sentence, place=place[:200], fix="Change it there and import again.")
    return document
