"""The contrast of every pairing in every theme.

Requirements: WCAG 2.2, success criteria 1.4.3 (text), 1.4.6 (enhanced) and 1.4.11 (controls and
graphics). Colors are composited and rounded to 8 bits first, as they are painted.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np

from prism.color import space
from prism.color.contrast import Array, contrast_ratio, flatten, lightness, truncate_ratio
from prism.model.document import Document, Pairing, Token, Use
from prism.resolution.resolver import Resolver, Theme

#: Least contrast ratio by use: level AA of WCAG 2.2, 0 where the use is exempt.
REQUIRED: dict[Use, float] = {
    "text": 4.5,
    "large text": 3.0,
    "control": 3.0,
    "graphic": 3.0,
    "decoration": 0.0,
    "logotype": 0.0,
    "inactive": 0.0,
}
#: Level AAA of success criterion 1.4.6, for the uses it speaks of.
ENHANCED: dict[Use, float] = {"text": 7.0, "large text": 4.5}
#: A stack that never gets opaque and names no page ends on the canvas of a browser: white.
CANVAS = (1.0, 1.0, 1.0, 1.0)

Rgba = tuple[float, float, float, float]
#: A ratio, a gap in L*, and both colors as painted.
Measured = tuple[float, float, str, str]
#: So many stacks of colors are remembered with what they measure.
_REMEMBERED = 30_000
_MEASURED: dict[tuple[Rgba, ...], Measured] = {}


@dataclass(frozen=True, slots=True)
class Reading:
    """One pairing in one theme.

    ``ratio`` is NaN where a token has no value here, and ``missing`` says which. ``gap`` is
    the difference in CIE L*. ``foreground`` and ``background`` are opaque hex colors as
    painted, empty where missing.
    """

    pairing: str
    theme: Theme
    ratio: float
    required: float
    gap: float
    foreground: str
    background: str
    missing: str = ""

    @property
    def passes(self) -> bool:
        """Whether the ratio, never rounded up, reaches what is required."""
        return self.ratio >= self.required

    @property
    def fails(self) -> bool:
        """Whether the pairing can be read here and falls short."""
        return not self.missing and not self.passes

    @property
    def shown(self) -> str:
        """The ratio truncated to two decimals; a dash where there is none."""
        return "–" if math.isnan(self.ratio) else truncate_ratio(self.ratio)


def audit(
    resolver: Resolver, pairings: Iterable[Pairing], themes: Sequence[Theme]
) -> list[Reading]:
    """Every pairing in every theme, pairing by pairing, computed in one batch.

    Themes that give the same stack of colors are computed once.
    """
    stacks: dict[tuple[Rgba, ...], int] = {}
    wanted: list[tuple[Pairing, Theme, int, str]] = []
    layers_in = [(theme, _Layers(resolver, theme)) for theme in themes]
    for pairing in pairings:
        for theme, known in layers_in:
            layers, missing = _stack(known, pairing)
            number = stacks.setdefault(layers, len(stacks)) if layers else -1
            wanted.append((pairing, theme, number, missing))
    measured = measure(list(stacks))
    return [
        Reading(pairing.key, theme, math.nan, pairing.required, math.nan, "", "", missing)
        if number < 0
        else Reading(
            pairing.key, theme, measured[number][0], pairing.required, *measured[number][1:]
        )
        for pairing, theme, number, missing in wanted
    ]


class _Layers(dict[str, "Rgba | str"]):
    """The colors of one theme by token key; where a token has none, why."""

    def __init__(self, resolver: Resolver, theme: Theme) -> None:
        super().__init__()
        self._resolver, self._theme = resolver, theme

    def __missing__(self, key: str) -> Rgba | str:
        layer = self[key] = self._layer(key)
        return layer

    def _layer(self, key: str) -> Rgba | str:
        token = self._resolver.document.token(key)
        if token is None:
            return "A token of this pairing is gone."
        answer = self._resolver.resolve(key, self._theme)
        if answer.color is not None:
            return space.rgba(answer.color)
        lacks = "depends on the page" if answer.on_page else "has no value in this theme"
        return answer.broken or f"{token.path} {lacks}."


def _stack(known: _Layers, pairing: Pairing) -> tuple[tuple[Rgba, ...], str]:
    layers: list[Rgba] = []
    keys = [pairing.foreground, *pairing.backgrounds]
    for key in [*keys, *([pairing.page] if pairing.page else [])]:
        layer = known[key]
        if isinstance(layer, str):
            return (), layer
        layers.append(layer)
        if len(layers) > 1 and layer[3] >= 1:
            return tuple(layers), ""
    return (*layers, CANVAS), ""


def measure(stacks: list[tuple[Rgba, ...]]) -> list[Measured]:
    """Ratio, L* gap and both painted colors of each stack of colors, top first, in one batch. What was measured before
    is remembered."""
    known = {stack: met for stack in stacks if (met := _MEASURED.get(stack)) is not None}
    missing = [stack for stack in stacks if stack not in known]
    if missing:
        fresh = dict(zip(missing, _measure(missing), strict=True))
        known |= fresh
        if len(_MEASURED) + len(fresh) > _REMEMBERED:
            _MEASURED.clear()
        _MEASURED.update(fresh)
    return [known[stack] for stack in stacks]


def _measure(stacks: list[tuple[Rgba, ...]]) -> list[Measured]:
    if not stacks:
        return []
    depth = max(len(stack) for stack in stacks)
    # The padding lies under an opaque layer, so its color plays no part.
    padded = np.array([stack + (CANVAS,) * (depth - len(stack)) for stack in stacks])
    layers = [padded[:, i, :] for i in range(depth)]
    above = flatten(layers)[:, :3]
    below = flatten(layers[1:])[:, :3]
    ratios = contrast_ratio(above, below)
    gaps = np.abs(lightness(above) - lightness(below))
    tops, bottoms = (_hexes(colors) for colors in (above, below))
    return list(zip(ratios.tolist(), gaps.tolist(), tops, bottoms, strict=True))


def _hexes(rgb: Array) -> list[str]:
    """Opaque colors, shape (..., 3), as ``#rrggbb``."""
    packed = np.rint(rgb * 255).astype(np.int64) @ (65536, 256, 1)
    return [f"#{color:06x}" for color in packed.tolist()]


def pairing_for(
    key: str,
    foreground: str,
    backgrounds: tuple[str, ...],
    use: Use,
    *,
    enhanced: bool = False,
    reason: str = "",
    page: str = "",
) -> Pairing:
    """A pairing that requires what WCAG 2.2 asks of its use; ``enhanced`` takes level AAA."""
    required = ENHANCED.get(use, REQUIRED[use]) if enhanced else REQUIRED[use]
    return Pairing(key, foreground, backgrounds, use, required, reason, page=page)


def summary(document: Document, pairing: Pairing) -> str:
    """A pairing in words: ``text.main on surface.card``."""
    names = [_name(document.token(key)) for key in (pairing.foreground, *pairing.backgrounds)]
    return f"{names[0]} on {' over '.join(names[1:])}"


def _name(token: Token | None) -> str:
    return token.path.removesuffix(".$root") if token else "a missing token"
