"""The syntax of math: numbers, quantities and the functions of CSS Values and Units 4, section 10.

References are ``{path}`` (Design Tokens Format Module). tinycss2 makes the tokens.
"""

from __future__ import annotations

import re
from dataclasses import dataclass, field
from typing import Any

import tinycss2

from prism.errors import ExpressionError
from prism.expressions.marks import (
    LONG_NUMBER,
    MOST_DIGITS,
    PLACEHOLDER,
    deepest,
    is_mark,
    is_word,
    split_by_commas,
    trimmed,
)
from prism.expressions.tree import (
    Channel,
    Math,
    MathCall,
    Nothing,
    Number,
    Product,
    Reference,
    Sum,
)
from prism.expressions.units import known_unit

REFERENCE = re.compile(r"\{([^{}]+)\}")
_PLACED = re.compile(PLACEHOLDER + r"([0-9]{1,6})")
MAX_DEPTH = 24
#: Brackets that may lie in one another; more are not parsed at all.
MAX_BRACKETS = 100
#: Math functions and how many values each takes.
MATH = {
    "calc": (1, 1), "min": (1, 64), "max": (1, 64), "clamp": (3, 3), "round": (1, 2),
    "mod": (2, 2), "rem": (2, 2), "abs": (1, 1), "sign": (1, 1), "sin": (1, 1), "cos": (1, 1),
    "tan": (1, 1), "asin": (1, 1), "acos": (1, 1), "atan": (1, 1), "atan2": (2, 2),
    "pow": (2, 2), "sqrt": (1, 1), "hypot": (1, 64), "log": (1, 2), "exp": (1, 1),
}  # fmt: skip
STRATEGIES = ("nearest", "up", "down", "to-zero")
CONSTANTS = {
    "e": 2.718281828459045, "pi": 3.141592653589793, "infinity": float("inf"),
    "-infinity": float("-inf"), "nan": float("nan"),
}  # fmt: skip


def reference_of(text: str) -> str:
    """The path where the whole text is one ``{path}``; empty otherwise."""
    match = REFERENCE.fullmatch(text.strip())
    return match[1].strip() if match else ""


@dataclass(slots=True)
class Source:
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


def parse_math(text: str) -> Math:
    """A number, a quantity or a math function."""
    return MathParser(text).math_expression()


class MathParser:
    """Reads the math in one text, and names what is wrong by its place."""

    def __init__(self, text: str) -> None:
        self.source = Source(text)
        self.source.prepare()
        self._check_brackets()
        parsed = tinycss2.parse_component_value_list(self.source.read, skip_comments=True)
        self.tokens: list[Any] = trimmed(parsed)

    def _check_brackets(self) -> None:
        """Name the bracket that is missing; tinycss2 would close it silently."""
        open_: list[tuple[int, str]] = []
        read = self.source.read
        if LONG_NUMBER.search(read):
            self.fail(f"A number has more than {MOST_DIGITS} digits.", 1)
        if deepest(read) > MAX_BRACKETS:
            self.fail("The expression is nested too deeply.", 1)
        for place, character in enumerate(read):
            if character == "(":
                before = re.search(r"[\w-]*\Z", read[max(0, place - 40) : place])
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

    def reference(self, token: Any) -> Reference | None:
        if token.type == "ident" and (match := _PLACED.fullmatch(token.value)):
            place = int(match[1])
            if place < len(self.source.paths):
                return Reference(self.source.paths[place])
        return None

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
        return self.math(self.tokens[0], (), 0, inside=False)

    def math(
        self,
        token: Any,
        channels: tuple[str, ...],
        depth: int,
        *,
        inside: bool = True,
        nothing: bool = False,
    ) -> Math:
        """One value; brackets and constants only ``inside`` a function, ``none`` where allowed."""
        if depth > MAX_DEPTH:
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
            if inside and token.lower_value in CONSTANTS:
                return Number(CONSTANTS[token.lower_value])
            raise self.bad(token, f"“{self.show(token)}” is not a number.")
        if token.type == "() block" and inside:
            self.check_blanks(token.content)
            return self.sum(token, trimmed(token.content), channels, depth + 1)
        if token.type == "function" and token.lower_name in MATH:
            return self.call(token, channels, depth + 1)
        raise self.bad(token, f"“{self.show(token)}” is not a number.")

    def call(self, token: Any, channels: tuple[str, ...], depth: int) -> Math:
        """A math function. ``none`` as an end of ``clamp()`` is no end at all."""
        name, parts = token.lower_name, split_by_commas(token.arguments)
        self.check_blanks(token.arguments)
        strategy = ""
        if name == "round":
            strategy = "nearest"
            if (
                len(parts[0]) == 1
                and parts[0][0].type == "ident"
                and parts[0][0].lower_value in STRATEGIES
            ):
                strategy = parts.pop(0)[0].lower_value
        least, most = MATH[name]
        if not least <= len(parts) <= most or any(not part for part in parts):
            raise self.bad(token, f"{name}() has the wrong number of values.")
        if name == "clamp":
            free = [len(part) == 1 and is_word(part[0], "none") for part in parts]
            if any(free) and not free[1]:
                kept = [part for part, is_free in zip(parts, free, strict=True) if not is_free]
                name = "calc" if len(kept) == 1 else "max" if free[2] else "min"
                parts = kept
        arguments = tuple(self.sum(token, part, channels, depth) for part in parts)
        if name == "round" and len(arguments) == 1:
            arguments = (*arguments, Number(1.0))
        return MathCall(name, arguments, strategy)

    def check_blanks(self, tokens: list[Any]) -> None:
        """Refuse a plus or minus without a blank on both sides (CSS Values 4, section 10.1)."""
        for before, token, after in zip(tokens, tokens[1:], tokens[2:], strict=False):
            if (is_mark(token, "+") or is_mark(token, "-")) and not (
                before.type == after.type == "whitespace"
            ):
                raise self.bad(token, "Plus and minus need a space on both sides.")

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
