"""Which steps of two ramps are alike."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from prism.color import space
from prism.model.document import Document
from prism.palette import ramps
from prism.resolution.current import resolver_of


def alike(document: Document, old: Sequence[str], new: Sequence[str]) -> dict[str, str]:
    """For each of the tokens ``old`` the like one of ``new``, by key."""
    if len(old) == len(new):
        return dict(zip(old, new, strict=True))
    there = np.array(lights(document, new))
    return {
        step: new[int(np.argmin(np.abs(there - light)))]
        for step, light in zip(old, lights(document, old), strict=True)
    }


def match(old: Sequence[float], new: Sequence[float]) -> dict[int, int]:
    """Pairs of positions of two lists of lightness, as many as the shorter has.

    Order by lightness is kept and the sum of all distances is least.
    """
    if len(old) > len(new):
        return {step: other for other, step in match(new, old).items()}
    first, second = (
        np.argsort(-np.array(old), kind="stable"),
        np.argsort(-np.array(new), kind="stable"),
    )
    cost = np.full((len(old) + 1, len(new) + 1), np.inf)
    cost[0, :] = 0
    for i in range(1, len(old) + 1):
        for j in range(i, len(new) + 1):
            paired = cost[i - 1, j - 1] + abs(old[first[i - 1]] - new[second[j - 1]])
            cost[i, j] = min(cost[i, j - 1], paired)
    matches = {}
    i, j = len(old), len(new)
    while i:
        if cost[i, j] == cost[i, j - 1]:
            j -= 1
        else:
            matches[int(first[i - 1])] = int(second[j - 1])
            i, j = i - 1, j - 1
    return matches


def colors(document: Document, keys: Sequence[str]) -> list[space.Color | None]:
    """The colors of tokens in the default theme; None where one has none."""
    resolver = resolver_of(document)
    theme = resolver.default_theme
    return [resolver.resolve(key, theme).color for key in keys]


def lights(document: Document, keys: Sequence[str]) -> list[float]:
    """OKLab lightness of tokens in the default theme, 0 where one has no color."""
    values = colors(document, keys)
    return [0.0 if color is None else ramps.oklch(color)[0] for color in values]
