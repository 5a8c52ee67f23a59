"""What a browser shows of a document on an sRGB screen when it is given the values as typed.

The core maps a color outside the gamut at its token. Chromium carries it on unmapped through
references, and cuts each channel to sRGB where it paints.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from prism.color import space
from prism.model.document import Document
from prism.resolution.answers import Answer, Items, Parts, Resolved
from prism.resolution.resolver import Resolver, Theme


def clipped_answers(document: Document) -> Callable[[str, Theme], Answer]:
    """As ``Resolver.resolve``, by key and theme, with colors outside sRGB clipped."""
    resolver = Resolver(replace(document, gamut=space.UNBOUNDED))

    def answer(key: str, theme: Theme) -> Answer:
        mine = resolver.resolve(key, theme)
        return mine if mine.value is None else replace(mine, value=_clipped(mine.value))

    return answer


def _clipped(value: Resolved) -> Resolved:
    if isinstance(value, space.Color):
        return space.clip(value, "srgb")
    if isinstance(value, Parts):
        return Parts(tuple((name, _clipped(part)) for name, part in value.parts))
    if isinstance(value, Items):
        return Items(tuple(_clipped(item) for item in value.items), value.count)
    return value
