"""Fills of buttons in the color of a brand: at rest, pointed at and pressed, with a label that reads.

A brand's own color is taken wherever a label can stand on it; what it becomes under the pointer moves
away from the label, so that the label reads ever better. Requirements: WCAG 2.2, success criteria
1.4.3 (label) and 1.4.11 (a fill on what is around it).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.color import space
from prism.color.contrast import lightness, ratio_of
from prism.palette.ramps import oklch
from prism.resolution.contrast import REQUIRED

#: A state looks other than the one before from this ratio on. Common practice, no source.
_APART = 1.15
#: From so many L* points on a fill looks stronger, or weaker, than its counterpart in another mode. Common practice, no
#: source.
_UNEVEN = 14.5
#: A color that is no gray is seen on any page of its own lightness. Common practice, no source.
_VIVID = 0.08
_HARDLY_APART = 1.25


@dataclass(frozen=True, slots=True)
class Swatch:
    """A color that can be taken, and what refers to it."""

    reference: str
    color: space.Color


@dataclass(frozen=True, slots=True)
class Fill:
    """What a fill, its states and its label refer to."""

    rest: str
    hover: str
    pressed: str
    label: str


def choose(
    base: Swatch,
    steps: Sequence[Swatch],
    labels: Sequence[Swatch],
    grounds: Sequence[space.Color],
    *,
    stands_out: bool = False,
    as_strong: float | None = None,
) -> Fill:
    """The fill that shows ``base``, or the step nearest to it where it cannot be shown.

    ``steps`` are its ramp from light to dark, ``labels`` what may be written on it, first choice
    first, ``grounds`` what it stands on. ``stands_out`` asks for 3:1 on each of them; without it a
    vivid color may be as light as its page. What is about ``as_strong`` on the first ground, in L* points,
    comes before what stands out much more or much less there.
    """
    near = sorted(steps, key=lambda step: abs(_light(step) - _light(base)))

    def is_uneven(rest: Swatch) -> bool:
        return as_strong is not None and abs(strength(rest, grounds[0]) - as_strong) > _UNEVEN

    for rest in sorted((base, *near), key=is_uneven):
        label = _label(rest, labels)
        if label is None or not _is_seen(rest.color, grounds, stands_out=stands_out):
            continue
        states = _states(rest, steps, label)
        if len(states) == 2:
            hover, pressed = states
            return Fill(rest.reference, hover.reference, pressed.reference, label.reference)
    # A page of middle gray: nothing stands out on it, so the label decides alone.
    label = max(labels, key=lambda swatch: ratio_of(swatch.color, base.color))
    return Fill(base.reference, base.reference, base.reference, label.reference)


def strength(swatch: Swatch, ground: space.Color) -> float:
    """How far a color stands out from a ground, in CIE L* points."""
    above, below = (float(lightness(space.rgba(color)[:3])) for color in (swatch.color, ground))
    return abs(above - below)


def _light(swatch: Swatch) -> float:
    return oklch(swatch.color)[0]


def _label(rest: Swatch, labels: Sequence[Swatch]) -> Swatch | None:
    """The label that reads best of the first two, or the first of the others that reads."""
    first = sorted(labels[:2], key=lambda label: -ratio_of(label.color, rest.color))
    for label in (*first, *labels[2:]):
        if ratio_of(label.color, rest.color) >= REQUIRED["text"]:
            return label
    return None


def _is_seen(color: space.Color, grounds: Sequence[space.Color], *, stands_out: bool) -> bool:
    least = min((ratio_of(color, ground) for ground in grounds), default=21.0)
    if stands_out:
        return least >= REQUIRED["graphic"]
    return least >= _HARDLY_APART or oklch(color)[1] >= _VIVID


def _states(rest: Swatch, steps: Sequence[Swatch], label: Swatch) -> list[Swatch]:
    """The two steps that follow, away from the label where there are two, else towards it."""
    away = _light(rest) - _light(label)
    for sign in (1, -1):
        states = [rest]
        for step in sorted(steps, key=lambda step: abs(_light(step) - _light(rest))):
            moves = (_light(step) - _light(states[-1])) * away * sign > 0
            apart = ratio_of(step.color, states[-1].color) >= _APART
            if moves and apart and ratio_of(label.color, step.color) >= REQUIRED["text"]:
                states.append(step)
            if len(states) == 3:
                return states[1:]
    return []
