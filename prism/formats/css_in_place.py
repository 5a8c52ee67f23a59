"""CSS that can take the place of the style sheet a document came from.

The same property names, selectors, classes and pieces, and each value as it was written; shadows, borders
and curves in the order of CSS. Of two
axes of equal strength the later one wins by order, as in the document: every rule for one axis has
the specificity of one class.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

import tinycss2

from prism.errors import ExpressionError
from prism.expressions.syntax import REFERENCE
from prism.expressions.types import TOKEN_TYPES
from prism.formats import css
from prism.formats.style_sheets import selectors
from prism.formats.style_sheets.page import Test
from prism.model.document import Axis, Document, Mode, Token
from prism.model.names import axis_names, css_names, mode_names
from prism.model.values import Absent, Condition, Expression, Value
from prism.resolution.compiled import strength
from prism.resolution.current import resolver_of


@dataclass(frozen=True, slots=True)
class _Part:
    """What a rule adds for one axis: to its media query, and to its selector."""

    media: str
    selector: str
    rooted: bool = False


def write(document: Document) -> str:
    """The style sheet; ``initial`` where a token has no value."""
    return _Writer(document).sheet()


class _Writer:
    def __init__(self, document: Document) -> None:
        self.document = document
        self.plain = css.Writer(document, "", classes=False)
        self.names = css_names(document)
        self.axes = axis_names(document)
        self.modes = mode_names(document)
        self.positions = {axis.key: place for place, axis in enumerate(document.axes)}
        self.resolver = resolver_of(document)

    def sheet(self) -> str:
        """The base of all tokens, then each condition, the weakest first."""
        bodies: dict[Condition, list[str]] = {Condition(): []}
        for token in self.document.tokens:
            base = token.value()
            bodies[Condition()].append(self._declaration(token, base))
            for condition, value in token.values:
                if condition.picks:
                    bodies.setdefault(condition, []).append(self._declaration(token, value))
        for condition, scheme in self._schemes():
            bodies.setdefault(condition, []).insert(0, f"color-scheme: {scheme};")
        order = sorted(
            bodies, key=lambda condition: strength([self.positions[a] for a, _ in condition.picks])
        )
        return "\n".join(
            rule for condition in order for rule in self._rules(condition, bodies[condition])
        )

    def _schemes(self) -> Iterator[tuple[Condition, str]]:
        """The color scheme of each mode that has one; the default mode's for the page."""
        for axis in self.document.axes:
            for mode in axis.modes:
                if mode.color_scheme and mode.key == axis.default:
                    yield Condition(), mode.color_scheme
                elif mode.color_scheme:
                    yield Condition(((axis.key, mode.key),)), mode.color_scheme

    # Selectors

    def _rules(self, condition: Condition, body: Iterable[str]) -> Iterator[str]:
        lines = "".join(f"  {line}\n" for line in body)
        if not lines:
            return
        if not condition.picks:
            yield f":root {{\n{lines}}}\n"
            return
        choices = []
        for axis_key, mode_key in sorted(condition.picks, key=lambda pick: self.positions[pick[0]]):
            axis = self.document.axis(axis_key)
            assert axis is not None
            choices.append(list(self._parts(axis, axis.mode(mode_key))))
        by_media: dict[str, list[str]] = {}
        for parts in product(*choices):
            media = " and ".join(part.media for part in parts if part.media)
            rooted = sorted(parts, key=lambda part: not part.rooted)
            by_media.setdefault(media, []).append("".join(part.selector for part in rooted))
        for media, names in by_media.items():
            listed = ",\n".join(dict.fromkeys(names))
            rule = f"{listed} {{\n{lines}}}\n"
            yield f"@media {media} {{\n{rule}}}\n" if media else rule

    def _parts(self, axis: Axis, mode: Mode) -> Iterator[_Part]:
        """The ways to ask for a mode: its own selectors, and an unmarked page."""
        for selector in self._selectors(axis, mode):
            yield _Part("", selector)
        unmarked = self._unmarked(axis)
        query = css.follow_query(axis, mode.key) if axis.follows is not None else None
        if query is not None:
            yield _Part(query, unmarked, rooted=True)
        elif axis.follows is None and mode.key == axis.default:
            yield _Part("", unmarked, rooted=True)

    def _unmarked(self, axis: Axis) -> str:
        asked = [s for mode in axis.modes for s in self._selectors(axis, mode)]
        return f":root:where(:not({', '.join(asked)}))" if asked else ":root"

    def _selectors(self, axis: Axis, mode: Mode) -> list[str]:
        """The selectors that ask for a mode: those it came with, else an attribute of ours."""
        known = [spelled for text in mode.selectors if (spelled := _spelled(text))]
        if known or (axis.follows is not None and not any(m.selectors for m in axis.modes)):
            return known
        if any(m.selectors for m in axis.modes) and mode.key == axis.default:
            return []
        return [f'[data-{self.axes[axis.key]}="{self.modes[axis.key, mode.key]}"]']

    # Declarations

    def _declaration(self, token: Token, value: Value | None) -> str:
        name = css.escaped(f"--{self.names[token.key]}")
        return f"{name}: {self._text(token, value)};"

    def _text(self, token: Token, value: Value | None) -> str:
        if value is None or isinstance(value, Absent):
            return "initial"
        try:
            line = (
                value.text if isinstance(value, Expression) else TOKEN_TYPES[token.type].line(value)
            )
            if line is not None and token.type not in ("string", "fontFamily"):
                return REFERENCE.sub(lambda match: self._variable(match[1].strip()), line)
            return self.plain.text(value, token.type)
        except ExpressionError:
            return "initial"

    def _variable(self, path: str) -> str:
        key = self.resolver.key_of(path)
        if key is None:
            raise ExpressionError(f"{{{path}}} does not exist.")
        name = css.escaped(f"--{self.names[key]}")
        return f"var({name})"


@lru_cache(maxsize=4096)
def _spelled(text: str) -> str:
    """A selector that came with a mode, written again from its meaning; empty for one that means
    something else than one attribute or class."""
    try:
        ways = selectors.read(text)
    except selectors.UnreadableSelectorError:
        return ""
    tests = list(ways[0].tests) if len(ways) == 1 else []
    if len(tests) != 1 or tests[0].negated:
        return ""
    return _selector(tests[0])


def _selector(test: Test) -> str:
    name = css.escaped(test.name)
    if test.kind == "class":
        return f".{name}"
    if test.kind == "attribute" and test.operator == "present":
        return f"[{name}]"
    if test.kind == "attribute" and test.operator == "=":
        return f'[{name}="{tinycss2.serializer.serialize_string_value(test.value)}"]'
    return ""
