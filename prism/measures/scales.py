"""Measures that are computed from a base: scales of space, radii, sizes, durations, weights,
shadow levels. Each value is an expression over the base, so that it follows when the base changes.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace

from prism.changes.references import check_path
from prism.changes.structure import add_tokens
from prism.color.space import number_text
from prism.errors import EditError, PrismError
from prism.expressions.typed_input import read_typed
from prism.expressions.types import TOKEN_TYPES
from prism.model.document import Axis, Document, Token
from prism.model.values import BASE, Composite, Condition, Expression, Value
from prism.palette.ramp_edits import NewKey
from prism.palette.recipes import step_names

MOST_VALUES = 24


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of scale: its token type, how it grows, and what is proposed for it.

    ``growth`` is ``multiples`` of the base, ``powers`` of the factor times the base, or ``list``
    for values that stand by themselves.
    """

    id: str
    name: str
    type: str
    growth: str
    group: str
    base: str
    factor: str
    values: str


#: The scales that are offered.
KINDS = (
    Kind("space", "space", "dimension", "multiples", "space", "4px", "", "0 1 2 3 4 6 8 12 16"),
    Kind("radius", "radii", "dimension", "multiples", "radius", "4px", "", "0 1 2 3 4"),
    Kind("size", "sizes of type", "dimension", "powers", "size", "16px", "1.25", "-2 -1 0 1 2 3 4 5"),
    Kind("duration", "durations", "duration", "powers", "duration", "120ms", "1.5", "-1 0 1 2 3"),
    Kind("weight", "weights", "fontWeight", "list", "weight", "", "", "400 500 600 700"),
    Kind("shadow", "shadow levels", "shadow", "shadow", "shadow", "2px", "1.8", "0 1 2 3 4 5"),
)  # fmt: skip
_BY_ID: Mapping[str, Kind] = {kind.id: kind for kind in KINDS}


def kind_of(id: str) -> Kind:
    """The kind of scale with this id."""
    if id not in _BY_ID:
        raise EditError("There is no such scale.")
    return _BY_ID[id]


def add_scale(
    document: Document,
    kind: Kind,
    group: str,
    base: str,
    factor: str,
    values: str,
    new_key: NewKey,
    *,
    names: str = "",
) -> Document:
    """A scale of raw tokens: ``group.base``, ``group.factor`` where it grows by one, and a token
    for each of ``values``, which are multiples, exponents, or the values themselves."""
    group = group.strip()
    check_path(group)
    wanted = [text for text in values.replace(",", " ").split() if text]
    if not 1 <= len(wanted) <= MOST_VALUES:
        raise EditError(f"A scale has 1 to {MOST_VALUES} values, not {len(wanted)}.")
    numbers = [_number(text) for text in wanted]
    leaves = step_names(names, len(wanted)) if names.strip() else _leaves(kind, numbers)
    made = []
    if kind.growth != "list":
        made.append(_token(new_key(), f"{group}.base", kind.type, base.strip(), kind))
    if kind.growth in ("powers", "shadow"):
        made.append(Token(new_key(), f"{group}.factor", "number", "raw", _base(factor.strip())))
    for leaf, number in zip(leaves, numbers, strict=True):
        value = _value(kind, group, number)
        made.append(Token(new_key(), f"{group}.{leaf}", kind.type, "raw", ((BASE, value),)))
    return add_tokens(document, made, after=_last_measure(document))


def _token(key: str, path: str, type: str, text: str, kind: Kind) -> Token:
    """The base of a scale; that of shadow levels is a length."""
    return Token(key, path, "dimension" if kind.growth == "shadow" else type, "raw", _base(text))


def _base(text: str) -> tuple[tuple[Condition, Value], ...]:
    return ((BASE, Expression(text)),)


def _leaves(kind: Kind, numbers: Sequence[float]) -> tuple[str, ...]:
    """Names of the values: the multiples, the values, or places from 1 for exponents."""
    if kind.growth == "powers":
        return tuple(str(place) for place in range(1, len(numbers) + 1))
    return tuple(number_text(number, 3).replace(".", "-") for number in numbers)


def _value(kind: Kind, group: str, number: float) -> Value:
    if kind.growth == "list":
        return Expression(number_text(number, 3))
    base, factor = f"{{{group}.base}}", f"{{{group}.factor}}"
    if kind.growth == "multiples":
        if number == 1:
            return Expression(base)
        return Expression(f"calc({base} * {number_text(number, 3)})")
    if number != int(number) or abs(number) > 16:
        raise EditError("Exponents are whole numbers from -16 to 16.")
    if kind.growth == "powers":
        return Expression(_power(base, factor, int(number)))
    return _shadow(base, factor, int(number))


def _power(base: str, factor: str, exponent: int) -> str:
    if exponent == 0:
        return base
    sign = "*" if exponent > 0 else "/"
    return f"calc({base}{f' {sign} {factor}' * abs(exponent)})"


def _shadow(base: str, factor: str, level: int) -> Value:
    """One soft shadow that reaches further level by level; level 0 casts none."""
    if level < 0:
        raise EditError("Shadow levels begin at 0.")
    reach = "0px" if level == 0 else _power(base, factor, level - 1)
    blur = "0px" if level == 0 else f"calc({reach} * 3)"
    share = 0 if level == 0 else min(8 + 3 * level, 30)
    parts = {
        "color": f"rgb(0 0 0 / {share}%)", "offsetX": "0px", "offsetY": reach, "blur": blur,
        "spread": "0px",
    }  # fmt: skip
    return Composite(tuple((name, Expression(text)) for name, text in parts.items()))


def _number(text: str) -> float:
    try:
        number = float(text)
    except ValueError:
        raise PrismError(f"“{text[:20]}” is not a number.") from None
    if not abs(number) <= 10_000:
        raise PrismError(f"“{text[:20]}” is too large.")
    return number


def _last_measure(document: Document) -> str:
    """The last raw token that is no color, else the last raw color."""
    raw = [token.key for token in document.tokens if token.tier == "raw" and token.type != "color"]
    raw = raw or [token.key for token in document.tokens if token.tier == "raw"]
    return raw[-1] if raw else ""


def usual_axis(document: Document, part: str) -> Axis | None:
    """The axis whose modes are the columns of a part beside the colors (one of ``PARTS``): the one that most
    of its tokens differ by, or one that is called density or language."""
    chosen, usual = PARTS[part]
    differing = Counter(
        axis
        for token in document.tokens
        if chosen(token)
        for axis in {axis for held, _ in token.values for axis, _ in held.picks}
    )
    if differing:
        return max(document.axes, key=lambda axis: differing[axis.key])
    return next((axis for axis in document.axes if usual in axis.name.lower()), None)


def is_measure(token: Token) -> bool:
    """Whether a token is neither color nor text: a raw value, or one of many parts."""
    if token.type in ("color", "string", "boolean"):
        return False
    return token.tier == "raw" or bool(TOKEN_TYPES[token.type].parts)


def is_copy(token: Token) -> bool:
    """Whether a token is a text or a yes or no."""
    return token.type in ("string", "boolean")


#: The parts of the palette beside colors: whether a token belongs there, and how an axis is called that it
#: usually differs by.
PARTS: Mapping[str, tuple[Callable[[Token], bool], str]] = {
    "measures": (is_measure, "densit"),
    "texts": (is_copy, "lang"),
}


def add_plain(document: Document, path: str, type: str, text: str, new_key: NewKey) -> Document:
    """A single raw measure, text or yes or no."""
    path = path.strip()
    check_path(path)
    if type not in TOKEN_TYPES:
        raise EditError(f"There is no type “{type[:40]}”.")
    token = Token(new_key(), path, type, "raw", _base(text))
    value = read_typed(document, text, token)
    return add_tokens(
        document, [replace(token, values=((BASE, value),))], after=_last_measure(document)
    )
