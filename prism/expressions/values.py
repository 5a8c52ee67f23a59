"""Expressions: reading one value's text as a reference or as a literal of its type."""

from __future__ import annotations

import difflib
import json
import re
from collections.abc import Callable, Iterable, Iterator, Mapping
from functools import lru_cache

from prism.errors import ExpressionError
from prism.expressions import pieces
from prism.expressions.evaluation import Lookup
from prism.expressions.parsed import Parsed, Plain
from prism.expressions.syntax import REFERENCE, reference_of
from prism.expressions.types import TOKEN_TYPES
from prism.expressions.types.reading import evaluate
from prism.model.values import ABSENT, Absent, Composite, Expression, Listing, Value

MAX_TEXT = 65_536
#: Characters of a value with the pieces that it refers to put in.
MAX_TEXT_WITH_PIECES = 16_384
#: Items that a list may have.
MAX_ITEMS = 4_000
#: Levels that lists and parts of a value may lie in one another.
_DEEPEST = 20
_COMPARED = 400
#: Characters of a text whose reading is remembered.
_REMEMBERED = 400

#: Types whose value may be a list, and the type of an item.
ITEMS = {known.name: known.items for known in TOKEN_TYPES.values() if known.items}


def parse(text: str, type: str) -> Parsed:
    """Read ``text`` as an expression of ``type``; what was read lately is remembered.

    Raises ``ExpressionError`` with a sentence, the position and a fix. A text that can only be read
    once the pieces it refers to are put in has what is wrong with it without them as ``problem``.
    """
    if len(text) > _REMEMBERED:
        return _parsed(text, type)
    return _remembered(text, type)


def _parsed(text: str, type: str) -> Parsed:
    if len(text) > MAX_TEXT:
        raise ExpressionError(
            f"A value of {len(text)} characters is too long.",
            fix=f"At most {MAX_TEXT} characters are read.",
        )
    path = reference_of(text)
    if path:
        return Parsed(reference=path, references=(path,))
    read = TOKEN_TYPES[type].parse
    if read is None:
        raise ExpressionError(f"A {type} is made of parts and has no single text.")
    try:
        return read(text)
    except ExpressionError as error:
        if not TOKEN_TYPES[type].inner_references:
            raise
        template = pieces.template(text)
        if template is None:
            raise
        return Parsed(tree=template, references=template.paths, problem=error)


_remembered = lru_cache(maxsize=131072)(_parsed)


def evaluate_tree(parsed: Parsed, type: str, look: Lookup) -> Plain:
    """The value of a parsed expression that is not one whole reference."""
    if parsed.literal is not None:
        return parsed.literal
    assert parsed.tree is not None
    return evaluate(parsed.tree, type, look)


def part_type(type: str, part: str) -> str:
    """The type of a named part; ``ExpressionError`` where the type has no such part."""
    try:
        return TOKEN_TYPES[type].parts[part]
    except KeyError:
        raise ExpressionError(f"A {type} has no part named “{part}”.") from None


def leaves(value: Value, type: str) -> Iterator[tuple[Expression, str]]:
    """Every expression inside a value with the type it must have."""
    if isinstance(value, Absent):
        return
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


def check(value: Value, type: str, is_piece: Callable[[str], bool] = lambda path: False) -> None:
    """Raise ``ExpressionError`` unless ``value`` is whole and every expression in it parses.

    ``is_piece`` tells whether a path names a piece, whose text is put in before an expression is
    read.
    """
    for expression, expected in leaves(value, type):
        parsed = parse(expression.text, expected)
        if parsed.problem is not None and not any(map(is_piece, parsed.references)):
            raise parsed.problem
    _check_shape(value, type)


def _check_shape(value: Value, type: str) -> None:
    """What a value of many parts must have (Design Tokens Format Module, from memory)."""
    token_type = TOKEN_TYPES[type]
    if isinstance(value, Listing):
        if token_type.check_list is not None:
            token_type.check_list(value)
        for item in value.items:
            _check_shape(item, token_type.items)
        if not value.items:
            raise ExpressionError(f"A list of {type} is empty.")
    elif isinstance(value, Composite):
        names = [name for name, _ in value.parts]
        needed = [name for name in token_type.parts if name not in token_type.optional]
        missing = [name for name in needed if name not in names]
        if missing:
            raise ExpressionError(f"A {type} lacks its {' and '.join(missing)}.")
        if len(set(names)) != len(names):
            raise ExpressionError(f"The {type} has one part twice.")
        for name, part in value.parts:
            if not (type == "strokeStyle" and name == "dashArray"):
                _check_shape(part, part_type(type, name))
    elif isinstance(value, Absent):
        return
    elif token_type.parse is None and not reference_of(value.text):
        raise ExpressionError(f"A {type} is made of parts and has no single text.")


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
    if isinstance(value, Absent):
        return value
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

    if TOKEN_TYPES[type].inner_references or reference_of(text):
        return REFERENCE.sub(turn, text)
    return text


def nearest(path: str, known: Iterable[str]) -> str:
    """A sentence that names up to three known paths like ``path``; empty if none is.

    Of many paths only those are looked at that begin or end as ``path`` does.
    """
    names = list(known)
    if len(names) > _COMPARED:
        head, leaf = path[:3], path.rpartition(".")[2]
        names = [name for name in names if name.startswith(head) or name.endswith(leaf)]
    close = difflib.get_close_matches(path, names[:_COMPARED], n=3, cutoff=0.5)
    return f"Nearest: {', '.join('{' + name + '}' for name in close)}." if close else ""


def value_text(value: Value) -> str:
    """A value on one line, for people."""
    if isinstance(value, Absent):
        return "no value"
    if isinstance(value, Expression):
        return value.text
    if isinstance(value, Listing):
        return ", ".join(value_text(item) for item in value.items)
    return " ".join(value_text(part) for _, part in value.parts)


def encode(value: Value) -> str:
    """A value as JSON text: a string, an array, ``{"parts": [[name, value], …]}``, or null where it
    is absent."""
    return json.dumps(_plain(value), ensure_ascii=False, separators=(",", ":"))


def _plain(value: Value) -> object:
    if isinstance(value, Absent):
        return None
    if isinstance(value, Expression):
        return value.text
    if isinstance(value, Listing):
        return [_plain(item) for item in value.items]
    return {"parts": [[name, _plain(part)] for name, part in value.parts]}


def too_many(count: int) -> ExpressionError:
    """The error for a list of more than ``MAX_ITEMS`` items."""
    return ExpressionError(f"The list has {count:,} items; at most {MAX_ITEMS:,} are read.")


@lru_cache(maxsize=65536)
def decode(text: str) -> Value:
    """The value that ``encode`` wrote. Raises ``ValueError`` for what is no JSON, ``ExpressionError``
    for what is no value."""
    try:
        return _value(json.loads(text), 0)
    except (RecursionError, TypeError):
        raise ExpressionError("A stored value has an unknown form.") from None


def _value(plain: object, depth: int) -> Value:
    if depth > _DEEPEST:
        raise ExpressionError("The value is nested too deeply.")
    if plain is None:
        return ABSENT
    if isinstance(plain, str):
        return Expression(plain)
    if isinstance(plain, list):
        if len(plain) > MAX_ITEMS:
            raise too_many(len(plain))
        return Listing(tuple(_value(item, depth + 1) for item in plain))
    if isinstance(plain, dict) and isinstance(plain.get("parts"), list):
        return Composite(tuple((name, _value(part, depth + 1)) for name, part in plain["parts"]))
    raise ExpressionError("A stored value has an unknown form.")
