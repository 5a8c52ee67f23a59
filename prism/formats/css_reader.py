"""CSS in: custom properties under any selectors and media conditions become tokens.

Which selectors become modes is decided in ``css_selectors``. What cannot be a token is skipped
and listed with the reason.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace
from typing import Any

import tinycss2

from prism.errors import ExpressionError, FormatError
from prism.expressions.syntax import REFERENCE
from prism.expressions.tiers import with_tiers
from prism.expressions.values import parse
from prism.formats import css_selectors
from prism.formats.css_axes import AxesOfRules
from prism.formats.css_rules import Place, Source, contents_of, inside_at_rule, nested_selectors
from prism.formats.css_tokens import (
    alias_of,
    comma_parts,
    deeper_than,
    font_families,
    holds_function,
    trim,
    variables,
)
from prism.formats.css_values import (
    Picks,
    Property,
    SkippedDeclaration,
    StyleSheet,
    folded,
    value_of,
)
from prism.formats.layers import NewKey
from prism.formats.wholeness import whole
from prism.model.document import Axis, Document, Token
from prism.model.names import derived_name, settle_names
from prism.model.values import Condition, Value

MAX_BYTES = 8 * 1024 * 1024
_MAX_DEPTH = 12
#: Levels that rules, blocks and functions may lie in one another.
MAX_NESTING = 100
_TYPES = ("color", "dimension", "duration", "number")


def read(
    data: bytes,
    file: str,
    new_key: NewKey,
    maps: Mapping[str, tuple[str, str]] | None = None,
) -> StyleSheet:
    """The custom properties of a style sheet as a document.

    ``maps`` names axis and mode for selectors the plain rule does not know. Raises
    ``FormatError`` for a file that is no style sheet.
    """
    if len(data) > MAX_BYTES:
        raise FormatError(f"The file has more than {MAX_BYTES // 2**20} MB.", place=file)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise FormatError("The file is not UTF-8 text.", place=file) from None
    return _Reader(file, new_key, maps or {}).read(text)


class _Reader:
    def __init__(self, file: str, new_key: NewKey, maps: Mapping[str, tuple[str, str]]) -> None:
        self.file = file
        self.new_key = new_key
        self.maps = {css_selectors.normalize(name): mode for name, mode in maps.items()}
        self.properties: dict[str, Property] = {}
        self.skipped: list[SkippedDeclaration] = []
        self.axes = AxesOfRules()

    def read(self, text: str) -> StyleSheet:
        self.source = Source(text)
        rules = tinycss2.parse_stylesheet(
            self.source.text, skip_comments=True, skip_whitespace=True
        )
        if deeper_than(rules, MAX_NESTING):
            raise FormatError(
                f"The style sheet is nested deeper than {MAX_NESTING} levels.", place=self.file
            )
        self._rules(rules, Place(), 0)
        if not self.properties:
            raise FormatError(
                "The style sheet declares no custom property on the page.",
                place=self.file,
                fix="Properties begin with two dashes; map other selectors to modes.",
            )
        self._light_dark()
        self._types()
        axes = self.axes.build([known.values for known in self.properties.values()], self.new_key)
        document = Document(
            name=self.file.rsplit("/", 1)[-1].removesuffix(".css"),
            axes=axes,
            tokens=with_tiers(tuple(self._tokens(axes))),
        )
        places = {token.path: f"{self.file}, --{token.path}" for token in document.tokens}
        return StyleSheet(whole(settle_names(document), places), tuple(self.skipped))

    # Rules

    def _rules(self, rules: Iterable[Any], place: Place, depth: int) -> None:
        """Read rules, and within a rule its declarations, in order."""
        nodes = list(rules)
        self._declare(place, [node for node in nodes if node.type == "declaration"])
        for rule in nodes:
            if rule.type == "error" and not depth:
                raise FormatError(
                    f"The style sheet cannot be read: {rule.message}.",
                    place=f"{self.file}, line {rule.source_line}, column {rule.source_column}",
                )
            if rule.type == "error" and (declaration := self.source.unreadable(rule)):
                where = ", ".join(place.selectors)
                reason = "cannot be read as a name, a colon and a value"
                self.skipped.append(SkippedDeclaration(declaration, where, reason))
            if depth >= _MAX_DEPTH:
                continue
            if rule.type == "qualified-rule":
                inner = replace(place, selectors=nested_selectors(place.selectors, rule.prelude))
                self._rules(contents_of(rule, inner), inner, depth + 1)
            elif rule.type == "at-rule" and rule.content is not None:
                inner = inside_at_rule(place, rule)
                self._rules(contents_of(rule, inner), inner, depth + 1)

    def _declare(self, place: Place, declarations: list[Any]) -> None:
        custom = [declaration for declaration in declarations if declaration.name.startswith("--")]
        scheme = next(
            (
                declaration
                for declaration in declarations
                if declaration.lower_name == "color-scheme"
            ),
            None,
        )
        parts, preferences = place.selectors, list(place.preferences)
        if not custom and scheme is None:
            return
        if place.reason or not parts:
            reason = place.reason or "stands in no rule"
            where = ", ".join(parts)
            self.skipped.extend(
                SkippedDeclaration(declaration.name, where, reason) for declaration in custom
            )
            return
        meanings = [css_selectors.read(part, preferences, self.maps) for part in parts]
        held = [meaning for meaning in meanings if not meaning.reason]
        for selector, meaning in zip(parts, meanings, strict=True):
            if meaning.reason and not (meaning.silent and held):
                for declaration in custom:
                    self.skipped.append(
                        SkippedDeclaration(declaration.name, selector, meaning.reason)
                    )
        beside_base = any(not meaning.picks for meaning in held)
        for meaning in held:
            if custom:
                self.axes.add(meaning, beside_base)
            if scheme is not None:
                self.axes.set_color_scheme(meaning, tinycss2.serialize(scheme.value))
        for declaration in custom:
            known = self.properties.setdefault(declaration.name, Property(declaration.name))
            for selector, meaning in zip(parts, meanings, strict=True):
                if not meaning.reason:
                    picks = tuple(sorted(meaning.picks))
                    known.values.pop(picks, None)
                    known.values[picks] = trim(declaration.value)
                    known.selectors[picks] = selector

    def _light_dark(self) -> None:
        """Split values that hold ``light-dark()`` into one for each mode of an appearance."""
        axis = self.axes.appearance
        for known in self.properties.values():
            for picks, tokens in list(known.values.items()):
                if holds_function(tokens, "light-dark") and axis not in dict(picks):
                    self.axes.add_light_dark(axis)
                    for mode in ("light", "dark"):
                        more = tuple(sorted((*picks, (axis, mode))))
                        known.values.setdefault(more, tokens)
                        known.selectors.setdefault(more, known.selectors[picks])
                    del known.values[picks]
        self.dark_axis = axis

    # Types

    def _types(self) -> None:
        """Settle what each property is; what is none of the types becomes text for others."""
        waiting = dict(self.properties)
        while waiting:
            settled = {
                name: known_type
                for name, known in waiting.items()
                if (known_type := self._type(known)) is not None
            }
            if not settled:
                # Only aliases of each other remain.
                settled = dict.fromkeys(waiting, "")
            for name, known_type in settled.items():
                self.properties[name].type = known_type or "text"
                del waiting[name]

    def _type(self, known: Property) -> str | None:
        """The type of a property, empty for none; None while it hangs on others."""
        types: set[str] = set()
        for picks, tokens in known.values.items():
            alias = alias_of(tokens)
            if alias is not None and alias in self.properties:
                target = self.properties[alias]
                if not target.type:
                    return None
                types.add("" if target.type == "text" else target.type)
                continue
            if any(
                name in self.properties and not self.properties[name].type
                for name in variables(tokens)
            ):
                return None
            types.add(self._type_of(self._text(tokens, picks)))
        types -= {"initial"}
        return types.pop() if len(types) == 1 else ""

    def _type_of(self, text: str) -> str:
        if text == "initial":
            return "initial"
        for name in _TYPES:
            try:
                parse(text, name)
            except ExpressionError:
                continue
            return name
        if font_families(text):
            return "fontFamily"
        return "string" if tinycss2.parse_one_component_value(text).type == "string" else ""

    # Values

    def _text(self, tokens: list[Any], picks: Picks, depth: int = 0) -> str:
        """Component values as the text of an expression: ``var(--x)`` becomes ``{x}``."""
        if depth > _MAX_DEPTH:
            return ""
        out = ""
        for token in tokens:
            if token.type == "comment":
                continue
            if token.type == "function" and token.lower_name == "var":
                parts = comma_parts(token.arguments)
                name = tinycss2.serialize(parts[0]).strip() if parts else ""
                known = self.properties.get(name)
                if known is None and len(parts) > 1:
                    fallback = token.arguments[len(parts[0]) + 1 :]
                    out += self._text(trim(fallback), picks, depth + 1)
                elif known is not None and known.type == "text":
                    out += self._text(self._at(known, picks), picks, depth + 1)
                else:
                    out += "{" + name.removeprefix("--") + "}"
            elif token.type == "function" and token.lower_name == "light-dark":
                parts = comma_parts(token.arguments)
                dark = dict(picks).get(self.dark_axis) == "dark"
                out += self._text(
                    trim(parts[1 if dark and len(parts) > 1 else 0]), picks, depth + 1
                )
            elif token.type == "function":
                out += f"{token.name}({self._text(token.arguments, picks, depth + 1)})"
            elif token.type == "() block":
                out += f"({self._text(token.content, picks, depth + 1)})"
            else:
                out += str(tinycss2.serialize([token]))
        return out.strip() if depth == 0 else out

    def _at(self, known: Property, picks: Picks) -> list[Any]:
        """The declaration of a property that is nearest to a condition."""
        return known.values.get(picks) or known.values.get(()) or next(iter(known.values.values()))

    def _tokens(self, axes: Iterable[Axis]) -> Iterator[Token]:
        keys = {axis.name: axis.key for axis in axes}
        for name, known in self.properties.items():
            path = name.removeprefix("--")
            if known.type == "text" or any(mark in path for mark in "{}.") or path.startswith("$"):
                reason = "is neither a color, a measure, a number, a font list nor a text"
                for picks in known.values:
                    self.skipped.append(SkippedDeclaration(name, known.selectors[picks], reason))
                continue
            values: dict[Condition, Value] = {}
            for picks in self._conditions(known):
                text = self._text(self._at(known, picks), picks)
                condition = Condition(tuple(sorted((keys[axis], mode) for axis, mode in picks)))
                if text == "initial":
                    continue
                if not self._reachable(text):
                    self.skipped.append(
                        SkippedDeclaration(
                            name,
                            known.selectors.get(picks, ":root"),
                            "refers to a property that is not there",
                        )
                    )
                    continue
                values[condition] = value_of(text, known.type)
            if not values:
                continue
            values = folded(values)
            token = Token(self.new_key(), path, known.type, "raw", tuple(values.items()))
            if derived_name(path) != path:
                token = replace(token, export_names=(("css", path),))
            yield token

    def _conditions(self, known: Property) -> list[Picks]:
        """The conditions of a property and of every text that is written into it."""
        conditions = dict.fromkeys(known.values)
        work = [name for tokens in known.values.values() for name in variables(tokens)]
        seen: set[str] = set()
        while work:
            inner = self.properties.get(work.pop())
            if inner is not None and inner.type == "text" and inner.name not in seen:
                seen.add(inner.name)
                conditions.update(dict.fromkeys(inner.values))
                work.extend(name for tokens in inner.values.values() for name in variables(tokens))
        return list(conditions)

    def _reachable(self, text: str) -> bool:
        return all(
            f"--{match[1]}" in self.properties and self.properties[f"--{match[1]}"].type != "text"
            for match in REFERENCE.finditer(text)
        )
