"""A starting point: one product, light and dark."""

from __future__ import annotations

from dataclasses import replace

from prism.model.document import Document
from prism.model.values import BASE
from prism.palette.building import NewKey
from prism.starters import parts

_PAGE = """
# How this scheme is meant

**Raw colors say what a color is, semantic tokens what it is for.** Nothing but a semantic token
should be used in the interface; a raw color is used by semantic tokens alone.

- `ink` is the neutral ramp, tinted towards the identity. Words, lines and grounds come from it.
- `accent` is the identity. Replace its seed with the color of the product and retune it: every
  step keeps its contrast on white, so all meanings still hold.
- `second` is for what is special and rare.
- The four signals are success, warning, error and information.

Steps are anchored: step 8 of any ramp has the same contrast on white as step 8 of any other.
Light uses steps from 7 up for words, dark the steps up to 5.
"""


def build(new_key: NewKey) -> Document:
    """The whole scheme, with fresh keys."""
    ramps = (
        ("ink", "#66737a", "ink"),
        ("accent", "#2f5fa8", "identity"),
        ("second", "#b85a28", "identity"),
    )
    document = parts.start("One product", (parts.APPEARANCE,), ramps, new_key)
    document = parts.scales(
        document, ("space", "radius", "size", "duration", "weight", "shadow"), new_key
    )
    document = parts.mean(
        document,
        {
            **parts.COMMON,
            "special.fill": ("{second.7}", "{second.5}", "What is rare and new"),
            "special.label": ("{white}", "{ink.11}", "On special.fill"),
        },
        new_key,
    )
    for name, step in parts.SPACES.items():
        document = parts.measure(
            document, f"gap.{name}", "dimension", {BASE: f"{{space.{step}}}"}, new_key
        )
    document = parts.measure(document, "corner.card", "dimension", {BASE: "{radius.2}"}, new_key)
    document = parts.measure(document, "corner.control", "dimension", {BASE: "{radius.1}"}, new_key)
    document = parts.measure(document, "lift.card", "shadow", {BASE: "{shadow.1}"}, new_key)
    pairs = (*parts.COMMON_PAIRS, ("special.label", "special.fill", "text"))
    document = parts.pair(document, pairs, new_key)
    return replace(
        document,
        description="One product in light and dark.",
        groups=parts.GROUPS,
        pages=parts.page("How this scheme is meant", _PAGE, new_key),
    )
