"""The syntax of expressions: what a text means, as a tree.

References are ``{path}`` (Design Tokens Format Module); everything else is CSS: colors of CSS
Color 4, ``color-mix()`` and relative colors of CSS Color 5. What is accepted and refused is what
Chromium 156 accepts and refuses.
"""

from __future__ import annotations

from typing import Any

import tinycss2

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.channels import HUES, MIX_SPACES, POLAR, RGB_SPACES, XYZ_SPACES, channels_of
from prism.expressions.marks import (
    is_mark,
    is_word,
    split_by_commas,
    trimmed,
)
from prism.expressions.math_syntax import (
    MATH,
    MAX_DEPTH,
    REFERENCE,
    MathParser,
    parse_math,
    reference_of,
)
from prism.expressions.tree import (
    ColorCall,
    ColorLiteral,
    ColorNode,
    ContrastColor,
    Math,
    Mix,
    Number,
    PageColor,
)

__all__ = ["REFERENCE", "parse_color", "parse_math", "reference_of"]

#: Colors that only a page can tell (CSS Color 4, sections 9 and 10, and their older names).
PAGE_COLORS = frozenset(
    [
        "currentcolor",
        "accentcolor",
        "accentcolortext",
        "activetext",
        "buttonborder",
        "buttonface",
        "buttontext",
        "canvas",
        "canvastext",
        "field",
        "fieldtext",
        "graytext",
        "highlight",
        "highlighttext",
        "linktext",
        "mark",
        "marktext",
        "selecteditem",
        "selecteditemtext",
        "visitedtext",
        "activeborder",
        "activecaption",
        "appworkspace",
        "background",
        "buttonhighlight",
        "buttonshadow",
        "captiontext",
        "inactiveborder",
        "inactivecaption",
        "inactivecaptiontext",
        "infobackground",
        "infotext",
        "menu",
        "menutext",
        "scrollbar",
        "threeddarkshadow",
        "threedface",
        "threedhighlight",
        "threedlightshadow",
        "threedshadow",
        "window",
        "windowframe",
        "windowtext",
    ]
)
_WITH_COMMAS = ("rgb", "hsl")
_FUNCTIONS = ("rgb", "rgba", "hsl", "hsla", "hwb", "lab", "lch", "oklab", "oklch", "color")


def parse_color(text: str) -> ColorNode:
    """A color expression. Raises ``ExpressionError`` with position and fix."""
    return _ColorParser(text).color_expression()


class _ColorParser(MathParser):
    def color_expression(self) -> ColorNode:
        if len(self.tokens) != 1:
            if not self.tokens:
                raise ExpressionError("The value is empty.")
            raise self.bad(
                self.tokens[1], f"“{self.show(self.tokens[1])}” is unexpected after a color."
            )
        return self.color(self.tokens[0], 0)

    def color(self, token: Any, depth: int) -> ColorNode:
        if depth > MAX_DEPTH:
            raise self.bad(token, "The expression is nested too deeply.")
        reference = self.reference(token)
        if reference is not None:
            return reference
        if token.type == "function":
            name = token.lower_name
            if name == "color-mix":
                return self.mix(token, depth)
            if name in _FUNCTIONS:
                return self.color_function(token, depth)
            if name == "contrast-color":
                inner = trimmed(token.arguments)
                if len(inner) != 1:
                    raise self.bad(token, "contrast-color() takes one color.")
                return ContrastColor(self.color(inner[0], depth + 1))
            fix = "Give each mode a value of its own." if name == "light-dark" else ""
            raise self.bad(token, f"{name}() makes no color.", fix)
        if token.type == "ident" and token.lower_value in PAGE_COLORS:
            return PageColor(token.value)
        if token.type in ("ident", "hash"):
            try:
                return ColorLiteral(space.parse(tinycss2.serialize([token])))
            except ExpressionError as error:
                raise self.bad(token, error.sentence, error.fix) from None
        raise self.bad(token, f"“{self.show(token)}” is not a color.")

    def color_function(self, token: Any, depth: int) -> ColorNode:
        name = {"rgba": "rgb", "hsla": "hsl"}.get(token.lower_name, token.lower_name)
        arguments = trimmed(token.arguments)
        if arguments and is_word(arguments[0], "from"):
            if len(arguments) < 2:
                raise self.bad(token, f"{name}(from …) needs a color.")
            origin = self.color(arguments[1], depth + 1)
            return self.channels(token, name, arguments[2:], depth, origin)
        if any(is_mark(argument, ",") for argument in arguments):
            return self.legacy(token, name, depth)
        return self.channels(token, name, arguments, depth, None)

    def channels(
        self, token: Any, name: str, arguments: list[Any], depth: int, origin: ColorNode | None
    ) -> ColorCall:
        """Three channels and an alpha after a slash; in ``color()`` the space comes first."""
        space_name = ""
        if name == "color":
            if not arguments or arguments[0].type != "ident":
                raise self.bad(token, "color() names its color space first.")
            space_name = arguments[0].lower_value
            if space_name not in (*RGB_SPACES, *XYZ_SPACES):
                raise self.bad(arguments[0], f"“{space_name}” is not a color space of color().")
            space_name = "xyz-d65" if space_name == "xyz" else space_name
            arguments = arguments[1:]
        slashes = [i for i, argument in enumerate(arguments) if is_mark(argument, "/")]
        alpha_tokens = arguments[slashes[0] + 1 :] if slashes else []
        values = arguments[: slashes[0]] if slashes else arguments
        if len(values) != 3 or (slashes and len(alpha_tokens) != 1):
            raise self.bad(token, f"{name}() takes three channels, and an alpha after `/`.")
        words = [channel for channel, _, _ in channels_of(name, space_name)] + ["alpha"]
        known = tuple(words) if origin is not None else ()

        def read(value: Any) -> Math:
            return self.math(value, known, depth + 1, inside=False, nothing=True)

        alpha = read(alpha_tokens[0]) if slashes else None
        return ColorCall(name, space_name, tuple(read(value) for value in values), alpha, origin)

    def legacy(self, token: Any, name: str, depth: int) -> ColorCall:
        """The older syntax, with commas (CSS Color 4, sections 5.1 and 7.1)."""
        parts = split_by_commas(token.arguments)
        if name not in _WITH_COMMAS:
            raise self.bad(token, f"{name}() has no commas.", "Separate its channels by spaces.")
        if len(parts) not in (3, 4) or any(len(part) != 1 for part in parts):
            raise self.bad(token, f"{name}() with commas takes three channels and an alpha.")
        values = [part[0] for part in parts]
        plain = [value.type for value in values[:3] if value.type in ("number", "percentage")]
        if name == "rgb" and len(set(plain)) > 1:
            raise self.bad(
                token, "rgb() with commas takes three numbers or three percentages, not both."
            )
        if name == "hsl" and any(value.type == "number" for value in values[1:3]):
            raise self.bad(token, "hsl() with commas takes percentages after the hue.")
        numbers = [self.math(value, (), depth + 1, inside=False) for value in values]
        alpha = numbers[3] if len(numbers) == 4 else None
        return ColorCall(name, "", tuple(numbers[:3]), alpha, legacy=True)

    def mix(self, token: Any, depth: int) -> Mix:
        parts = split_by_commas(token.arguments)
        if len(parts) == 2 and all(parts) and not is_word(parts[0][0], "in"):
            return Mix("oklab", "shorter", tuple(self.share(token, p, depth + 1) for p in parts))
        if len(parts) != 3 or not parts[0] or not is_word(parts[0][0], "in"):
            raise self.bad(
                token,
                "color-mix() takes a space and two colors.",
                "Write color-mix(in oklch, {a}, {b} 30%).",
            )
        words = [piece.lower_value if piece.type == "ident" else "?" for piece in parts[0][1:]]
        name = words[0] if words else ""
        if name not in MIX_SPACES:
            raise self.bad(
                parts[0][0],
                f"“{name}” is not a color space to mix in.",
                f"Known: {', '.join(MIX_SPACES)}.",
            )
        hue = "shorter"
        if len(words) > 1:
            hue = words[1]
            if name not in POLAR or words[2:] != ["hue"] or hue not in HUES:
                raise self.bad(
                    parts[0][0],
                    "A hue method is shorter, longer, increasing or decreasing, followed by “hue”.",
                )
        colors = tuple(self.share(token, part, depth + 1) for part in parts[1:])
        return Mix("xyz-d65" if name == "xyz" else name, hue, colors)

    def share(self, token: Any, part: list[Any], depth: int) -> tuple[ColorNode, Math | None]:
        if not 1 <= len(part) <= 2:
            raise self.bad(token, "Each color of color-mix() may have one percentage.")
        if len(part) == 1:
            return self.color(part[0], depth), None
        first, second = part
        if first.type == "percentage" or (first.type == "function" and first.lower_name in MATH):
            first, second = second, first
        share = self.math(second, (), depth, inside=False)
        if isinstance(share, Number) and not (share.unit == "%" and 0 <= share.value <= 100):
            raise self.bad(second, "A percentage of color-mix() goes from 0% to 100%.")
        return self.color(first, depth), share
