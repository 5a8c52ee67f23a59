"""A starting point: several brands over one set of meanings."""

from __future__ import annotations

from dataclasses import replace

from prism.brands import addition
from prism.brands.addition import NewBrand
from prism.model.document import Document
from prism.palette.ramp_edits import NewKey
from prism.starters import scheme
from prism.starters.plan import NamedColor, Plan

_DEFAULTS = (
    NamedColor("first", "#24705a"),
    NamedColor("second", "#a83a55"),
    NamedColor("third", "#5b4bb0"),
)
_PAGE = """
All brands share every meaning. What differs is stored in the brand's mode: the ramp that actions,
links and the focus refer to, and whatever else is to be a brand's own.

- To change the color of a brand, retune its ramp.
- To add one, choose Add brand under Tokens, Axes: it gets its ramps, and every token that shows a brand
  refers to them in its mode.

Ramps are anchored, so a brand that is exchanged keeps the contrast of every pairing.
"""


def build(plan: Plan, new_key: NewKey) -> Document:
    """The whole scheme, with fresh keys: a brand for each color, at least two."""
    colors = plan.colors
    if len(colors) < 2:
        colors = (*colors, *_DEFAULTS[len(colors) :][: 3 if not colors else 1])
    first, *others = colors
    document = scheme.build(replace(plan, colors=(first,)), new_key, beside=others)
    for color in others:
        new = NewBrand(color.name, ((color.name, color.base),), first=first.name)
        document = addition.add(document, new, new_key).document
    return scheme.described(document, "Several brands, light and dark.", _PAGE, new_key)
