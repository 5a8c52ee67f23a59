"""The custom properties of a style sheet, each declaration with what the cascade asks of it.

CSS Cascade 5: importance, layers, specificity and order; CSS Nesting; ``@import``, ``@media``,
``@supports``, ``@layer``, ``@property`` and ``@theme``. What says nothing of the page is skipped with
its line and the reason.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import inf
from typing import Any

import tinycss2

from prism.errors import FormatError
from prism.formats.limits import MAX_NESTING
from prism.formats.style_sheets import conditions, selectors
from prism.formats.style_sheets.declarations import (
    SCHEME,
    Declaration,
    LayerKey,
    Sheet,
    Spans,
    Ways,
)
from prism.formats.style_sheets.outcome import SkippedDeclaration
from prism.formats.style_sheets.page import Test, Tests, possible
from prism.formats.style_sheets.positions import Span
from prism.formats.style_sheets.selectors import ROOT, Way
from prism.formats.style_sheets.source import Source, beside, refuse_endless, target_of
from prism.formats.style_sheets.tokens import comma_parts, deeper_than, trim

_MAX_SELECTOR = 4_000
_MOST_WAYS = 128
_PLAIN_RULES = frozenset(("font-face", "keyframes", "page", "counter-style", "font-feature-values"))
#: Unlayered declarations are stronger than those of any layer, but for important ones.
_UNLAYERED = (inf,)
_NOWHERE = Span(0, 0)


@dataclass(frozen=True, slots=True)
class _Place:
    """Where one reads: selectors of the rules around, what at-rules ask for, the layer, and the innermost rule."""

    selectors: tuple[str, ...] = ()
    media: tuple[Tests, ...] = (frozenset(),)
    layer: tuple[str, ...] = ()
    reason: str = ""
    rule: Span = _NOWHERE


def read(
    text: str,
    file: str,
    maps: Mapping[str, tuple[str, str]],
    imports: Mapping[str, str],
) -> Sheet:
    """The declarations of a style sheet.

    ``maps`` gives axis and mode for selectors, ``imports`` the texts of other files by name.
    Raises ``FormatError`` for a text that is no style sheet.
    """
    reader = _Reader(file, maps, imports)
    reader.stylesheet(text, file, _Place())
    return reader.sheet


class _Reader:
    def __init__(
        self, file: str, maps: Mapping[str, tuple[str, str]], imports: Mapping[str, str]
    ) -> None:
        self.file = file
        self.maps = {_plain(selector): mode for selector, mode in maps.items()}
        self.imports = imports
        self.inside: list[str] = []
        self.sheet = Sheet()
        self._layers: dict[tuple[str, ...], list[str]] = {}
        self._anonymous = 0
        self._order = 0
        self._selectors: dict[str, list[Way] | selectors.UnreadableSelectorError] = {}
        self._here: tuple[_Place, Ways, list[selectors.UnreadableSelectorError]] | None = None

    def stylesheet(self, text: str, file: str, place: _Place) -> None:
        source = Source(text)
        refuse_endless(source.text, file)
        rules = tinycss2.parse_stylesheet(source.positions.tokens, skip_whitespace=True)
        if deeper_than(rules, MAX_NESTING):
            raise FormatError(
                f"The style sheet is nested deeper than {MAX_NESTING} levels.", place=file
            )
        self.inside.append(file)
        self.source = source
        self._rules(rules, place)
        self.inside.pop()

    def _skip(self, name: str, place: _Place, reason: str, line: int) -> None:
        where = ", ".join(place.selectors)
        shown = where if len(where) <= 200 else where[:199] + "…"
        self.sheet.skipped.append(SkippedDeclaration(name, shown, reason, line))

    # Rules

    def _rules(self, nodes: Iterable[Any], place: _Place) -> None:
        for node in nodes:
            if node.type == "declaration":
                self._declaration(node, place)
            elif node.type == "qualified-rule":
                inner = replace(self._nested(node, place), rule=self.source.positions.rule(node))
                contents = _contents(node, inner)
                self._taken_in(inner, contents)
                self._rules(contents, inner)
            elif node.type == "at-rule":
                self._at_rule(node, place)
            elif node.type == "error":
                self._unreadable(node, place)

    def _unreadable(self, node: Any, place: _Place) -> None:
        declaration = self.source.unreadable(node)
        if declaration:
            reason = "cannot be read as a name, a colon and a value"
            self._skip(declaration, place, reason, node.source_line)

    def _nested(self, rule: Any, place: _Place) -> _Place:
        """The place inside a rule, with its selectors within those around it (CSS Nesting)."""
        inner = [_text(part) for part in comma_parts(rule.prelude)]
        if place.selectors:
            around = f":is({', '.join(place.selectors)})"
            if len(place.selectors) == 1 and not place.selectors[0].startswith(":is("):
                around = place.selectors[0]
            inner = [
                part.replace("&", around) if "&" in part else f"{around} {part}" for part in inner
            ]
        if any(len(part) > _MAX_SELECTOR for part in inner):
            return replace(place, selectors=("…",), reason="has a selector that is too long")
        return replace(place, selectors=tuple(inner))

    def _at_rule(self, rule: Any, place: _Place) -> None:
        name = rule.lower_at_keyword
        if name == "import":
            self._import(rule, place)
        elif name == "layer":
            self._layer(rule, place)
        elif name == "property":
            self._registered(rule)
        elif name == "theme" and rule.content is not None:
            inner = replace(place, selectors=(":root",), rule=self.source.positions.rule(rule))
            self._rules(_contents(rule, inner), inner)
        elif rule.content is not None and name not in _PLAIN_RULES:
            inner = self._inside(rule, place)
            contents = _contents(rule, inner)
            if inner.selectors:
                self._taken_in(inner, contents)
            self._rules(contents, inner)

    def _taken_in(self, place: _Place, contents: Sequence[Any]) -> None:
        """What a rule puts on what, and colors."""
        self.sheet.rule_uses.rule(place.selectors, contents, holds=not place.reason)
        if not place.reason:
            self.sheet.together.rule(place.selectors, contents)

    def _inside(self, rule: Any, place: _Place) -> _Place:
        """The place inside a conditional rule."""
        name = rule.lower_at_keyword
        if name == "media":
            try:
                return self._in_media(place, conditions.media(rule.prelude))
            except conditions.UnknownConditionError:
                pass
        if name == "supports" and conditions.supported(rule.prelude):
            return place
        if name == "starting-style":
            return replace(place, reason=place.reason or "holds only while a page starts")
        words = f"holds only under @{name} {conditions.shown(rule.prelude)}".strip()
        return replace(place, reason=place.reason or words)

    def _in_media(self, place: _Place, ways: list[Tests]) -> _Place:
        if not ways:
            return replace(place, reason=place.reason or "holds on no screen")
        joined = tuple(before | way for before in place.media for way in ways)
        if len(joined) > _MOST_WAYS:
            return replace(place, reason=place.reason or "holds in too many ways")
        return replace(place, media=joined)

    def _import(self, rule: Any, place: _Place) -> None:
        words = [token for token in rule.prelude if token.type != "whitespace"]
        target = target_of(rule)
        name = beside(self.inside[-1], target)
        if name not in self.imports or name in self.inside or place.selectors:
            self._skip(f"@import {target[:80]}", place, "that file was not given", rule.source_line)
            return
        inner = place
        for token in words[1:]:
            if token.type == "ident" and token.lower_value == "layer":
                inner = self._in_layer(inner, "")
            elif token.type == "function" and token.lower_name == "layer":
                inner = self._in_layer(inner, _text(token.arguments))
        rest = [
            token
            for token in words[1:]
            if not (token.type == "ident" and token.lower_value == "layer")
            and not (token.type == "function" and token.lower_name in ("layer", "supports"))
        ]
        if rest:
            try:
                inner = self._in_media(inner, conditions.media(rest))
            except conditions.UnknownConditionError:
                words_shown = f"holds only under @import {conditions.shown(rest)}"
                inner = replace(inner, reason=inner.reason or words_shown)
        outer = self.source
        self.stylesheet(self.imports[name], name, inner)
        self.source = outer

    # Layers

    def _layer(self, rule: Any, place: _Place) -> None:
        names = [_text(part) for part in comma_parts(rule.prelude)]
        if rule.content is None:
            for name in names:
                self._in_layer(place, name)
            return
        inner = self._in_layer(place, names[0] if names else "")
        self._rules(_contents(rule, inner), inner)

    def _in_layer(self, place: _Place, name: str) -> _Place:
        """The place inside a layer, which is known from now on."""
        if not name:
            self._anonymous += 1
            name = f" {self._anonymous}"
        path = place.layer
        for part in name.split("."):
            known = self._layers.setdefault(path, [])
            if part not in known:
                known.append(part)
            path = (*path, part)
        return replace(place, layer=path)

    def _layer_key(self, path: tuple[str, ...]) -> LayerKey:
        if not path:
            return _UNLAYERED
        ranks = [float(self._layers[path[:depth]].index(name)) for depth, name in enumerate(path)]
        return (*ranks, inf)

    # Declarations

    def _registered(self, rule: Any) -> None:
        """The initial value that ``@property`` gives (Properties and Values 1)."""
        name = _text(rule.prelude)
        for node in tinycss2.parse_blocks_contents(
            rule.content or [], skip_comments=True, skip_whitespace=True
        ):
            if node.type == "declaration" and node.lower_name == "initial-value":
                self.sheet.initial[name] = tuple(trim(node.value))

    def _declaration(self, node: Any, place: _Place) -> None:
        name = node.name if node.name.startswith("--") else node.lower_name
        if not name.startswith("--") and name != SCHEME:
            return
        ways, reasons = self._ways(place)
        reason = place.reason or (reasons[0].reason if reasons and not ways else "")
        if not place.selectors:
            reason = "stands in no rule"
        elif not ways:
            reason = reason or "can never hold"
        if not reason and name != SCHEME:
            reason = _fault(name)
        for unreadable in reasons if ways and not reason else ():
            if not unreadable.silent and name != SCHEME:
                self._skip(name, place, f"beside others, {unreadable.reason}", node.source_line)
        if reason:
            if name != SCHEME:
                self._skip(name, place, reason, node.source_line)
            return
        self._order += 1
        declaration = Declaration(
            name,
            tuple(trim(node.value)),
            node.source_line,
            ", ".join(place.selectors)[:200],
            ways,
            node.important,
            self._layer_key(place.layer),
            self._order,
            self._spans(node, place),
        )
        self.sheet.declarations.setdefault(name, []).append(declaration)

    def _spans(self, node: Any, place: _Place) -> Spans:
        positions = self.source.positions
        return Spans(
            self.inside[-1], positions.declaration(node), positions.value(node), place.rule
        )

    def _ways(self, place: _Place) -> tuple[Ways, list[selectors.UnreadableSelectorError]]:
        """All ways in which the selectors of a place hold, and why some are none of the page."""
        if self._here is None or self._here[0] is not place:
            self._here = (place, *self._ways_of(place))
        return self._here[1], self._here[2]

    def _ways_of(self, place: _Place) -> tuple[Ways, list[selectors.UnreadableSelectorError]]:
        ways: list[Way] = []
        reasons = []
        for selector in place.selectors:
            read = self._selector(selector)
            if isinstance(read, selectors.UnreadableSelectorError):
                reasons.append(read)
                continue
            ways += [replace(way, tests=way.tests | media) for way in read for media in place.media]
        if len(ways) > _MOST_WAYS:
            return (), [selectors.UnreadableSelectorError("holds in too many ways")]
        return tuple(way for way in ways if possible(way.tests)), reasons

    def _selector(self, selector: str) -> list[Way] | selectors.UnreadableSelectorError:
        if selector not in self._selectors:
            mapped = self.maps.get(_plain(selector))
            try:
                self._selectors[selector] = (
                    [Way(frozenset((Test("mapped", *mapped),)), ROOT, (0, 1, 0))]
                    if mapped
                    else selectors.read(selector)
                )
            except selectors.UnreadableSelectorError as error:
                self._selectors[selector] = error
            except RecursionError:
                self._selectors[selector] = selectors.UnreadableSelectorError(
                    "has a selector that is nested too deeply"
                )
        return self._selectors[selector]


def _contents(rule: Any, place: _Place) -> list[Any]:
    """What stands in a rule: declarations and rules, or rules alone at the top."""
    parse = tinycss2.parse_blocks_contents if place.selectors else tinycss2.parse_rule_list
    return list(parse(rule.content or [], skip_comments=True, skip_whitespace=True))


def _text(tokens: Sequence[Any]) -> str:
    return str(tinycss2.serialize(trim(tokens))).strip()


def _plain(selector: str) -> str:
    """A selector without quotes and needless blanks, for comparing."""
    return " ".join(selector.split()).replace('"', "").replace("'", "")


def _fault(name: str) -> str:
    if name == "--":
        return "has no name"
    if len(name) > 200:
        return "has a name of more than 200 characters"
    return ""
