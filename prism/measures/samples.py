"""Measures drawn as what they are: shadows, type, lines, curves, gradients; numbers for an SVG picture."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.color.space import Color, css_text
from prism.expressions.evaluation import pixels
from prism.resolution.answers import Answer, Items, Parts, Resolved

#: Letters are drawn no larger than so many px, shadows reach no further.
_LARGEST_TYPE, _FARTHEST = 30.0, 24.0
#: Width and height of the card that a shadow is drawn of.
CARD = (32.0, 20.0)
_WEIGHTS = {"thin": "100", "light": "300", "normal": "400", "medium": "500", "bold": "700"}


@dataclass(frozen=True, slots=True)
class Layer:
    """A layer of the shadow of a card around 0: its sides, and the deviation of its blur; in px."""

    left: float
    top: float
    width: float
    height: float
    deviation: float
    color: str


@dataclass(frozen=True, slots=True)
class Sample:
    """What is drawn: ``kind`` is ``shadow`` (the farthest layer first), ``type``, ``line``, ``curve`` or ``gradient``, with what that
    kind needs. Sizes are px; ``points`` are those of a curve in a square of 1, ``stops`` colors with places
    from 0 to 1."""

    kind: str
    layers: tuple[Layer, ...] = ()
    family: str = ""
    size: float = 16.0
    weight: str = "400"
    spacing: float = 0.0
    width: float = 2.0
    color: str = ""
    dashes: str = ""
    points: tuple[float, ...] = ()
    stops: tuple[tuple[str, float], ...] = ()

    @property
    def curve(self) -> str:
        """The curve as the path of an SVG picture, in a square of 1 with 1 at the bottom."""
        x1, y1, x2, y2 = self.points
        return f"M0 1 C{x1:g} {1 - y1:g} {x2:g} {1 - y2:g} 1 0"


def sample(answer: Answer) -> Sample | None:
    """How to draw what a token comes to; None where words say it better."""
    value = answer.value
    parts = dict(value.parts) if isinstance(value, Parts) else {}
    items = value.items if isinstance(value, Items) else ()
    match answer.type:
        case "shadow":
            layers = [dict(layer.parts) for layer in items or (value,) if isinstance(layer, Parts)]
            outer = [layer for layer in reversed(layers) if layer.get("inset") is not True]
            return Sample("shadow", tuple(_layer(layer) for layer in outer)) if layers else None
        case "typography" if parts:
            return _type(parts)
        case "fontFamily" if value is not None:
            return Sample("type", family=_family(value))
        case "fontWeight" if value is not None:
            return Sample("type", weight=_weight(value))
        case "border" if parts:
            width = min(_px(parts.get("width")), 12.0)
            color = _color(parts.get("color"))
            dashes = _dashes(parts.get("style"), width)
            return Sample("line", width=width, color=color, dashes=dashes)
        case "strokeStyle" if value is not None:
            return Sample("line", dashes=_dashes(value, 2.0))
        case "cubicBezier":
            return _curve(value)
        case "transition" if parts:
            return _curve(parts.get("timingFunction"))
        case "gradient" if items:
            return _gradient([dict(stop.parts) for stop in items if isinstance(stop, Parts)])
    return None


def _px(value: object) -> float:
    return max(-_FARTHEST, min(pixels(value), _FARTHEST))


def _color(value: object) -> str:
    return css_text(value) if isinstance(value, Color) else ""


def _layer(parts: dict[str, Resolved]) -> Layer:
    spread = _px(parts.get("spread"))
    return Layer(
        _px(parts.get("offsetX")) - CARD[0] / 2 - spread,
        _px(parts.get("offsetY")) - CARD[1] / 2 - spread,
        max(CARD[0] + 2 * spread, 0.0),
        max(CARD[1] + 2 * spread, 0.0),
        _px(parts.get("blur")) / 2,
        _color(parts.get("color")),
    )


def _type(parts: dict[str, Resolved]) -> Sample:
    return Sample(
        "type",
        family=_family(parts.get("fontFamily", "")),
        size=min(pixels(parts.get("fontSize")) or 16.0, _LARGEST_TYPE),
        weight=_weight(parts.get("fontWeight", "400")),
        spacing=pixels(parts.get("letterSpacing")),
    )


def _family(value: Resolved) -> str:
    names: Sequence[Resolved] = value.items if isinstance(value, Items) else (value,)
    return ", ".join(f"'{name}'" for name in names if isinstance(name, str) and "'" not in name)


def _weight(value: Resolved) -> str:
    if isinstance(value, float):
        return f"{value:g}"
    return _WEIGHTS.get(str(value), "400")


def _dashes(style: Resolved | None, width: float) -> str:
    if isinstance(style, Parts):
        array = dict(style.parts).get("dashArray")
        lengths: Sequence[Resolved] = array.items if isinstance(array, Items) else ()
        return " ".join(f"{_px(length):g}" for length in lengths)
    return {"dashed": f"{3 * width:g}", "dotted": f"{width:g}"}.get(str(style), "")


def _curve(value: Resolved | None) -> Sample | None:
    numbers = (
        [item for item in value.items if isinstance(item, float)]
        if isinstance(value, Items)
        else []
    )
    return Sample("curve", points=tuple(numbers)) if len(numbers) == 4 else None


def _gradient(stops: Sequence[dict[str, Resolved]]) -> Sample:
    places = [stop.get("position") for stop in stops]
    return Sample(
        "gradient",
        stops=tuple(
            (_color(stop.get("color")), place if isinstance(place, float) else 0.0)
            for stop, place in zip(stops, places, strict=True)
        ),
    )
