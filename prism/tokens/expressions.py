"""Expressions: reading one value's text as a reference or as a literal of its type."""

from __future__ import annotations

import difflib
import json
import re
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache

from prism.color import space
from prism.errors import ExpressionError
from prism.tokens.model import Composite, Expression, Listing, Value

REFERENCE = re.compile(r"\{([^{}]+)\}")
_NUMBER = r"[+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d+)?"
_QUANTITY = re.compile(rf"({_NUMBER})([a-z]+|%)?\Z", re.IGNORECASE)
_MAX_TEXT = 2000

# CSS Values and Units 4, sections 6 and 7.
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

# Design Tokens Format Module, font weight keywords (from memory of the module).
FONT_WEIGHTS = {
    "thin": 100, "hairline": 100, "extra-light": 200, "ultra-light": 200, "light": 300,
    "normal": 400, "regular": 400, "book": 400, "medium": 500, "semi-bold": 600,
    "demi-bold": 600, "bold": 700, "extra-bold": 800, "ultra-bold": 800, "black": 900,
    "heavy": 900, "extra-black": 950, "ultra-black": 950,
}  # fmt: skip
STROKE_STYLES = (
    "solid", "dashed", "dotted", "double", "groove", "ridge", "outset", "inset",
)  # fmt: skip

#: The parts of each composite type and the type of each part.
PARTS: dict[str, dict[str, str]] = {
    "shadow": {
        "color": "color", "offsetX": "dimension", "offsetY": "dimension",
        "blur": "dimension", "spread": "dimension", "inset": "boolean",
    },
    "border": {"color": "color", "width": "dimension", "style": "strokeStyle"},
    "transition": {
        "duration": "duration", "delay": "duration", "timingFunction": "cubicBezier",
    },
    "typography": {
        "fontFamily": "fontFamily", "fontSize": "dimension", "fontWeight": "fontWeight",
        "letterSpacing": "dimension", "lineHeight": "number",
    },
    "gradient": {"color": "color", "position": "number"},
    "strokeStyle": {"dashArray": "dimension", "lineCap": "string"},
}  # fmt: skip
#: Types whose value may be a list, and the type of an item.
ITEMS = {
    "shadow": "shadow",
    "gradient": "gradient",
    "fontFamily": "fontFamily",
    "cubicBezier": "number",
    "dimension": "dimension",
}


@dataclass(frozen=True, slots=True)
class Quantity:
    """A number with a CSS unit."""

    number: float
    unit: str


Plain = space.Color | Quantity | float | str | bool


@dataclass(frozen=True, slots=True)
class Node:
    """What a text means: a reference to a path, or a literal value."""

    reference: str = ""
    literal: Plain | None = None


def reference_of(text: str) -> str:
    """The path where the whole text is one ``{path}``; empty otherwise."""
    match = REFERENCE.fullmatch(text.strip())
    return match[1].strip() if match else ""


@lru_cache(maxsize=131072)
def parse(text: str, type: str) -> Node:
    """Read ``text`` as a reference or as a literal of ``type``.

    Raises ``ExpressionError`` with a sentence and a mend.
    """
    if len(text) > _MAX_TEXT:
        raise ExpressionError(
            f"A value of {len(text)} characters is too long.",
            mend=f"At most {_MAX_TEXT} characters are read.",
        )
    path = reference_of(text)
    if path:
        return Node(reference=path)
    if type not in ("string", "fontFamily") and ("{" in text or "}" in text):
        raise ExpressionError(
            f"“{text.strip()[:60]}” mixes a reference with other text.",
            mend="A reference stands alone, as {group.name}, with both its braces.",
        )
    return Node(literal=_literal(text, type))


def _literal(text: str, type: str) -> Plain:
    source = text.strip()
    if type == "color":
        return space.parse(source)
    if type == "string":
        return text
    if type == "boolean":
        if source not in ("true", "false"):
            raise ExpressionError(f"“{source[:60]}” is neither true nor false.")
        return source == "true"
    if type in ("dimension", "duration"):
        return _quantity(source, type)
    if type == "number":
        return _number(source)
    if type == "fontWeight":
        if source.lower() in FONT_WEIGHTS:
            return source.lower()
        weight = _number(source)
        if not 1 <= weight <= 1000:
            raise ExpressionError("A font weight lies between 1 and 1000.")
        return weight
    if type == "fontFamily":
        if not source:
            raise ExpressionError("A font family needs a name.")
        return source
    if type == "strokeStyle":
        if source not in STROKE_STYLES:
            raise ExpressionError(
                f"“{source[:60]}” is no line style.", mend="Use " + ", ".join(STROKE_STYLES) + "."
            )
        return source
    raise ExpressionError(f"A {type} is made of parts and has no single text.")


def _number(source: str) -> float:
    match = _QUANTITY.match(source)
    if match is None or match[2]:
        raise ExpressionError(f"“{source[:60]}” is not a number.")
    return float(match[1])


def _quantity(source: str, type: str) -> Quantity:
    match = _QUANTITY.match(source)
    units = LENGTH_UNITS if type == "dimension" else TIME_UNITS
    if match is None or (match[2] or "").lower() not in units:
        if match and not match[2] and float(match[1]) == 0:
            return Quantity(0.0, "px" if type == "dimension" else "ms")
        example = "16px or 1.5rem" if type == "dimension" else "120ms or 0.3s"
        raise ExpressionError(f"“{source[:60]}” is not a {type}.", mend=f"Write it as {example}.")
    return Quantity(float(match[1]), match[2].lower())


def part_type(type: str, part: str) -> str:
    """The type of a named part; ``ExpressionError`` where the type has no such part."""
    try:
        return PARTS[type][part]
    except KeyError:
        raise ExpressionError(f"A {type} has no part named “{part}”.") from None


def leaves(value: Value, type: str) -> Iterator[tuple[Expression, str]]:
    """Every expression inside a value with the type it must have."""
    if isinstance(value, Expression):
        yield value, type
    elif isinstance(value, Listing):
        if type not in ITEMS:
            raise ExpressionError(f"A {type} is not a list.")
        for item in value.items:
            yield from leaves(item, ITEMS[type])
    else:
        for name, part in value.parts:
            yield from leaves(part, part_type(type, name))


def check(value: Value, type: str) -> None:
    """Raise ``ExpressionError`` unless every expression in ``value`` parses as its type."""
    for expression, expected in leaves(value, type):
        parse(expression.text, expected)
    if isinstance(value, Listing) and type == "cubicBezier" and len(value.items) != 4:
        raise ExpressionError("A cubic Bézier curve has four numbers.")


def references(value: Value) -> Iterator[str]:
    """Every path a value refers to, in order, with repeats."""
    if isinstance(value, Expression):
        path = reference_of(value.text)
        if path:
            yield path
    elif isinstance(value, Listing):
        for item in value.items:
            yield from references(item)
    else:
        for _, part in value.parts:
            yield from references(part)


def rewrite(value: Value, renamed: dict[str, str]) -> Value:
    """``value`` with references by the old paths turned to the new; all else as it was."""
    if isinstance(value, Expression):
        path = reference_of(value.text)
        return Expression("{" + renamed[path] + "}") if path in renamed else value
    if isinstance(value, Listing):
        return Listing(tuple(rewrite(item, renamed) for item in value.items))
    return Composite(tuple((name, rewrite(part, renamed)) for name, part in value.parts))


def nearest(path: str, known: Iterable[str]) -> str:
    """A sentence that names up to three known paths like ``path``; empty if none is."""
    found = difflib.get_close_matches(path, list(known), n=3, cutoff=0.5)
    return f"Nearest: {', '.join('{' + name + '}' for name in found)}." if found else ""


def value_text(value: Value) -> str:
    """A value on one line, for people."""
    if isinstance(value, Expression):
        return value.text
    if isinstance(value, Listing):
        return ", ".join(value_text(item) for item in value.items)
    return " ".join(value_text(part) for _, part in value.parts)


def encode(value: Value) -> str:
    """A value as JSON text: a string, an array, or ``{"parts": [[name, value], …]}``."""
    return json.dumps(_plain(value), ensure_ascii=False, separators=(",", ":"))


def _plain(value: Value) -> object:
    if isinstance(value, Expression):
        return value.text
    if isinstance(value, Listing):
        return [_plain(item) for item in value.items]
    return {"parts": [[name, _plain(part)] for name, part in value.parts]}


@lru_cache(maxsize=65536)
def decode(text: str) -> Value:
    """The value that ``encode`` wrote."""
    return _value(json.loads(text))


def _value(plain: object) -> Value:
    if isinstance(plain, str):
        return Expression(plain)
    if isinstance(plain, list):
        return Listing(tuple(_value(item) for item in plain))
    if isinstance(plain, dict) and isinstance(plain.get("parts"), list):
        return Composite(tuple((name, _value(part)) for name, part in plain["parts"]))
    raise ExpressionError("A stored value has an unknown form.")
