"""Which color of a picture could play which role: a proposal, and what a role becomes.

Hues of statuses are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from prism.color import space
from prism.color.contrast import ratio_of
from prism.model.document import Document, shown_path
from prism.palette import ramp_edits
from prism.palette.imports import DestinationKind
from prism.palette.ramps import oklch
from prism.roles.grounds import Guess

#: The roles, in the order they are asked for, with what they are called.
ROLES = (
    ("page", "page"),
    ("text", "text"),
    ("brand", "brand"),
    ("accent", "accent"),
    ("success", "success"),
    ("warning", "warning"),
    ("error", "error"),
)
_HUES = {"success": 150.0, "warning": 80.0, "error": 25.0}
#: A status is at most so many degrees from its hue; an accent at least so many from the brand.
_NEAR, _APART = 32.0, 40.0
_COLORED, _PALE = 0.05, 0.06


@dataclass(frozen=True, slots=True)
class Seen:
    """A color of a picture, and its share of it from 0 to 1."""

    color: space.Color
    share: float


def proposed(colors: Sequence[Seen]) -> dict[str, int]:
    """For each role the place of the color that could play it; roles that none could are left out."""
    if not colors:
        return {}
    numbers = [oklch(seen.color) for seen in colors]
    places = range(len(colors))
    page = max(
        places,
        key=lambda i: (numbers[i][1] < _PALE) + abs(numbers[i][0] - 0.5) + colors[i].share,
    )
    text = max(places, key=lambda i: ratio_of(colors[i].color, colors[page].color))
    chosen = {"page": page}
    if ratio_of(colors[text].color, colors[page].color) >= 4.5:
        chosen["text"] = text
    vivid = [i for i in places if numbers[i][1] >= _COLORED and i != page]
    if not vivid:
        return chosen
    brand = max(vivid, key=lambda i: numbers[i][1] * (0.2 + colors[i].share))
    chosen["brand"] = brand
    apart = [i for i in vivid if _between(numbers[i][2], numbers[brand][2]) >= _APART]
    if apart:
        chosen["accent"] = max(apart, key=lambda i: numbers[i][1])
    for role, hue in _HUES.items():
        near = [i for i in vivid if _between(numbers[i][2], hue) <= _NEAR]
        if near:
            chosen[role] = min(near, key=lambda i: _between(numbers[i][2], hue))
    return chosen


def _between(hue: float, other: float) -> float:
    return abs((hue - other + 180) % 360 - 180)


def becomes(
    document: Document, roles: Mapping[str, Guess], role: str
) -> tuple[DestinationKind, str]:
    """What the color of a role becomes: the value of the token that has it, for page and text, else a
    raw color; for others the base color of a new ramp."""
    if role in ("page", "text"):
        for token in document.tokens:
            known = roles.get(token.key)
            plain = known is not None and not known.role.detail and not known.role.state
            if plain and known is not None and known.role.kind == role and token.tier != "raw":
                return "token", shown_path(token.path)
        return "color", ramp_edits.free_name(document, role)
    return "ramp", ramp_edits.free_name(document, role)
