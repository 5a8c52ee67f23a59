"""Whether a whole document holds together."""

from __future__ import annotations

from collections.abc import Mapping

from prism.errors import FormatError
from prism.tokens.expressions import leaves, nearest, reference_of
from prism.tokens.model import Document
from prism.tokens.resolve import Resolver

_MAX_THEMES_CHECKED = 4096


def validate(document: Document, places: Mapping[str, str]) -> None:
    """Check every reference of a document that came from outside.

    ``places`` names, by path, where each token stood. Raises ``FormatError`` for a reference to
    nothing, of a wrong type, or in a circle.
    """
    paths = [token.path for token in document.tokens]
    for token in document.tokens:
        place = places.get(token.path, token.path)
        for _, value in token.values:
            for expression, expected in leaves(value, token.type):
                path = reference_of(expression.text)
                if not path:
                    continue
                target = document.token_at(path)
                if target is None:
                    raise FormatError(
                        f"{{{path}}} does not exist.", place=place, mend=nearest(path, paths)
                    )
                if target.type != expected and {target.type, expected} != {"number", "fontWeight"}:
                    raise FormatError(
                        f"{{{path}}} is a {target.type}, and a {expected} is needed here.",
                        place=place,
                    )
    resolver = Resolver(document)
    for number, theme in enumerate(resolver.themes()):
        if number >= _MAX_THEMES_CHECKED:
            break
        for token in document.tokens:
            answer = resolver.resolve(token.key, theme)
            if answer.broken.startswith("Circle"):
                where = ", ".join(
                    f"{axis.name} {axis.modes[theme[i]].name}"
                    for i, axis in enumerate(document.axes)
                )
                raise FormatError(
                    answer.broken,
                    place=places.get(token.path, token.path) + (f" ({where})" if where else ""),
                    mend="Give one of them a value of its own.",
                )
