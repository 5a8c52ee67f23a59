"""Evaluating expressions: from a tree, and what its references are, to a value.

Colors are mixed and converted by coloraide; which parts are missing, how shares are computed
and which hue a mix keeps is decided here. Sources: CSS Color 4, sections 12 (interpolation) and
4.4 (missing components); CSS Color 5, sections 2 (``color-mix()``) and 4 (relative colors).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

from prism.color import space
from prism.color.contrast import ratio_of
from prism.errors import ExpressionError
from prism.expressions import functions, mixing
from prism.expressions import units as amounts
from prism.expressions.channels import channels_of
from prism.expressions.pieces import put_in
from prism.expressions.syntax import parse_math
from prism.expressions.tree import (
    Channel,
    ColorCall,
    ColorLiteral,
    ColorNode,
    ContrastColor,
    Math,
    MathCall,
    Mix,
    Node,
    Nothing,
    Number,
    PageColor,
    Product,
    Reference,
    Sum,
    Template,
)
from prism.expressions.units import Amount

#: Gives the value of a path that must be of one of the types named.
Lookup = Callable[[str, tuple[str, ...]], object]
_NUMERIC = ("number", "dimension", "duration", "fontWeight")


@dataclass(frozen=True, slots=True)
class Quantity:
    """A number with a CSS unit."""

    number: float
    unit: str


def pixels(value: object) -> float:
    """A length in px, 16 to a rem or em; 0 for what is no length that CSS relates to px. Source: CSS
    Values 4, section 6; 16 is what browsers begin with (common practice, no source)."""
    if not isinstance(value, Quantity):
        return 0.0
    unit, factor = ("px", 16.0) if value.unit in ("rem", "em") else amounts.base_unit(value.unit)
    return value.number * factor if unit == "px" else 0.0


@dataclass(frozen=True, slots=True)
class Calculation:
    """A length or time of unlike units that only a browser can reduce, as CSS text."""

    text: str


@dataclass(frozen=True, slots=True)
class OnPage:
    """A color that depends on the page it is used on, such as ``currentcolor``, as CSS text."""

    text: str


class DependsOnPageError(ExpressionError):
    """A color is needed, and only a page can tell it."""


def evaluate_color(node: ColorNode, look: Lookup) -> space.Color:
    """The color a tree stands for; ``look`` gives the color of a reference.

    Raises ``DependsOnPageError`` where only a page can tell.
    """
    if isinstance(node, ColorLiteral):
        return node.color
    if isinstance(node, Reference):
        value = look(node.path, ("color",))
        if isinstance(value, OnPage):
            raise DependsOnPageError(f"{{{node.path}}} depends on the page.")
        assert isinstance(value, space.Color)
        return value
    if isinstance(node, PageColor):
        raise DependsOnPageError(f"{node.name} depends on the page.")
    if isinstance(node, Mix):
        return _mix(node, look)
    if isinstance(node, ContrastColor):
        ground = evaluate_color(node.color, look)
        return max((space.WHITE, space.BLACK), key=lambda end: ratio_of(end, ground))
    return _call(node, look)


def _call(node: ColorCall, look: Lookup) -> space.Color:
    channels = channels_of(node.function, node.space)
    target = node.space if node.function == "color" else node.function
    target = "srgb" if target == "rgb" else target
    known: dict[str, float] = {}
    alpha: float | None = 1.0
    if node.origin is not None:
        # What is missing in the origin counts as zero (measured with Chromium 156).
        origin = _within(node.origin, look)
        alpha = origin.alpha
        converted = mixing.convert(origin, target)
        for (name, _, scale), value in zip(channels, converted, strict=True):
            known[name] = 0.0 if value is None else value / scale
        known["alpha"] = alpha
    coords: list[float | None] = []
    for (name, whole, scale), channel in zip(channels, node.channels, strict=True):
        number = _channel(channel, known, whole, look, hue=name == "h")
        coords.append(None if number is None else number * scale)
    if node.alpha is not None:
        alpha = _channel(node.alpha, known, 1.0, look, hue=False)
    made = space.Color(target, (coords[0], coords[1], coords[2]), alpha or 0.0, alpha is None)
    relative = node.origin is not None
    made = space.within_range(made, "" if relative else node.function, legacy=node.legacy)
    if any(c is not None and not math.isfinite(c) for c in made.coords):
        raise ExpressionError("A channel is not a finite number.", fix="Is something divided by 0?")
    return made


def _within(node: ColorNode, look: Lookup) -> space.Color:
    """A color inside another. The alpha of rgb() with commas is held in 8 bits there (measured
    with Chromium 156)."""
    color = evaluate_color(node, look)
    if isinstance(node, ColorCall) and node.legacy and node.function == "rgb":
        return replace(color, alpha=math.floor(color.alpha * 255 + 0.5) / 255)
    return color


def _channel(
    node: Math, known: Mapping[str, float], whole: float, look: Lookup, *, hue: bool
) -> float | None:
    if isinstance(node, Nothing):
        return None
    if isinstance(node, Channel):
        return known[node.name]
    amount = evaluate_math(node, look, known)
    single = amount.single
    if single is not None:
        number, unit = single
        number = 0.0 if math.isnan(number) else number
        if unit == "" or (hue and unit == "deg"):
            return 0.0 if hue and math.isinf(number) else number
        if unit == "%" and not hue:
            return number / 100 * whole
    wanted = "a number or an angle" if hue else "a number or a percentage"
    raise ExpressionError(f"A channel takes {wanted}, and this is a {amount.kind_word}.")


def evaluate_math(node: Math, look: Lookup, channels: Mapping[str, float] | None = None) -> Amount:
    """The amount a tree of math stands for; missing channels count as zero."""
    if isinstance(node, Number):
        return Amount.of(node.value, node.unit)
    if isinstance(node, Reference):
        return amount_of(look(node.path, _NUMERIC))
    if isinstance(node, Channel):
        return Amount.of((channels or {}).get(node.name, 0.0))
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
        return functions.call(node.name, node.strategy, values)
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
        raise ExpressionError(
            "The result is not a finite number.", fix="Is something divided by 0?"
        )
    return Quantity(number, unit) if wanted else number


# Mixing


def _share(node: Math | None, look: Lookup) -> float | None:
    """A share from 0 to 1; what is computed to more or less counts as the nearest of them."""
    if node is None:
        return None
    single = evaluate_math(node, look).single
    if single is None or single[1] != "%":
        raise ExpressionError("A share of color-mix() is a percentage.")
    return min(max(single[0] / 100, 0.0), 1.0)


def _mix(node: Mix, look: Lookup) -> space.Color:
    (first_color, first_share), (second_color, second_share) = node.colors
    first, second = _share(first_share, look), _share(second_share, look)
    if first is None:
        first = 0.5 if second is None else 1 - second
    if second is None:
        second = 1 - first
    whole = first + second
    share = second / whole if whole > 0 else 0.5
    colors = [_within(color, look) for color in (first_color, second_color)]
    mixed = mixing.mix(colors[0], colors[1], share, node.space, node.hue)
    return replace(mixed, alpha=mixed.alpha * min(whole, 1.0))


# Writing


def css(node: Node, name: Callable[[str], str]) -> str:
    """A tree as CSS text; ``name`` gives what stands for a reference, such as ``var(--ink)``.

    Long because each kind of node has its lines here.
    """
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
    if isinstance(node, PageColor):
        return node.name
    if isinstance(node, ContrastColor):
        return f"contrast-color({css(node.color, name)})"
    if isinstance(node, ColorCall):
        start = f"from {css(node.origin, name)} " if node.origin is not None else ""
        start += f"{node.space} " if node.space else ""
        if node.legacy:
            channels = (*node.channels, *([node.alpha] if node.alpha is not None else []))
            return f"{node.function}({', '.join(css(c, name) for c in channels)})"
        alpha = f" / {css(node.alpha, name)}" if node.alpha is not None else ""
        return f"{node.function}({start}{' '.join(css(c, name) for c in node.channels)}{alpha})"
    if isinstance(node, Number):
        if not math.isfinite(node.value):
            return "NaN" if math.isnan(node.value) else f"{'-' if node.value < 0 else ''}infinity"
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
    if isinstance(node, Template):
        return put_in(node, name)
    text = ""
    for i, (divides, factor) in enumerate(node.factors):
        text += ("" if i == 0 else " / " if divides else " * ") + _inner(factor, name)
    return text


def _inner(node: Math, name: Callable[[str], str]) -> str:
    text = css(node, name)
    return f"({text})" if isinstance(node, Sum | Product) else text
