"""The colors of a picture as they are shown on it and beside it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from prism.color import space
from prism.color.contrast import ink_on
from prism.palette.pictures import share_text


def marks(colors: Sequence[Mapping[str, Any]], width: int, height: int) -> list[dict[str, Any]]:
    """For each color of a kept picture (``hex``, ``share``, ``x``, ``y`` 0-1): its number, share in
    words, place in pixels, place in a bar of all shares from 0 to 100, and what reads on it."""
    swatches = []
    start = 0.0
    for number, color in enumerate(colors):
        part = color["share"] * 100
        swatches.append(
            {
                "hex": color["hex"],
                "number": number,
                "label": number + 1,
                "share": share_text(color["share"]),
                "left": f"{color['x'] * width:.1f}",
                "top": f"{color['y'] * height:.1f}",
                "start": f"{start:.2f}",
                "width": f"{part:.2f}",
                "ink": ink_on(space.parse(color["hex"])),
            }
        )
        start += part
    return swatches
