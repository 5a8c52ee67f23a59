"""Which modes are dark and which are light, where a file does not say: seen from their colors, and from their names."""

from __future__ import annotations

from dataclasses import replace

from prism.model.document import Axis, Document
from prism.palette.ramps import oklch
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme
from prism.roles.guess import guesses
from prism.roles.lexicon import scheme_named

#: OKLCH lightness below which a page is dark.
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
    return replace(document, axes=tuple(_completed(resolver, axis, page) for axis in document.axes))


def seen(resolver: Resolver, page: str, theme: Theme) -> str:
    """Whether the page, a token by key, is ``dark`` or ``light`` in a theme; empty where it has no color."""
    ground = resolver.resolve(page, theme).color if page else None
    if ground is None:
        return ""
    return "dark" if oklch(ground)[0] < _MIDDLE else "light"


def _completed(resolver: Resolver, axis: Axis, page: str) -> Axis:
    if len(axis.modes) < 2:
        return axis
    known = _by_color(resolver, axis, page)
    modes = (
        mode
        if mode.color_scheme
        else replace(mode, color_scheme=known.get(mode.key) or scheme_named(mode.name))
        for mode in axis.modes
    )
    return replace(axis, modes=tuple(modes))


def _by_color(resolver: Resolver, axis: Axis, page: str) -> dict[str, str]:
    """The schemes of modes by the lightness of the page in them; empty where it is dark in all or light in all."""
    themes = {mode.key: resolver.theme({axis.key: mode.key}) for mode in axis.modes}
    known = {mode: scheme for mode, at in themes.items() if (scheme := seen(resolver, page, at))}
    return known if len(set(known.values())) > 1 else {}
