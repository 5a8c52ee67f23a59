"""The plot of a ramp: lightness against chroma at its hue, and curves of several ramps."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from prism.color import space
from prism.color.contrast import ratio_of
from prism.errors import EditError
from prism.model.document import Ramp
from prism.palette import gamut as gamuts
from prism.palette import ramps
from prism.resolution.resolver import Resolver, Theme

#: The size of a plot in its own units; lightness runs right, chroma up.
WIDTH, HEIGHT = 320.0, 150.0
#: A step this far from the median lightness of its like, in OKLab, stands out of line.
OUT_OF_LINE = 0.035


@dataclass(frozen=True, slots=True)
class Point:
    """A step in the plot: its place in plot units and its OKLCH numbers."""

    key: str
    name: str
    x: float
    y: float
    lightness: float
    chroma: float
    hue: float
    hex: str
    seed: bool
    moved: bool


@dataclass(frozen=True, slots=True)
class Plot:
    """The plot of a ramp. ``top`` is the chroma of the upper edge; ``edges`` are polylines of the
    gamuts by name, ``course`` the line through the steps, all as SVG points."""

    hue: float
    top: float
    gamut: str
    points: tuple[Point, ...]
    edges: dict[str, str]
    course: str
    width: int = int(WIDTH)
    height: int = int(HEIGHT)

    @property
    def view_box(self) -> str:
        """The box of the picture, with room for the points at its edges and the words around."""
        return f"-8 -14 {self.width + 16} {self.height + 32}"


@dataclass(frozen=True, slots=True)
class Curve:
    """A ramp's lightness and contrast on white, step by step, as SVG points; steps out of line."""

    ramp: Ramp
    name: str
    lightness: str
    contrast: str
    marks: tuple[tuple[float, float, str], ...]
    chosen: bool


def plot(resolver: Resolver, theme: Theme, ramp: Ramp) -> Plot | None:
    """The plot of a ramp in a theme; None where no step has an opaque color."""
    fields = dict(ramp.parameters)
    points: list[tuple[str, str, tuple[float, float, float], str]] = []
    for key in ramp.steps:
        color = resolver.resolve(key, theme).color
        token = resolver.document.token(key)
        if token is None or color is None or color.alpha < 1:
            continue
        name = token.leaf
        points.append((key, name, ramps.oklch(color), space.hex_text(color)))
    if not points:
        return None
    hue = _hue(fields, [numbers for _, _, numbers, _ in points])
    lightness, wide = gamuts.edge(hue, "display-p3")
    _, narrow = gamuts.edge(hue, "srgb")
    most = max(chroma for _, _, (_, chroma, _), _ in points)
    top = max(float(wide.max()), most) * 1.06
    seed = fields.get("seed") if fields.get("keep-seed") == "yes" else None
    made = tuple(
        Point(
            key,
            name,
            *_place(light, chroma, top),
            round(light, 4),
            round(chroma, 4),
            round(own, 2),
            text,
            _holds(resolver, key, seed),
            key in ramp.moved,
        )
        for key, name, (light, chroma, own), text in points
    )
    edges = {
        "display-p3": _line(lightness, wide, top),
        "srgb": _line(lightness, narrow, top),
    }
    course = " ".join(f"{point.x:.1f},{point.y:.1f}" for point in made)
    return Plot(round(hue, 1), top, fields.get("gamut", "srgb"), made, edges, course)


def _holds(resolver: Resolver, key: str, text: str | None) -> bool:
    token = resolver.document.token(key)
    return token is not None and any(getattr(v, "text", "") == text for _, v in token.values)


def _hue(fields: dict[str, str], points: Sequence[tuple[float, float, float]]) -> float:
    if fields.get("seed"):
        return ramps.oklch(space.parse_function(fields["seed"]))[2]
    return max(points, key=lambda point: point[1])[2]


def _place(lightness: float, chroma: float, top: float) -> tuple[float, float]:
    return round(lightness * WIDTH, 1), round(HEIGHT - chroma / top * HEIGHT, 1)


def _line(lightness: ramps.Array, chroma: ramps.Array, top: float) -> str:
    pairs = zip(lightness * WIDTH, HEIGHT - chroma / top * HEIGHT, strict=True)
    return " ".join(f"{x:.1f},{y:.1f}" for x, y in pairs)


def curves(resolver: Resolver, theme: Theme, chosen: Ramp) -> list[Curve]:
    """The curves of every ramp with as many steps as ``chosen``, and what stands out of line.

    A step is out of line where its OKLab lightness is further than ``OUT_OF_LINE`` from the median
    of the same step of all the ramps.
    """
    alike: list[tuple[Ramp, list[float], list[float]]] = []
    for ramp in resolver.document.ramps:
        if len(ramp.steps) != len(chosen.steps) or len(ramp.steps) < 2:
            continue
        colors = [resolver.resolve(key, theme).color for key in ramp.steps]
        opaque = [color for color in colors if color is not None and color.alpha >= 1]
        if len(opaque) != len(ramp.steps):
            continue
        light = [ramps.oklch(color)[0] for color in opaque]
        alike.append((ramp, light, [_on_white(color) for color in opaque]))
    if not alike:
        return []
    middle = np.median(np.array([light for _, light, _ in alike]), axis=0)
    curves = []
    for ramp, light, ratios in alike:
        count = len(light)
        xs = [place / (count - 1) * WIDTH for place in range(count)]
        ys = [HEIGHT - lightness * HEIGHT for lightness in light]
        logs = [HEIGHT - math.log(ratio) / math.log(21) * HEIGHT for ratio in ratios]
        marks = tuple(
            (round(xs[i], 1), round(ys[i], 1), _leaf(resolver, ramp.steps[i]))
            for i in range(count)
            if len(alike) > 2 and abs(light[i] - middle[i]) > OUT_OF_LINE
        )
        lines = _points(xs, ys), _points(xs, logs)
        curves.append(Curve(ramp, ramp.name, *lines, marks, ramp.key == chosen.key))
    return sorted(curves, key=lambda curve: curve.chosen)


def _points(xs: Sequence[float], ys: Sequence[float]) -> str:
    return " ".join(f"{x:.1f},{y:.1f}" for x, y in zip(xs, ys, strict=True))


def _on_white(color: space.Color) -> float:
    return ratio_of(color, space.WHITE)


def _leaf(resolver: Resolver, key: str) -> str:
    token = resolver.document.token(key)
    return token.leaf if token else ""


@dataclass(frozen=True, slots=True)
class Numbers:
    """What is said of a point while it is moved. ``text`` is how it would be stored."""

    text: str
    hex: str
    on_white: float
    on_black: float
    in_srgb: bool
    in_p3: bool


def numbers(lightness: float, chroma: float, hue: float, gamut: str) -> Numbers:
    """The numbers of an OKLCH color held within ``gamut``. Raises ``EditError`` for no color."""
    if not (0 <= lightness <= 1 and 0 <= chroma <= 0.5 and math.isfinite(hue)):
        raise EditError("That point is not a color.", fix="Lightness is 0 to 1, chroma 0 to 0.5.")
    if gamut not in gamuts.GAMUTS:
        raise EditError("That is not a gamut.")
    wanted = space.Color("oklch", (lightness, chroma, hue % 360))
    most = float(gamuts.most_chroma(np.array([lightness]), np.array([hue]), gamut)[0])
    held = space.Color("oklch", (lightness, min(chroma, most), hue % 360))
    written = ramps.as_stored(held, gamut)
    return Numbers(
        space.css_text(written),
        space.hex_text(written),
        ratio_of(written, space.WHITE),
        ratio_of(written, space.BLACK),
        space.in_gamut(wanted, "srgb"),
        space.in_gamut(wanted, "display-p3"),
    )
