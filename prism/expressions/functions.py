"""The math functions of CSS Values and Units 4, section 10, over amounts."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence

from prism.errors import ExpressionError
from prism.expressions.units import Amount, reduce


def call(name: str, strategy: str, values: Sequence[Amount]) -> Amount:
    """A math function of its values. Raises ``ExpressionError`` for values of the wrong kinds."""
    if name == "calc":
        return values[0]
    if name == "round":
        step = values[1] if len(values) > 1 else Amount.of(1.0)
        return reduce(name, (values[0], step), _ROUNDED[strategy], prefix=f"{strategy}, ")
    if name in _OF_ONE_KIND:
        return reduce(name, values, _OF_ONE_KIND[name])
    if name == "sign":
        return Amount.of(_sign(_single(name, values[0])[0]))
    if name in _OF_ANGLES:
        return Amount.of(_OF_ANGLES[name](_radians(name, values[0])))
    if name == "atan2":
        across, along = (_single(name, value) for value in values)
        if across[1] != along[1]:
            raise ExpressionError("atan2() takes two values of one unit.")
        return Amount.of(math.degrees(math.atan2(across[0], along[0])), "deg")
    numbers = [_number(name, value) for value in values]
    if name in _TO_ANGLES:
        return Amount.of(math.degrees(_safely(_TO_ANGLES[name], numbers)), "deg")
    return Amount.of(_safely(_OF_NUMBERS[name], numbers))


def _single(name: str, amount: Amount) -> tuple[float, str]:
    if amount.single is None:
        raise ExpressionError(f"{name}() needs a value that can be computed here.")
    return amount.single


def _number(name: str, amount: Amount) -> float:
    number, unit = _single(name, amount)
    if unit:
        raise ExpressionError(f"{name}() takes a number, and this is a {amount.kind_word}.")
    return number


def _radians(name: str, amount: Amount) -> float:
    number, unit = _single(name, amount)
    if unit not in ("", "deg"):
        raise ExpressionError(f"{name}() takes an angle, and this is a {amount.kind_word}.")
    return math.radians(number) if unit else number


def _safely(compute: Callable[[Sequence[float]], float], numbers: Sequence[float]) -> float:
    """What a function comes to; not a number where it has no value, infinite where it is too
    large."""
    try:
        result = compute(numbers)
    except ValueError:
        return math.nan
    except (OverflowError, ZeroDivisionError):
        return math.inf
    return result if isinstance(result, float) else math.nan


def _sign(number: float) -> float:
    return number if number == 0 or math.isnan(number) else math.copysign(1.0, number)


def _pow(numbers: Sequence[float]) -> float:
    return float(math.pow(numbers[0], numbers[1]))


def _log(numbers: Sequence[float]) -> float:
    if numbers[0] == 0:
        return -math.inf
    return math.log(*numbers)


def _sine(angle: float) -> float:
    return math.sin(angle) if math.isfinite(angle) else math.nan


def _cosine(angle: float) -> float:
    return math.cos(angle) if math.isfinite(angle) else math.nan


def _tangent(angle: float) -> float:
    return math.tan(angle) if math.isfinite(angle) else math.nan


_OF_ANGLES = {"sin": _sine, "cos": _cosine, "tan": _tangent}
_TO_ANGLES: dict[str, Callable[[Sequence[float]], float]] = {
    "asin": lambda numbers: math.asin(numbers[0]),
    "acos": lambda numbers: math.acos(numbers[0]),
    "atan": lambda numbers: math.atan(numbers[0]),
}
_OF_NUMBERS: dict[str, Callable[[Sequence[float]], float]] = {
    "pow": _pow,
    "sqrt": lambda numbers: math.sqrt(numbers[0]),
    "log": _log,
    "exp": lambda numbers: math.exp(numbers[0]),
}


def _clamp(numbers: Sequence[float]) -> float:
    low, value, high = numbers
    return max(low, min(value, high))


def _mod(numbers: Sequence[float]) -> float:
    """The rest with the sign of the divisor."""
    number, by = numbers
    if by == 0 or math.isinf(number):
        return math.nan
    return number - math.floor(number / by) * by if math.isfinite(by) else number


def _rem(numbers: Sequence[float]) -> float:
    """The rest with the sign of the number."""
    number, by = numbers
    return math.nan if by == 0 or math.isinf(number) else math.fmod(number, by)


_OF_ONE_KIND: dict[str, Callable[[Sequence[float]], float]] = {
    "min": min,
    "max": max,
    "clamp": _clamp,
    "abs": lambda numbers: abs(numbers[0]),
    "hypot": lambda numbers: math.hypot(*numbers),
    "mod": _mod,
    "rem": _rem,
}


def _rounded(whole_number: Callable[[float], float]) -> Callable[[Sequence[float]], float]:
    def compute(numbers: Sequence[float]) -> float:
        number, size = numbers[0], abs(numbers[1])
        if size == 0 or not math.isfinite(number):
            return math.nan
        # Division by a decimal step may fall a hair short of the whole number it means.
        return whole_number(round(number / size, 12)) * size

    return compute


_ROUNDED = {
    "nearest": _rounded(lambda ratio: math.floor(ratio + 0.5)),
    "up": _rounded(math.ceil),
    "down": _rounded(math.floor),
    "to-zero": _rounded(math.trunc),
}
