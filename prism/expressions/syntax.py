"""The syntax of expressions: what a text means, as a tree.

References are ``{path}`` (Design Tokens Format Module); everything else is CSS: colors of CSS
Color 4, ``color-mix()`` and relative colors of CSS Color 5, math of CSS Values and Units 4.
tinycss2 makes the tokens.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Any

import tinycss2

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.channels import HUES, MIX_SPACES, POLAR, RGB_SPACES, XYZ_SPACES, channels_of
from prism.expressions.marks import (
    PLACEHOLDER,
    is_computed,
    is_mark,
    is_word,
    split_by_commas,
    trimmed,
    without_commas,
)
from prism.expressions.tree import (
    Channel,
    ColorCall,
    ColorLiteral,
    ColorNode,
    Math,
    MathCall,
    Mix,
    Nothing,
    Number,
    Product,
    Reference,
    Sum,
)
from prism.expressions.units import known_unit

REFERENCE = re.compile(r"\{([^{}]+)\}")
_PLACED = re.compile(PLACEHOLDER + r"([0-9]{1,6})")
_MAX_DEPTH = 24
MATH = ("calc", "min", "max", "clamp", "round")
STRATEGIES = ("nearest", "up", "down", "to-zero")


_FUNCTIONS = ("rgb", "rgba", "hsl", "hsla", "hwb", "lab", "lch", "oklab", "oklch", "color")


def reference_of(text: str) -> str:
    """The path where the whole text is one ``{path}``; empty otherwise."""
    match = REFERENCE.fullmatch(text.strip())
    return match[1].strip() if match else ""


@dataclass(slots=True)
class _Source:
    """The author's text, the text tinycss2 reads, and where each reference stood."""

    text: str
    read: str = ""
    paths: list[str] = field(default_factory=list)
    shifts: list[tuple[int, int]] = field(default_factory=list)

    def prepare(self) -> None:
        def stand_in(match: re.Match[str]) -> str:
            name = f"{PLACEHOLDER}{len(self.paths)}"
            self.paths.append(match[1].strip())
            self.shifts.append((match.start(), len(match[0]) - len(name)))
            return name

        self.read = REFERENCE.sub(stand_in, self.text)

    def position(self, column: int) -> int:
        """The place in the author's text, from 1, of a column tinycss2 names."""
        place = column - 1
        for start, shift in self.shifts:
            if place > start:
                place += shift
        return min(place, len(self.text)) + 1


def parse_color(text: str) -> ColorNode:
    """A color expression. Raises ``ExpressionError`` with position and fix."""
    return _Parser(text).color_expression()


def parse_math(text: str) -> Math:
    """A number, a quantity or a math function."""
    return _Parser(text).math_expression()


class _Parser:
    def __init__(self, text: str) -> None:
        self.source = _Source(text)
        self.source.prepare()
        self._check_brackets()
        parsed = tinycss2.parse_component_value_list(self.source.read, skip_comments=True)
        self.tokens: list[Any] = trimmed(parsed)

    def _check_brackets(self) -> None:
        """Name the bracket that is missing; tinycss2 would close it silently."""
        open_: list[tuple[int, str]] = []
        read = self.source.read
        for place, character in enumerate(read):
            if character == "(":
                before = re.search(r"[\w-]*\Z", read[:place])
                open_.append((place, f"{before[0] if before else ''}("))
            elif character == ")":
                if not open_:
                    self.fail("`)` has no opening bracket.", place + 1)
                open_.pop()
            elif character in "{}":
                self.fail(f"`{character}` is unexpected.", place + 1, "A reference is {path}.")
        if open_:
            place, name = open_[-1]
            self.fail(f"`)` is missing after `{name}`.", place + 1)

    def fail(self, sentence: str, column: int, fix: str = "") -> None:
        place = self.source.position(column)
        raise ExpressionError(sentence, place=f"position {place}", fix=fix)

    def bad(self, token: Any, sentence: str, fix: str = "") -> ExpressionError:
        place = self.source.position(token.source_column)
        return ExpressionError(sentence, place=f"position {place}", fix=fix)

    def show(self, token: Any) -> str:
        text = str(tinycss2.serialize([token]))
        for number, path in enumerate(self.source.paths):
            text = text.replace(f"{PLACEHOLDER}{number}", "{" + path + "}")
        return text if len(text) <= 40 else text[:37] + "…"

    # Colors

    def color_expression(self) -> ColorNode:
        if len(self.tokens) != 1:
            if not self.tokens:
                raise ExpressionError("The value is empty.")
            raise self.bad(
                self.tokens[1], f"“{self.show(self.tokens[1])}” is unexpected after a color."
            )
        return self.color(self.tokens[0], 0)

    def color(self, token: Any, depth: int) -> ColorNode:
        if depth > _MAX_DEPTH:
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
            raise self.bad(token, f"{name}() makes no color.")
        if token.type in ("ident", "hash"):
            try:
                return ColorLiteral(space.parse(tinycss2.serialize([token])))
            except ExpressionError as error:
                raise self.bad(token, error.sentence, error.fix) from None
        raise self.bad(token, f"“{self.show(token)}” is not a color.")

    def reference(self, token: Any) -> Reference | None:
        if token.type == "ident" and (match := _PLACED.fullmatch(token.value)):
            place = int(match[1])
            if place < len(self.source.paths):
                return Reference(self.source.paths[place])
        return None

    def color_function(self, token: Any, depth: int) -> ColorNode:
        name = {"rgba": "rgb", "hsla": "hsl"}.get(token.lower_name, token.lower_name)
        arguments = trimmed(token.arguments)
        if not is_computed(arguments):
            try:
                return ColorLiteral(space.parse_function(tinycss2.serialize([token])))
            except ExpressionError as error:
                raise self.bad(token, error.sentence, error.fix) from None
        origin = None
        if arguments and arguments[0].type == "ident" and arguments[0].lower_value == "from":
            if len(arguments) < 2:
                raise self.bad(token, f"{name}(from …) needs a color.")
            origin = self.color(arguments[1], depth + 1)
            arguments = arguments[2:]
        space_name = ""
        if name == "color":
            if not arguments or arguments[0].type != "ident":
                raise self.bad(token, "color() names its color space first.")
            space_name = arguments[0].lower_value
            if space_name not in (*RGB_SPACES, *XYZ_SPACES):
                raise self.bad(arguments[0], f"“{space_name}” is not a color space of color().")
            space_name = "xyz-d65" if space_name == "xyz" else space_name
            arguments = arguments[1:]
        if any(is_mark(argument, ",") for argument in arguments):
            if origin is not None:
                raise self.bad(token, "A relative color has no commas.")
            arguments = without_commas(arguments)
        slashes = [i for i, argument in enumerate(arguments) if is_mark(argument, "/")]
        alpha_tokens = arguments[slashes[0] + 1 :] if slashes else []
        values = arguments[: slashes[0]] if slashes else arguments
        if len(values) != 3 or (slashes and len(alpha_tokens) != 1):
            raise self.bad(token, f"{name}() takes three channels, and an alpha after `/`.")
        words = [channel for channel, _, _ in channels_of(name, space_name)] + ["alpha"]
        known = tuple(words) if origin is not None else ()
        channels = tuple(self.math(value, known, depth + 1, nothing=True) for value in values)
        alpha = self.math(alpha_tokens[0], known, depth + 1, nothing=True) if slashes else None
        return ColorCall(name, space_name, channels, alpha, origin)

    def mix(self, token: Any, depth: int) -> Mix:
        parts = split_by_commas(token.arguments)
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
        return self.color(first, depth), self.math(second, (), depth)

    # Math

    def math_expression(self) -> Math:
        if not self.tokens:
            raise ExpressionError("The value is empty.")
        if len(self.tokens) != 1:
            raise self.bad(
                self.tokens[1],
                f"“{self.show(self.tokens[1])}” is unexpected.",
                "Write sums and products inside calc().",
            )
        return self.math(self.tokens[0], (), 0)

    def math(
        self, token: Any, channels: tuple[str, ...], depth: int, *, nothing: bool = False
    ) -> Math:
        if depth > _MAX_DEPTH:
            raise self.bad(token, "The expression is nested too deeply.")
        reference = self.reference(token)
        if reference is not None:
            return reference
        if token.type == "number":
            return Number(float(token.value))
        if token.type == "percentage":
            return Number(float(token.value), "%")
        if token.type == "dimension":
            unit = token.lower_unit
            if not known_unit(unit):
                raise self.bad(
                    token, f"“{unit}” is not a unit.", "Units are those of CSS: px, rem, ms, deg…"
                )
            return Number(float(token.value), unit)
        if token.type == "ident":
            if nothing and token.lower_value == "none":
                return Nothing()
            if token.lower_value in channels:
                return Channel(token.lower_value)
            constants = {"e": 2.718281828459045, "pi": 3.141592653589793}
            if depth and not nothing and token.lower_value in constants:
                return Number(constants[token.lower_value])
            raise self.bad(token, f"“{self.show(token)}” is not a number.")
        if token.type == "() block":
            return self.sum(token, trimmed(token.content), channels, depth + 1)
        if token.type == "function" and token.lower_name in MATH:
            return self.call(token, channels, depth + 1)
        raise self.bad(token, f"“{self.show(token)}” is not a number.")

    def call(self, token: Any, channels: tuple[str, ...], depth: int) -> Math:
        name, parts = token.lower_name, split_by_commas(token.arguments)
        strategy = ""
        if name == "round":
            strategy = "nearest"
            if (
                len(parts[0]) == 1
                and parts[0][0].type == "ident"
                and parts[0][0].lower_value in STRATEGIES
            ):
                strategy = parts.pop(0)[0].lower_value
        counts = {"calc": (1, 1), "clamp": (3, 3), "round": (1, 2)}
        least, most = counts.get(name, (1, 64))
        if not least <= len(parts) <= most or any(not part for part in parts):
            raise self.bad(token, f"{name}() has the wrong number of values.")
        arguments = tuple(self.sum(token, part, channels, depth) for part in parts)
        if name == "round" and len(arguments) == 1:
            arguments = (*arguments, Number(1.0))
        return MathCall(name, arguments, strategy)

    def sum(self, token: Any, part: list[Any], channels: tuple[str, ...], depth: int) -> Math:
        if not part:
            raise self.bad(token, "A value is missing between the brackets.")
        terms: list[tuple[int, Math]] = []
        start, sign = 0, 1
        for i, piece in enumerate(part):
            if is_mark(piece, "+") or is_mark(piece, "-"):
                terms.append((sign, self.product(piece, part[start:i], channels, depth)))
                start, sign = i + 1, 1 if piece.value == "+" else -1
        terms.append((sign, self.product(token, part[start:], channels, depth)))
        return terms[0][1] if len(terms) == 1 else Sum(tuple(terms))

    def product(self, token: Any, part: list[Any], channels: tuple[str, ...], depth: int) -> Math:
        if not part:
            raise self.bad(token, "A value is missing next to an operator.")
        if len(part) % 2 == 0 or any(not (is_mark(o, "*") or is_mark(o, "/")) for o in part[1::2]):
            wrong = next(
                (o for o in part[1::2] if not (is_mark(o, "*") or is_mark(o, "/"))), part[-1]
            )
            raise self.bad(
                wrong,
                f"An operator is missing before “{self.show(wrong)}”.",
                "Plus and minus need a space on both sides.",
            )
        factors: list[tuple[bool, Math]] = [(False, self.math(part[0], channels, depth))]
        for operator, operand in zip(part[1::2], part[2::2], strict=True):
            factors.append((operator.value == "/", self.math(operand, channels, depth)))
        return factors[0][1] if len(factors) == 1 else Product(tuple(factors))
