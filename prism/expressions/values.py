"""Expressions: reading one value's text as a reference or as a literal of its type."""

from __future__ import annotations

import difflib
import json
import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions import evaluation as evaluate
from prism.expressions import syntax
from prism.expressions.evaluation import Calculation, Lookup, Quantity
from prism.expressions.syntax import REFERENCE
from prism.expressions.tree import ColorCall, ColorLiteral, Mix, Node, references_in
from prism.model.values import Composite, Expression, Listing, Value

_MAX_TEXT = 2000
_COMPARED = 400
#: Types whose values are computed, and those whose text may only be one whole reference.
_NUMERIC = ("dimension", "duration", "number")
_TEXTUAL = ("string", "boolean", "fontFamily", "fontWeight", "strokeStyle")

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
#: Types that no single text can be a value of.
MANY_PARTS = ("shadow", "border", "gradient", "typography", "transition", "cubicBezier")
#: Parts that may be left out.
OPTIONAL = ("inset",)
#: Types whose value may be a list, and the type of an item.
ITEMS = {
    "shadow": "shadow",
    "gradient": "gradient",
    "fontFamily": "fontFamily",
    "cubicBezier": "number",
    "dimension": "dimension",
}


Plain = space.Color | Quantity | Calculation | float | str | bool


@dataclass(frozen=True, slots=True)
class Parsed:
    """What a text means.

    ``reference`` is the path where the whole text is one; ``literal`` a value without
    references; ``tree`` what has to be computed; ``references`` every path in it, in order.
    """

    reference: str = ""
    literal: Plain | None = None
    tree: Node | None = None
    references: tuple[str, ...] = ()


def reference_of(text: str) -> str:
    """The path where the whole text is one ``{path}``; empty otherwise."""
    match = REFERENCE.fullmatch(text.strip())
    return match[1].strip() if match else ""


@lru_cache(maxsize=131072)
def parse(text: str, type: str) -> Parsed:
    """Read ``text`` as an expression of ``type``.

    Raises ``ExpressionError`` with a sentence, the position and a fix.
    """
    if len(text) > _MAX_TEXT:
        raise ExpressionError(
            f"A value of {len(text)} characters is too long.",
            fix=f"At most {_MAX_TEXT} characters are read.",
        )
    path = reference_of(text)
    if path:
        return Parsed(reference=path, references=(path,))
    source = text.strip()
    if type in _TEXTUAL:
        return Parsed(literal=_literal(text, type))
    if type == "color":
        if space.is_hex(source):
            return Parsed(literal=space.parse(source))
        color = syntax.parse_color(source)
        if isinstance(color, ColorLiteral):
            return Parsed(literal=color.color)
        return _computed(color, type)
    if type in _NUMERIC:
        return _computed(syntax.parse_math(source), type)
    raise ExpressionError(f"A {type} is made of parts and has no single text.")


def _computed(tree: Node, type: str) -> Parsed:
    """A tree, or what it comes to where it refers to nothing."""
    found = tuple(references_in(tree))
    parsed = Parsed(tree=tree, references=found)
    if found:
        return parsed
    literal = evaluate_tree(parsed, type, _nothing)
    return Parsed(literal=literal, tree=tree)


def _nothing(path: str, types: tuple[str, ...]) -> object:
    raise ExpressionError(f"{{{path}}} cannot stand here.")


def evaluate_tree(parsed: Parsed, type: str, look: Lookup) -> Plain:
    """The value of a parsed expression that is not one whole reference."""
    tree = parsed.tree
    if parsed.literal is not None:
        return parsed.literal
    assert tree is not None
    if type == "color":
        assert isinstance(tree, ColorLiteral | ColorCall | Mix)
        return evaluate.evaluate_color(tree, look)
    assert not isinstance(tree, ColorLiteral | ColorCall | Mix)
    return evaluate.evaluate_numeric(tree, type, look)


def _literal(text: str, type: str) -> Plain:
    source = text.strip()
    if type == "string":
        return text
    if type == "boolean":
        if source not in ("true", "false"):
            raise ExpressionError(f"“{source[:60]}” is neither true nor false.")
        return source == "true"
    if type == "fontWeight":
        if source.lower() in FONT_WEIGHTS:
            return source.lower()
        weight = evaluate.evaluate_numeric(syntax.parse_math(source), "number", _nothing)
        if not (isinstance(weight, float) and 1 <= weight <= 1000):
            raise ExpressionError("A font weight lies between 1 and 1000.")
        return weight
    if type == "fontFamily":
        if not source:
            raise ExpressionError("A font family needs a name.")
        return source
    if source not in STROKE_STYLES:
        raise ExpressionError(
            f"“{source[:60]}” is not a line style.", fix="Use " + ", ".join(STROKE_STYLES) + "."
        )
    return source


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
    """Raise ``ExpressionError`` unless ``value`` is whole and every expression in it parses."""
    for expression, expected in leaves(value, type):
        parse(expression.text, expected)
    _check_shape(value, type)


def _check_shape(value: Value, type: str) -> None:
    """What a value of many parts must have (Design Tokens Format Module, from memory)."""
    if isinstance(value, Listing):
        if type == "cubicBezier":
            _check_curve(value)
        for item in value.items:
            _check_shape(item, ITEMS[type])
        if not value.items:
            raise ExpressionError(f"A list of {type} is empty.")
    elif isinstance(value, Composite):
        names = [name for name, _ in value.parts]
        missing = [name for name in PARTS[type] if name not in names and name not in OPTIONAL]
        if missing:
            raise ExpressionError(f"A {type} lacks its {' and '.join(missing)}.")
        if len(set(names)) != len(names):
            raise ExpressionError(f"The {type} has one part twice.")
        for name, part in value.parts:
            if not (type == "strokeStyle" and name == "dashArray"):
                _check_shape(part, part_type(type, name))
    elif type in MANY_PARTS and not reference_of(value.text):
        raise ExpressionError(f"A {type} is made of parts and has no single text.")


def _check_curve(value: Listing) -> None:
    if len(value.items) != 4:
        raise ExpressionError("A cubic Bézier curve has four numbers.")
    for place in (0, 2):
        item = value.items[place]
        literal = parse(item.text, "number").literal if isinstance(item, Expression) else None
        if isinstance(literal, float) and not 0 <= literal <= 1:
            raise ExpressionError(
                "The first and third number of a cubic Bézier curve lie between 0 and 1."
            )


def references(value: Value, type: str) -> Iterator[str]:
    """Every path a value of ``type`` refers to, in order, with repeats.

    A text that no longer parses still names what stands in braces.
    """
    for expression, expected in leaves(value, type):
        try:
            yield from parse(expression.text, expected).references
        except ExpressionError:
            yield from (match[1].strip() for match in REFERENCE.finditer(expression.text))


def rewrite(value: Value, type: str, renamed: Mapping[str, str]) -> Value:
    """``value`` with references by the old paths turned to the new; all else as it was."""
    if isinstance(value, Expression):
        return Expression(_rewritten(value.text, type, renamed))
    if isinstance(value, Listing):
        return Listing(tuple(rewrite(item, ITEMS[type], renamed) for item in value.items))
    return Composite(
        tuple((name, rewrite(part, part_type(type, name), renamed)) for name, part in value.parts)
    )


def _rewritten(text: str, type: str, renamed: Mapping[str, str]) -> str:
    def turn(match: re.Match[str]) -> str:
        path = match[1].strip()
        return "{" + renamed[path] + "}" if path in renamed else match[0]

    if type in _TEXTUAL:
        return REFERENCE.sub(turn, text) if reference_of(text) else text
    return REFERENCE.sub(turn, text)


def nearest(path: str, known: Iterable[str]) -> str:
    """A sentence that names up to three known paths like ``path``; empty if none is.

    Of many paths only those are looked at that begin or end as ``path`` does.
    """
    names = list(known)
    if len(names) > _COMPARED:
        head, leaf = path[:3], path.rpartition(".")[2]
        names = [name for name in names if name.startswith(head) or name.endswith(leaf)]
    found = difflib.get_close_matches(path, names[:_COMPARED], n=3, cutoff=0.5)
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
