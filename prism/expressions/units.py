"""Amounts: numbers with units, as sums of products, the way CSS ``calc()`` computes.

An amount maps units to coefficients: ``{(("px", 1),): 4.0, (("rem", 1),): 1.5}`` is
``4px + 1.5rem``. Units that convert into each other are held in one of them (px, ms, deg). What
cannot be reduced, such as ``min(1rem, 10px)``, is an atom: a unit whose name is its CSS text.

Source: CSS Values and Units 4, sections 5 to 7 (units) and 10 (mathematical expressions).
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

from prism.color.space import number_text
from prism.errors import ExpressionError

Units = tuple[tuple[str, int], ...]

_ABSOLUTE = {
    "cm": ("px", 96 / 2.54), "mm": ("px", 9.6 / 2.54), "q": ("px", 2.4 / 2.54),
    "in": ("px", 96.0), "pt": ("px", 4 / 3), "pc": ("px", 16.0), "s": ("ms", 1000.0),
    "rad": ("deg", 180 / math.pi), "grad": ("deg", 0.9), "turn": ("deg", 360.0),
}  # fmt: skip


def base_unit(unit: str) -> tuple[str, float]:
    """The unit that CSS relates an absolute unit to, and how many of it one is; others stand for
    themselves. Source: CSS Values 4, section 6.2."""
    return _ABSOLUTE.get(unit.lower(), (unit, 1.0))


LENGTH_UNITS = frozenset(
    [
        "px",
        "rem",
        "em",
        "ch",
        "ex",
        "cap",
        "ic",
        "lh",
        "rlh",
        "vw",
        "vh",
        "vi",
        "vb",
        "vmin",
        "vmax",
        "svw",
        "svh",
        "lvw",
        "lvh",
        "dvw",
        "dvh",
        "cm",
        "mm",
        "q",
        "in",
        "pt",
        "pc",
    ]
)
TIME_UNITS = frozenset(("ms", "s"))
ANGLE_UNITS = frozenset(("deg", "rad", "grad", "turn"))
_KINDS = {"px": "length", "ms": "time", "deg": "angle", "%": "percentage"}
#: What each kind is called in a sentence.
WORDS = {
    "": "number",
    "length": "length",
    "time": "time",
    "angle": "angle",
    "percentage": "percentage",
}
_PRECISION = 10


def kind_of_unit(unit: str) -> str:
    """``length``, ``time``, ``angle``, ``percentage``, or the kind of an atom."""
    if unit.startswith("="):
        return unit[1:].split(" ", 1)[0]
    return "length" if unit in LENGTH_UNITS else _KINDS[unit]


def known_unit(unit: str) -> bool:
    """Whether CSS has this unit."""
    return unit in LENGTH_UNITS or unit in TIME_UNITS or unit in ANGLE_UNITS or unit in ("", "%")


@dataclass(frozen=True, slots=True)
class Amount:
    """A sum of products of units; ``terms`` is in order and has no zero unless it is alone."""

    terms: tuple[tuple[Units, float], ...]

    @classmethod
    def of(cls, number: float, unit: str = "") -> Amount:
        """One number with one unit, converted where units of its kind convert."""
        plain, factor = _ABSOLUTE.get(unit, (unit, 1.0))
        return cls(((((plain, 1),) if plain else (), number * factor),))

    @property
    def kind(self) -> tuple[tuple[str, int], ...]:
        """Kinds with their exponents; empty for a number."""
        return _kind(self.terms[0][0])

    @property
    def kind_word(self) -> str:
        """The kind as it is called in a sentence."""
        kind = self.kind
        if not kind:
            return "number"
        return WORDS[kind[0][0]] if len(kind) == 1 and kind[0][1] == 1 else "product of units"

    @property
    def single(self) -> tuple[float, str] | None:
        """Number and unit where that is all there is; the unit is empty for a number."""
        if len(self.terms) != 1:
            return None
        units, number = self.terms[0]
        if not units:
            return number, ""
        if len(units) == 1 and units[0][1] == 1 and not units[0][0].startswith("="):
            return number, units[0][0]
        return None


def _kind(units: Units) -> tuple[tuple[str, int], ...]:
    powers: dict[str, int] = {}
    for unit, power in units:
        name = kind_of_unit(unit)
        powers[name] = powers.get(name, 0) + power
    return tuple(sorted((name, power) for name, power in powers.items() if power))


def _amount(terms: Mapping[Units, float]) -> Amount:
    kept = {units: number for units, number in terms.items() if number != 0}
    if not kept:
        first = next(iter(terms))
        kept = {first: 0.0}
    return Amount(tuple(kept.items()))


def add(parts: Sequence[tuple[int, Amount]]) -> Amount:
    """A sum of signed amounts of one kind. Raises ``ExpressionError`` for two kinds."""
    terms: dict[Units, float] = {}
    first = parts[0][1]
    for sign, part in parts:
        if part.kind != first.kind:
            raise ExpressionError(
                f"A {first.kind_word} and a {part.kind_word} cannot be added.",
                fix="Give both the same kind of unit.",
            )
        for units, number in part.terms:
            terms[units] = terms.get(units, 0.0) + sign * number
    return _amount(terms)


def multiply(first: Amount, two: Amount) -> Amount:
    """The product; units multiply too, so that 4px * 4px / 1px is a length."""
    terms: dict[Units, float] = {}
    for units, number in first.terms:
        for others, factor in two.terms:
            powers = dict(units)
            for unit, power in others:
                powers[unit] = powers.get(unit, 0) + power
            key = tuple(sorted((unit, power) for unit, power in powers.items() if power))
            terms[key] = terms.get(key, 0.0) + number * factor
    return _amount(terms)


def divide(first: Amount, two: Amount) -> Amount:
    """The quotient, infinite for zero. Raises ``ExpressionError`` for a sum of unlike units."""
    if len(two.terms) != 1:
        raise ExpressionError("A sum of unlike units cannot divide.")
    units, number = two.terms[0]
    inverse = 1 / number if number else math.copysign(math.inf, number)
    return multiply(first, Amount(((tuple((unit, -power) for unit, power in units), inverse),)))


def reduce(
    name: str,
    amounts: Sequence[Amount],
    compute: Callable[[Sequence[float]], float],
    prefix: str = "",
) -> Amount:
    """What a function of amounts of one kind comes to; an atom where their units are unlike.

    Raises ``ExpressionError`` for two kinds, and for a product of unlike units.
    """
    first = amounts[0]
    for other in amounts[1:]:
        if other.kind != first.kind:
            raise ExpressionError(
                f"{name}() takes one kind of value, and has a {first.kind_word} and a "
                f"{other.kind_word}."
            )
    if all(
        len(amount.terms) == 1 and amount.terms[0][0] == first.terms[0][0] for amount in amounts
    ):
        number = compute([amount.terms[0][1] for amount in amounts])
        return Amount(((first.terms[0][0], number),))
    kind = first.kind
    if len(kind) != 1 or kind[0][1] != 1:
        raise ExpressionError(f"{name}() cannot hold a product of unlike units.")
    inner = ", ".join(bare_text(amount) for amount in amounts)
    return Amount((((((f"={kind[0][0]} {name}({prefix}{inner})"), 1),), 1.0),))


def bare_text(amount: Amount) -> str:
    """CSS text inside a math function: ``4px + 1.5rem``."""
    texts = []
    for units, number in amount.terms:
        if not units:
            texts.append(number_text(number, _PRECISION))
            continue
        if len(units) != 1 or units[0][1] != 1:
            raise ExpressionError("A product of unlike units is not a value.")
        unit = units[0][0]
        if unit.startswith("="):
            atom = unit.split(" ", 1)[1]
            texts.append(atom if number == 1 else f"{number_text(number, _PRECISION)} * {atom}")
        else:
            texts.append(f"{number_text(number, _PRECISION)}{unit}")
    return " + ".join(texts)


def text(amount: Amount) -> str:
    """CSS text of a whole value: ``4px``, or ``calc(4px + 1.5rem)``."""
    inner = bare_text(amount)
    if amount.single is not None:
        return inner
    units, number = amount.terms[0]
    lone = len(amount.terms) == 1 and number == 1 and units[0][0].startswith("=")
    return inner if lone else f"calc({inner})"
