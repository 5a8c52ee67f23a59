"""Evaluating expressions: from a tree, and what its references are, to a value.

Colors are mixed and converted by coloraide; which parts are missing, how shares are computed
and which hue a mix keeps is decided here. Sources: CSS Color 4, sections 12 (interpolation) and
4.4 (missing components); CSS Color 5, sections 2 (``color-mix()``) and 4 (relative colors).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import lru_cache

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions import units as amounts
from prism.expressions.channels import channels_of
from prism.expressions.syntax import parse_math
from prism.expressions.tree import (
    Channel,
    ColorCall,
    ColorLiteral,
    ColorNode,
    Math,
    MathCall,
    Mix,
    Node,
    Nothing,
    Number,
    Product,
    Reference,
    Sum,
)
from prism.expressions.units import Amount

#: Gives the value of a path that must be of one of the types named.
Lookup = Callable[[str, tuple[str, ...]], object]
_NUMERIC = ("number", "dimension", "duration", "fontWeight")

# In a mix in LCH or OKLCH Chromium drops the hue of a color this close to grey in OKLCH, unless
# it was given in one of them (measured with Chromium 156).
_GREY_CHROMA = 0.02
#: Components that stand for each other when a color is converted (CSS Color 4, section 12.2).
_ANALOGOUS = {
    "srgb": ("r", "g", "b"), "srgb-linear": ("r", "g", "b"), "display-p3": ("r", "g", "b"),
    "a98-rgb": ("r", "g", "b"), "prophoto-rgb": ("r", "g", "b"), "rec2020": ("r", "g", "b"),
    "xyz-d65": ("r", "g", "b"), "xyz-d50": ("r", "g", "b"), "lab": ("L", "a", "B"),
    "oklab": ("L", "a", "B"), "lch": ("L", "C", "H"), "oklch": ("L", "C", "H"),
    "hsl": ("H", "C", "L"), "hwb": ("H", "W", "K"),
}  # fmt: skip


@dataclass(frozen=True, slots=True)
class Quantity:
    """A number with a CSS unit."""

    number: float
    unit: str


@dataclass(frozen=True, slots=True)
class Calculation:
    """A length or time of unlike units that only a browser can reduce, as CSS text."""

    text: str


def evaluate_color(node: ColorNode, look: Lookup) -> space.Color:
    """The color a tree stands for; ``look`` gives the color of a reference."""
    if isinstance(node, ColorLiteral):
        return node.color
    if isinstance(node, Reference):
        value = look(node.path, ("color",))
        assert isinstance(value, space.Color)
        return value
    if isinstance(node, Mix):
        return _mix(node, look)
    return _call(node, look)


def _call(node: ColorCall, look: Lookup) -> space.Color:
    channels = channels_of(node.function, node.space)
    target = node.space if node.function == "color" else node.function
    target = "srgb" if target == "rgb" else target
    known: dict[str, float | None] = {}
    alpha: float | None = 1.0
    if node.origin is not None:
        origin = evaluate_color(node.origin, look)
        converted = convert(origin, target)
        alpha = origin.alpha
        for (name, _, scale), value in zip(channels, converted, strict=True):
            known[name] = None if value is None else value / scale
        known["alpha"] = alpha
    coords: list[float | None] = []
    for (name, whole, scale), channel in zip(channels, node.channels, strict=True):
        number = _channel(channel, known, whole, look, hue=name == "h")
        coords.append(None if number is None else number * scale)
    if node.alpha is not None:
        alpha = _channel(node.alpha, known, 1.0, look, hue=False)
    first, second, third = coords
    made = space.Color(target, (first, second, third), 0.0 if alpha is None else alpha)
    if node.origin is None:
        return space.within_range(made, node.function)
    made = space.within_range(made)
    return to_srgb(made) if target in ("hsl", "hwb") else made


def to_srgb(color: space.Color) -> space.Color:
    """``color`` in sRGB, not clipped; missing components become zero."""
    red, green, blue = space.engine(color).convert("srgb").coords(nans=False)
    return space.Color("srgb", (float(red), float(green), float(blue)), color.alpha)


def _channel(
    node: Math, known: Mapping[str, float | None], whole: float, look: Lookup, *, hue: bool
) -> float | None:
    if isinstance(node, Nothing):
        return None
    if isinstance(node, Channel):
        return known[node.name]
    amount = evaluate_math(node, look, known)
    single = amount.single
    if single is not None:
        number, unit = single
        if unit == "" or (hue and unit == "deg"):
            return number
        if unit == "%" and not hue:
            return number / 100 * whole
    wanted = "a number or an angle" if hue else "a number or a percentage"
    raise ExpressionError(f"A channel takes {wanted}, and this is a {amount.kind_word}.")


def evaluate_math(
    node: Math, look: Lookup, channels: Mapping[str, float | None] | None = None
) -> Amount:
    """The amount a tree of math stands for; missing channels count as zero."""
    if isinstance(node, Number):
        return Amount.of(node.value, node.unit)
    if isinstance(node, Reference):
        return amount_of(look(node.path, _NUMERIC))
    if isinstance(node, Channel):
        return Amount.of((channels or {}).get(node.name) or 0.0)
    if isinstance(node, Sum):
        return amounts.add(
            [(sign, evaluate_math(term, look, channels)) for sign, term in node.terms]
        )
    if isinstance(node, Product):
        product = Amount.of(1.0)
        for divides, factor in node.factors:
            value = evaluate_math(factor, look, channels)
            product = (amounts.divide if divides else amounts.multiply)(product, value)
        return product
    if isinstance(node, MathCall):
        values = [evaluate_math(argument, look, channels) for argument in node.arguments]
        if node.name == "calc":
            return values[0]
        if node.name == "round":
            return amounts.round_to(node.strategy, *values)
        return amounts.choose(node.name, values)
    raise ExpressionError("`none` cannot be computed with.")


def amount_of(value: object) -> Amount:
    """A resolved number, quantity or calculation as an amount."""
    if isinstance(value, Quantity):
        return Amount.of(value.number, value.unit)
    if isinstance(value, Calculation):
        return evaluate_math(parse_math(value.text), _no_references)
    assert isinstance(value, float)
    return Amount.of(value)


def _no_references(path: str, types: tuple[str, ...]) -> object:
    raise ExpressionError(f"{{{path}}} cannot stand here.")


_KIND = {"dimension": "length", "duration": "time"}


def evaluate_numeric(node: Math, type: str, look: Lookup) -> float | Quantity | Calculation:
    """A number, dimension or duration; ``ExpressionError`` where the whole is another kind."""
    amount = evaluate_math(node, look)
    wanted = _KIND.get(type, "")
    if isinstance(node, Number) and node.value == 0 and not node.unit and wanted:
        return Quantity(0.0, "px" if wanted == "length" else "ms")
    if amount.kind != (((wanted, 1),) if wanted else ()):
        raise ExpressionError(
            f"The whole is a {amount.kind_word}, and a {wanted or 'number'} is needed here."
        )
    if isinstance(node, Number) and wanted:
        return Quantity(node.value, node.unit)
    single = amount.single
    if single is None:
        return Calculation(amounts.text(amount))
    number, unit = single
    if not math.isfinite(number):
        raise ExpressionError("The result is not a finite number.")
    return Quantity(number, unit) if wanted else number


# Mixing


@lru_cache(maxsize=262144)
def convert(color: space.Color, target: str) -> tuple[float | None, float | None, float | None]:
    """Channels of ``color`` in ``target``; a component that was missing and has a counterpart
    there stays missing, and so does the hue of a grey."""
    if color.space == target:
        return color.coords
    converted = space.engine(color).convert(target)
    coords = [None if math.isnan(c) else float(c) for c in converted.coords()]
    missing = {
        name
        for name, value in zip(_ANALOGOUS[color.space], color.coords, strict=True)
        if value is None
    }
    for i, name in enumerate(_ANALOGOUS[target]):
        if name in missing:
            coords[i] = None
    return coords[0], coords[1], coords[2]


@lru_cache(maxsize=262144)
def _mixable(color: space.Color, target: str) -> space.Color:
    first, second, third = convert(color, target)
    coords = [first, second, third]
    if target in ("lch", "oklch") and color.space != target:
        chroma = space.engine(color).convert("oklch").coords(nans=False)[1]
        if chroma < _GREY_CHROMA and color.space not in ("oklch", "lch"):
            coords[_ANALOGOUS[target].index("H")] = None
    return space.Color(target, (coords[0], coords[1], coords[2]), color.alpha)


def _share(node: Math | None, look: Lookup) -> float | None:
    if node is None:
        return None
    single = evaluate_math(node, look).single
    if single is None or single[1] != "%" or not 0 <= single[0] <= 100:
        raise ExpressionError("A percentage of color-mix() goes from 0% to 100%.")
    return single[0] / 100


def _mix(node: Mix, look: Lookup) -> space.Color:
    (first_color, first_share), (second_color, second_share) = node.colors
    first, second = _share(first_share, look), _share(second_share, look)
    if first is None and second is None:
        first = second = 0.5
    elif first is None:
        assert second is not None
        first = 1 - second
    elif second is None:
        second = 1 - first
    whole = first + second
    if whole <= 0:
        raise ExpressionError("The percentages of color-mix() add up to zero.")
    colors = [
        _mixable(evaluate_color(color, look), node.space) for color in (first_color, second_color)
    ]
    engines = [space.engine(color) for color in colors]
    mixed = space.from_engine(
        engines[0].mix(
            engines[1],
            second / whole,
            space=node.space,
            out_space=node.space,
            hue=node.hue,
            premultiplied=True,
            powerless=False,
        )
    )
    mixed = space.Color(mixed.space, mixed.coords, mixed.alpha * min(whole, 1.0))
    return to_srgb(mixed) if node.space in ("hsl", "hwb") else mixed


# Writing


def css(node: Node, name: Callable[[str], str]) -> str:
    """A tree as CSS text; ``name`` gives what stands for a reference, such as ``var(--ink)``."""
    if isinstance(node, Reference):
        return name(node.path)
    if isinstance(node, ColorLiteral):
        return space.css_text(node.color)
    if isinstance(node, Mix):
        hue = "" if node.hue == "shorter" else f" {node.hue} hue"
        parts = [
            css(color, name) + ("" if share is None else f" {css(share, name)}")
            for color, share in node.colors
        ]
        return f"color-mix(in {node.space}{hue}, {', '.join(parts)})"
    if isinstance(node, ColorCall):
        start = f"from {css(node.origin, name)} " if node.origin is not None else ""
        start += f"{node.space} " if node.space else ""
        alpha = f" / {css(node.alpha, name)}" if node.alpha is not None else ""
        return f"{node.function}({start}{' '.join(css(c, name) for c in node.channels)}{alpha})"
    if isinstance(node, Number):
        return space.number_text(node.value, 10) + node.unit
    if isinstance(node, Channel):
        return node.name
    if isinstance(node, Nothing):
        return "none"
    if isinstance(node, MathCall):
        strategy = f"{node.strategy}, " if node.strategy else ""
        return f"{node.name}({strategy}{', '.join(css(argument, name) for argument in node.arguments)})"
    if isinstance(node, Sum):
        text = ""
        for i, (sign, term) in enumerate(node.terms):
            mark = ("" if sign > 0 else "-1 * ") if i == 0 else (" + " if sign > 0 else " - ")
            text += mark + _inner(term, name)
        return text
    text = ""
    for i, (divides, factor) in enumerate(node.factors):
        text += ("" if i == 0 else " / " if divides else " * ") + _inner(factor, name)
    return text


def _inner(node: Math, name: Callable[[str], str]) -> str:
    text = css(node, name)
    return f"({text})" if isinstance(node, Sum | Product) else text
