"""Surfaces of rising level that do not lift off each other.

How far levels lie apart, and that they get lighter as they rise in the dark, is common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from prism.checks.check import Analyzed, Check, Finding, Fix, Looked
from prism.color import space
from prism.color.contrast import lightness
from prism.derive.levels import rank
from prism.model.document import shown_path
from prism.palette.course import oklch

#: Neighboring levels lie at least so far apart in L*.
APART = 2.0
_DARK = 50.0
#: Surfaces that differ by so much OKLCH chroma are told apart by it.
_TINTED = 0.03


@dataclass(slots=True)
class _Pair:
    """Two neighboring levels: in how many themes they are too close, or the upper one is darker, and the
    smallest distance among these."""

    close: int = 0
    falling: int = 0
    least: float = field(default=100.0)


def run(analysis: Analyzed) -> Iterator[Finding]:
    """A finding for each two neighboring levels that are too close, or fall in the dark, in some theme.

    By day a line or a shadow parts them too, where there is one.
    """
    document = analysis.document
    heights = _heights(analysis)
    parted = any(known.role.kind in ("line", "shadow") for known in analysis.roles.values()) or any(
        token.type == "shadow" for token in document.tokens
    )
    for lower, upper in zip(sorted(heights), sorted(heights)[1:], strict=False):
        for under in heights[lower]:
            for over in heights[upper]:
                pair = _read(analysis, under, over, parted)
                names = [shown_path(_path(analysis, key)) for key in (over, under)]
                if pair.falling:
                    yield Finding(
                        "elevation",
                        f"{names[0]} is darker than {names[1]}, which lies below it.",
                        over,
                        themes=pair.falling,
                        others=(under,),
                        fixes=(Fix("Take a lighter step: what rises gets lighter in the dark."),),
                    )
                elif pair.close:
                    yield Finding(
                        "elevation",
                        f"{names[0]} hardly lifts off {names[1]}: {pair.least:.1f} L* apart.",
                        over,
                        themes=pair.close,
                        others=(under,),
                        fixes=(
                            Fix("Take a step that lies further off."),
                            Fix("Put a line or a shadow between the two."),
                        ),
                    )


def _heights(analysis: Analyzed) -> dict[int, list[str]]:
    """Plain surfaces by how high they lie."""
    heights: dict[int, list[str]] = {}
    for key, known in analysis.roles.items():
        token, role = analysis.document.token(key), known.role
        plain = role.kind == "page" or (role.kind == "surface" and not role.detail)
        if token is not None and token.tier == "semantic" and plain and not role.state:
            heights.setdefault(rank(token, role), []).append(key)
    return heights


def _read(analysis: Analyzed, under: str, over: str, parted: bool) -> _Pair:
    """How two levels lie to each other over all themes."""
    tables, pair = analysis.answers, _Pair()
    for part in tables.joint([under, over]):
        theme = tables.theme(part)
        colors = [analysis.resolver.resolve(key, theme).color for key in (under, over)]
        shown = [space.rgba(color) for color in colors if color is not None and color.alpha >= 1]
        if len(shown) < 2 or _are_tinted([color for color in colors if color]):
            continue
        low, high = (float(value) for value in lightness(np.array(shown)[:, :3]))
        if low >= _DARK and (parted or high != low):
            continue
        if low < _DARK and high - low <= -APART:
            pair.falling += tables.share(part)
        elif abs(high - low) < APART:
            pair.close += tables.share(part)
            pair.least = min(pair.least, abs(high - low))
    return pair


def _are_tinted(colors: list[space.Color]) -> bool:
    """Whether the tint of one tells it from the other."""
    (_, first, _), (_, second, _) = (oklch(color) for color in colors)
    return abs(first - second) > _TINTED


def _path(analysis: Analyzed, key: str) -> str:
    token = analysis.document.token(key)
    return token.path if token else key


def _levels(analysis: Analyzed) -> Looked:
    return Looked(
        sum(map(len, _heights(analysis).values())), "level of surfaces", "levels of surfaces"
    )


CHECK = Check(
    "elevation",
    "Elevation",
    "A card that does not lift off its page cannot be seen in use.",
    run,
    _levels,
    "balance",
)
