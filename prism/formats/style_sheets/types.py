"""What type of token a custom property is, by all its texts and by what they refer to."""

from __future__ import annotations

import re
from collections.abc import Callable, Collection, Iterable, Mapping, Sequence

import tinycss2

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import Quantity
from prism.expressions.pieces import fault_of
from prism.expressions.syntax import REFERENCE, reference_of
from prism.expressions.types import TOKEN_TYPES
from prism.expressions.types.font_family import families
from prism.expressions.types.shorthand import split
from prism.expressions.values import (
    MAX_TEXT_WITH_PIECES,
    check,
    evaluate_tree,
    leaves,
    parse,
)
from prism.formats.limits import MAX_PUT_IN
from prism.formats.style_sheets.tokens import is_font_list
from prism.model.values import Composite, Value

_TRIED = ("color", "number", "dimension", "duration")
#: What is no color, as anyone sees without reading it.
_NUMERIC = re.compile(r"[+-]?[.\d]+[a-zA-Z%]*\Z")
#: A value of each type that other values may refer to.
_SAMPLES: Mapping[str, object] = {
    "color": space.Color("srgb", (0.4, 0.5, 0.6)),
    "number": 1.0,
    "dimension": Quantity(1.0, "px"),
    "duration": Quantity(1.0, "ms"),
}
#: Types of many parts that a line of CSS is tried as.
_MANY = ("cubicBezier", "shadow", "border")
_MOST_SAMPLES = 8


class Types:
    """Types of properties by path. What is none of the types is a piece, or nothing at all."""

    def __init__(self, pending: Iterable[str] = (), fonts: Collection[str] = ()) -> None:
        self.known: dict[str, str] = {}
        #: Paths that are not settled yet; what refers to them is taken to fit, as in other modes
        #: they may refer back.
        self.pending = set(pending)
        #: Paths of what the sheet uses as a family of fonts.
        self._fonts = fonts
        #: The first texts of each property; those of a piece with all pieces put in.
        self._samples: dict[str, list[str]] = {}
        self._put_in = 0
        self._skipped: set[str] = set()
        #: Shadows of one layer in every theme, which can be a layer of others.
        self._single: set[str] = set()

    def settle(self, path: str, texts: Sequence[str]) -> str:
        """The type of a property with these texts, whose references are settled; why it is none
        is raised as an ``ExpressionError``."""
        self.pending.discard(path)
        try:
            kind = self._settled(path, texts)
        except ExpressionError:
            self._skipped.add(path)
            raise
        return kind

    def _settled(self, path: str, texts: Sequence[str]) -> str:
        if self._skipped and any(p in self._skipped for text in texts for p in _paths_in(text)):
            raise ExpressionError("Needs a property that was skipped.")
        tried = _TRIED[1:] if texts and _NUMERIC.match(texts[0]) else _TRIED
        kind = next(
            (kind for kind in tried if texts and all(self._fits(text, kind) for text in texts)), ""
        )
        for other in ("fontFamily", "string"):
            if (
                texts
                and not kind
                and all(
                    self._is_alias(text, other) or self._says(text, other, path) for text in texts
                )
            ):
                kind = other
        if texts and not kind:
            kind = next((many for many in _MANY if self._all_are(texts, many)), "")
        if not kind:
            for text in texts:
                fault = fault_of(text)
                if fault:
                    raise ExpressionError(fault)
            kind = "piece"
        samples = list(texts[:_MOST_SAMPLES]) or [""]
        if kind == "piece":
            samples = [self._with_pieces(text, number) for number, text in enumerate(samples)]
        self.known[path], self._samples[path] = kind, samples
        if kind == "shadow" and all(isinstance(_line(text, kind), Composite) for text in texts):
            self._single.add(path)
        return kind

    def _says(self, text: str, kind: str, path: str) -> bool:
        """Whether a text is a list of fonts, some of which may be references, or a string."""
        if kind == "string":
            return _is_string(text)
        parts = split(text, ",")
        own = [part for part in parts if not self._is_alias(part, kind)]
        if len(own) < len(parts):
            return families(", ".join(own)) is not None
        return is_font_list(text, f"{path} family" if path in self._fonts else path)

    def _is_alias(self, text: str, kind: str) -> bool:
        path = reference_of(text)
        return bool(path) and self.known.get(path) == kind

    def _all_are(self, texts: Sequence[str], kind: str) -> bool:
        """Whether all texts are values of a type of many parts, each part a value of its own type."""
        return all(self._is_alias(text, kind) or self._is_many(text, kind) for text in texts)

    def _is_many(self, text: str, kind: str) -> bool:
        value = _line(text, kind)
        if value is None:
            return False
        try:
            check(value, kind)
            return all(
                self._is_part(part.text, part_kind) for part, part_kind in leaves(value, kind)
            )
        except ExpressionError:
            return False

    def _is_part(self, text: str, kind: str) -> bool:
        """Whether a text is a part of this type, without pieces. Raises ``ExpressionError``."""
        path = reference_of(text)
        if path:
            fits = self.known.get(path) == kind
            return fits and (kind != "shadow" or path in self._single)
        if kind in _SAMPLES:
            return self._is_one(text, kind)
        return "{" not in text

    def _fits(self, text: str, kind: str) -> bool:
        path = reference_of(text) if "{" in text else ""
        if path in self.pending:
            return True
        if path and self.known.get(path) != "piece":
            return self.known.get(path) == kind
        try:
            if "{" not in text:
                return self._is_one(text, kind)
            return all(self._is_one(variant, kind) for variant in self._variants(text))
        except ExpressionError:
            return False

    def _is_one(self, text: str, kind: str) -> bool:
        """Whether a text without pieces is a value of a type. Raises ``ExpressionError``."""
        parsed = parse(text, kind)
        if parsed.problem is not None:
            return False
        if parsed.reference:
            return parsed.reference in self.pending or self.known.get(parsed.reference) == kind
        if parsed.literal is None:
            evaluate_tree(parsed, kind, self._look)
        return True

    def _variants(self, text: str) -> list[str]:
        """A text with its pieces put in: for each of their texts one."""
        used = {match[1] for match in REFERENCE.finditer(text)}
        count = max((len(self._samples.get(path, ())) for path in used), default=1)
        return list(dict.fromkeys(self._with_pieces(text, i) for i in range(max(count, 1))))

    def _look(self, path: str, types: tuple[str, ...]) -> object:
        kind = types[0] if path in self.pending else self.known.get(path, "")
        if kind not in types or kind not in _SAMPLES:
            raise ExpressionError(f"{{{path}}} is not a {types[0]}.")
        return _SAMPLES[kind]

    def _with_pieces(self, text: str, number: int) -> str:
        """A text with a sample of each piece put in: the one of this number, or its last. Raises
        ``ExpressionError`` where that comes to too much, here or in all of the sheet."""
        pieces = [path for path in _paths_in(text) if self.known.get(path) == "piece"]
        if not pieces:
            return text
        put = {path: self._sample(path, number) for path in set(pieces)}
        length = len(text) + sum(len(put[path]) for path in pieces)
        self._put_in += length
        if length > MAX_TEXT_WITH_PIECES or self._put_in > MAX_PUT_IN:
            raise ExpressionError("With all that var() puts in, the value is too long.")
        return REFERENCE.sub(lambda match: put.get(match[1], match[0]), text)

    def _sample(self, path: str, number: int) -> str:
        samples = self._samples[path]
        return samples[min(number, len(samples) - 1)]


def _paths_in(text: str) -> list[str]:
    return [match[1] for match in REFERENCE.finditer(text)]


def _line(text: str, kind: str) -> Value | None:
    """A text read as a value of a type of many parts, None where it is none; a word alone is none."""
    return TOKEN_TYPES[kind].read_line(text) if any(mark in text for mark in " (") else None


def _is_string(text: str) -> bool:
    if text[:1] not in ("'", '"'):
        return False
    return bool(tinycss2.parse_one_component_value(text).type == "string")


def in_order(names: Iterable[str], targets: Callable[[str], Iterable[str]]) -> list[str]:
    """Names so that what each refers to comes before it; those in circles as they come."""
    order: dict[str, None] = {}
    for start in names:
        work: list[tuple[str, bool]] = [(start, False)]
        inside: set[str] = set()
        while work:
            name, ready = work.pop()
            if name in order or (name in inside and not ready):
                continue
            if ready:
                order[name] = None
                continue
            inside.add(name)
            work.append((name, True))
            work.extend((target, False) for target in targets(name) if target not in order)
    return list(order)
