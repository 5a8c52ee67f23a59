"""A starting point: several brands over one set of meanings."""

from __future__ import annotations

from dataclasses import replace

from prism.model.document import Axis, Document, Mode
from prism.model.values import BASE, Condition
from prism.palette.building import NewKey
from prism.starters import parts

BRAND = Axis(
    "brand",
    "brand",
    (
        Mode("first", "first", "The first brand"),
        Mode("second", "second", "The second brand"),
        Mode("third", "third", "The third brand"),
    ),
    "first",
    "Whose product it is",
)
_PAGE = """
# How this scheme is meant

Three brands share every meaning. **What differs stands in one place**: `accent.1` to `accent.11`
are the steps of the brand's own ramp, and all meanings that show the brand refer to `accent`.

- To dress the scheme for a brand, retune its ramp (`brand a`, `brand b`, `brand c`).
- To add a brand, add a ramp and a mode on the axis `brand`, and map `accent` to it.
- Corners differ by brand too: see `corner.card`.

Because ramps are anchored, a brand that is exchanged keeps the contrast of every pairing.
"""


def build(new_key: NewKey) -> Document:
    """The whole scheme, with fresh keys."""
    ramps = (
        ("ink", "#70706c", "ink"),
        ("brand a", "#24705a", "identity"),
        ("brand b", "#a83a55", "identity"),
        ("brand c", "#5b4bb0", "identity"),
    )
    document = parts.start("Several brands", (parts.APPEARANCE, BRAND), ramps, new_key)
    document = parts.scales(document, ("space", "radius", "size", "weight", "shadow"), new_key)
    brands = {"first": "brand a", "second": "brand b", "third": "brand c"}
    document = parts.switch(document, brands, "brand", new_key)
    document = parts.mean(document, parts.COMMON, new_key)
    for name, step in parts.SPACES.items():
        document = parts.measure(
            document, f"gap.{name}", "dimension", {BASE: f"{{space.{step}}}"}, new_key
        )
    corners = {
        BASE: "{radius.2}",
        Condition.of({"brand": "second"}): "{radius.4}",
        Condition.of({"brand": "third"}): "{radius.0}",
    }
    document = parts.measure(document, "corner.card", "dimension", corners, new_key)
    document = parts.measure(document, "lift.card", "shadow", {BASE: "{shadow.1}"}, new_key)
    document = parts.pair(document, parts.COMMON_PAIRS, new_key)
    return replace(
        document,
        description="Three brands over one set of meanings, light and dark.",
        groups=parts.GROUPS,
        pages=parts.page("How this scheme is meant", _PAGE, new_key),
    )
