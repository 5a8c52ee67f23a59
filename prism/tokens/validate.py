"""Whether a whole document holds together."""

from __future__ import annotations

from collections.abc import Mapping

from prism.errors import FormatError
from prism.tokens.expressions import nearest, references
from prism.tokens.model import Document
from prism.tokens.resolve import Resolver

_MAX_THEMES_CHECKED = 4096


def validate(document: Document, places: Mapping[str, str]) -> None:
    """Check every reference and every reckoned value of a document that came from outside.

    ``places`` names, by path, where each token stood. Raises ``FormatError`` for a reference to
    nothing, of a wrong type, or in a circle.
    """
    paths = [token.path for token in document.tokens]
    for token in document.tokens:
        place = places.get(token.path, token.path)
        for _, value in token.values:
            for path in references(value, token.type):
                if document.token_at(path) is None:
                    raise FormatError(
                        f"{{{path}}} does not exist.", place=place, mend=nearest(path, paths)
                    )
    resolver = Resolver(document)
    for number, theme in enumerate(resolver.themes()):
        if number >= _MAX_THEMES_CHECKED:
            break
        for token in document.tokens:
            answer = resolver.resolve(token.key, theme)
            if answer.broken and not answer.passed_on:
                where = ", ".join(
                    f"{axis.name} {axis.modes[theme[i]].name}"
                    for i, axis in enumerate(document.axes)
                )
                circle = answer.broken.startswith("Circle")
                raise FormatError(
                    answer.broken,
                    place=places.get(token.path, token.path) + (f" ({where})" if where else ""),
                    mend="Give one of them a value of its own." if circle else "",
                )
