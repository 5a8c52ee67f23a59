"""Which modes are dark and which are light, where a file does not say: seen from their colors, and from their names."""

from __future__ import annotations

from dataclasses import replace

from prism.color.difference import oklab
from prism.color.space import rgba
from prism.model.document import Axis, Document
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver
from prism.roles.guess import guesses
from prism.roles.lexicon import words_for, words_of

SCHEMES = ("dark", "light")
#: OKLab lightness below which a page is dark.
_MIDDLE = 0.5


def with_schemes(document: Document) -> Document:
    """The document in which each mode that has no color scheme gets the one that its colors or its name show.

    Colors show it on an axis on which the page is dark in some modes and light in others; there they count for more than
    names. A mode of which neither says anything stays as it is.
    """
    if all(mode.color_scheme for axis in document.axes for mode in axis.modes):
        return document
    resolver = resolver_of(document)
    page = guesses(document, resolver).page
    return replace(document, axes=tuple(_seen(resolver, axis, page) for axis in document.axes))


def _seen(resolver: Resolver, axis: Axis, page: str) -> Axis:
    if len(axis.modes) < 2:
        return axis
    seen = _by_name(axis) | _by_color(resolver, axis, page)
    modes = (
        mode if mode.color_scheme else replace(mode, color_scheme=seen.get(mode.key, ""))
        for mode in axis.modes
    )
    return replace(axis, modes=tuple(modes))


def _by_name(axis: Axis) -> dict[str, str]:
    """The schemes of modes whose names say them, by key."""
    told = {}
    for mode in axis.modes:
        words = {*words_of(mode.name)}
        named = [scheme for scheme in SCHEMES if words & words_for(scheme)]
        if len(named) == 1:
            told[mode.key] = named[0]
    return told


def _by_color(resolver: Resolver, axis: Axis, page: str) -> dict[str, str]:
    """The schemes of modes by the lightness of the page in them; empty where it is dark in all or light in all."""
    if not page:
        return {}
    seen = {}
    for mode in axis.modes:
        theme = resolver.theme({axis.key: mode.key})
        ground = resolver.resolve(page, theme).color
        if ground is not None:
            seen[mode.key] = SCHEMES[int(oklab(rgba(ground)[:3])[0] >= _MIDDLE)]
    return seen if len(set(seen.values())) == 2 else {}
