"""CSS out of a document: custom properties that hold in zones of any nesting.

On any element the computed value of a token's property is what the resolver gives for the
modes that hold there. Conditions become attribute selectors of equal form, so that selector
specificity and order do what condition strength does.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product

import tinycss2

from prism.color import space
from prism.errors import ExpressionError
from prism.expressions.evaluation import css as css_tree
from prism.expressions.syntax import reference_of
from prism.expressions.values import ITEMS, parse, part_type
from prism.model.document import Axis, Document, Token
from prism.model.names import axis_names, css_names, free_name, mode_names
from prism.model.values import BASE, Absent, Composite, Condition, Expression, Listing, Value
from prism.resolution.answers import Answer, Resolved, compose, compose_list, css_value
from prism.resolution.clipped import clipped_answers
from prism.resolution.compiled import strength
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme

#: Preference media features an axis may follow, and their values (Media Queries 5, section 12).
FEATURES: dict[str, tuple[str, ...]] = {
    "prefers-color-scheme": ("light", "dark"),
    "prefers-contrast": ("no-preference", "more", "less", "custom"),
    "prefers-reduced-motion": ("no-preference", "reduce"),
    "prefers-reduced-transparency": ("no-preference", "reduce"),
    "forced-colors": ("none", "active"),
    "inverted-colors": ("none", "inverted"),
}


@dataclass(frozen=True, slots=True)
class _Spelling:
    """One way an axis can say a mode: a media query, and selector parts for zone and root."""

    media: str
    zone: str
    root: str


class Writer:
    """Texts, names and rules of a document in CSS."""

    def __init__(self, document: Document, prefix: str, classes: bool) -> None:
        self.document = document
        self.classes = classes
        self.axes = axis_names(document)
        self.modes = mode_names(document)
        self.zone = ".zone" if classes else "[data-zone]"
        self.prefix = f"{prefix}-" if prefix else ""
        self.names = css_names(document)
        self.resolver = resolver_of(document)
        self.written = written_tokens(document, self.resolver)
        taken = set(self.names.values())
        # The CSS shorthand of a font has no letter spacing, so that stands beside it.
        self.spacing: dict[str, str] = {}
        for token in self.written:
            if token.type == "typography":
                name = free_name(f"{self.names[token.key]}-letter-spacing", taken)
                self.spacing[token.key] = name
                taken.add(name)

    def property(self, key: str) -> str:
        return escaped(f"--{self.prefix}{self.names[key]}")

    # Selectors

    def mark(self, axis: Axis, value: str) -> str:
        name = self.axes[axis.key]
        return f".{name}-{value}" if self.classes else f'[data-{name}="{value}"]'

    def unmarked(self, axis: Axis) -> str:
        if not self.classes:
            return f":not([data-{self.axes[axis.key]}])"
        values = [self.modes[axis.key, mode.key] for mode in axis.modes]
        return f":not({', '.join(self.mark(axis, value) for value in [*values, 'system'])})"

    def spellings(self, axis: Axis, mode: str) -> list[_Spelling]:
        mark = self.mark(axis, self.modes[axis.key, mode])
        if axis.follows is None:
            root = f":is({mark}, {self.unmarked(axis)})" if mode == axis.default else mark
            return [_Spelling("", mark, root)]
        spellings = [_Spelling("", mark, mark)]
        query = follow_query(axis, mode)
        if query is not None:
            system = self.mark(axis, "system")
            spellings.append(_Spelling(query, system, f":is({system}, {self.unmarked(axis)})"))
        return spellings

    def rules(self, condition: Condition, body: Sequence[str]) -> list[str]:
        if not body:
            return []
        picked = [
            self.spellings(axis, mode)
            for axis in self.document.axes
            if (mode := condition.mode_on(axis.key)) is not None
        ]
        rules = []
        for combination in product(*picked):
            zone = self.zone + "".join(spelling.zone for spelling in combination)
            root = ":root" + "".join(spelling.root for spelling in combination)
            media = " and ".join(spelling.media for spelling in combination if spelling.media)
            rule = f"{root},\n{zone} {{\n" + "".join(f"  {line}\n" for line in body) + "}"
            rules.append(f"@media {media} {{\n{rule}\n}}" if media else rule)
        return rules

    # Declarations

    def text(self, value: Value, type: str) -> str:
        if isinstance(value, Absent):
            return "initial"
        if isinstance(value, Listing):
            return compose_list(type, [self.text(item, ITEMS[type]) for item in value.items])
        if not isinstance(value, Expression):
            return compose(
                type, [(n, self.text(part, part_type(type, n))) for n, part in value.parts]
            )
        parsed = parse(value.text, type)
        if parsed.reference:
            return self.variable(parsed.reference)
        if parsed.literal is not None:
            return self.literal(parsed.literal, type)
        assert parsed.tree is not None
        return css_tree(parsed.tree, self.variable)

    def variable(self, path: str) -> str:
        key = self.resolver.key_of(path)
        if key is None:
            raise ExpressionError(f"{{{path}}} does not exist.")
        return f"var({self.property(key)})"

    def literal(self, value: Resolved, type: str) -> str:
        if isinstance(value, space.Color):
            return space.css_text(space.fit(value, self.document.gamut))
        return css_value(value, type)

    def declarations(self, token: Token, value: Value | None) -> list[str]:
        """A token's property for a value; of a typography also its letter spacing."""
        try:
            text = "initial" if value is None else self.text(value, token.type)
        except ExpressionError:
            value, text = None, "initial"
        lines = [f"{self.property(token.key)}: {text};"]
        if token.key in self.spacing:
            name = escaped(f"--{self.prefix}{self.spacing[token.key]}")
            lines.append(f"{name}: {self.letter_spacing(value)};")
        return lines

    def letter_spacing(self, value: Value | None) -> str:
        if isinstance(value, Composite):
            parts = dict(value.parts)
            return (
                self.text(parts["letterSpacing"], "dimension")
                if "letterSpacing" in parts
                else "normal"
            )
        path = reference_of(value.text) if isinstance(value, Expression) else ""
        target = self.resolver.key_of(path) if path else None
        known = self.spacing.get(target) if target else None
        return f"var({escaped(f'--{self.prefix}{known}')})" if known else "initial"

    def mapped_answers(self, token: Token) -> dict[Theme, Answer] | None:
        """Answers by theme over the axes that matter, where a computed color had to be mapped.

        A browser would not map it, so such a token is written as literals.
        """
        computed = any(
            parse(value.text, "color").tree is not None and parse(value.text, "color").references
            for _, value in token.values
            if isinstance(value, Expression) and token.type == "color"
        )
        if not computed:
            return None
        themes = self.resolver.themes(self.resolver.influence(token.key))
        answers = {theme: self.resolver.resolve(token.key, theme) for theme in themes}
        return answers if any(answer.mapped for answer in answers.values()) else None

    def literal_rules(self, token: Token, answers: dict[Theme, Answer]) -> list[str]:
        """One rule for each distinct answer of a token, on every axis that matters to it."""
        axes = self.resolver.influence(token.key)
        groups: dict[str, list[Condition]] = {}
        for theme, answer in answers.items():
            text = self.literal(answer.value, "color") if answer.value is not None else "initial"
            picks = self.resolver.picks(theme)
            groups.setdefault(text, []).append(Condition.of({axis: picks[axis] for axis in axes}))
        rules = []
        for text, conditions in groups.items():
            body = [f"{self.property(token.key)}: {text};"]
            for condition in conditions:
                rules.extend(self.rules(condition, body))
        return rules

    def sheet(self) -> str:
        literals = {
            token.key: answers
            for token in self.written
            if (answers := self.mapped_answers(token)) is not None
        }
        base = [
            line
            for token in self.written
            for line in self.declarations(
                token, token.value(BASE) if token.key not in literals else None
            )
        ]
        blocks = [f":root,\n{self.zone} {{\n" + "".join(f"  {line}\n" for line in base) + "}"]
        bodies: dict[Condition, list[str]] = {}
        for axis in self.document.axes:
            directed = any(mode.direction for mode in axis.modes)
            for mode in axis.modes:
                scheme = [f"color-scheme: {mode.color_scheme};"] if mode.color_scheme else []
                reads = [f"direction: {mode.direction or 'ltr'};"] if directed else []
                bodies[Condition(((axis.key, mode.key),))] = scheme + reads
        for token in self.written:
            for condition, value in token.values if token.key not in literals else ():
                if condition != BASE:
                    bodies.setdefault(condition, []).extend(self.declarations(token, value))
        index = self.resolver.axis_index
        ordered = sorted(bodies, key=lambda c: strength([index[axis] for axis, _ in c.picks]))
        for condition in ordered:
            blocks.extend(self.rules(condition, bodies[condition]))
        for token in self.written:
            if token.key in literals:
                blocks.extend(self.literal_rules(token, literals[token.key]))
        return "\n\n".join(blocks) + "\n"


def written_tokens(document: Document, resolver: Resolver | None = None) -> list[Token]:
    """The public tokens and every private one that a public one may reach, in order."""
    resolver = resolver or resolver_of(document)
    reached = resolver.graph.reach(token.key for token in document.tokens if not token.private)
    return [token for token in document.tokens if token.key in reached]


def follow_query(axis: Axis, mode: str) -> str | None:
    """The media condition under which an axis that follows a preference is in ``mode``.

    Empty where that is always so, None where it never is. The default mode holds where no
    other mode's preference does.
    """
    assert axis.follows is not None
    feature = axis.follows.feature
    mine = [value for value, target in axis.follows.modes if target == mode]
    others = [value for value, target in axis.follows.modes if target != mode]
    if mode == axis.default:
        return f"(not ({_any(feature, others)}))" if others else ""
    return _any(feature, mine) if mine else None


def _any(feature: str, values: Sequence[str]) -> str:
    tests = [f"({feature}: {value})" for value in values]
    return tests[0] if len(tests) == 1 else f"({' or '.join(tests)})"


def write(document: Document, *, prefix: str = "", classes: bool = False) -> str:
    """The live style sheet: every token, every condition, zones of any nesting.

    ``prefix`` goes before every property name; ``classes`` writes ``.zone`` and
    ``.axis-mode`` in place of ``data-`` attributes.
    """
    return Writer(document, prefix, classes).sheet()


def escaped(name: str) -> str:
    """A name as CSS writes it."""
    return str(tinycss2.serializer.serialize_identifier(name))


def write_flat(
    document: Document,
    theme: Theme,
    *,
    prefix: str = "",
    selector: str = ":root",
    clipped: bool = False,
) -> str:
    """One theme's public tokens as literals in one rule; ``clipped``: as browsers show them."""
    resolve = clipped_answers(document) if clipped else resolver_of(document).resolve
    names = css_names(document)
    start = f"--{prefix}-" if prefix else "--"
    lines = []
    for token in document.tokens:
        answer = resolve(token.key, theme)
        if not token.private and answer.value is not None:
            lines.append(f"  {escaped(start + names[token.key])}: {answer.css};\n")
    return f"{selector} {{\n{''.join(lines)}}}\n"


def root_attributes(document: Document, theme: Theme) -> dict[str, str]:
    """The attributes that put a page, or a zone, into ``theme``."""
    axes, modes = axis_names(document), mode_names(document)
    return {
        f"data-{axes[axis.key]}": modes[axis.key, axis.modes[theme[i]].key]
        for i, axis in enumerate(document.axes)
    }


def zone_attributes(
    document: Document, page: Mapping[str, str], zones: Sequence[Mapping[str, str]]
) -> dict[str, str]:
    """The attributes of the innermost of nested zones.

    ``page`` and each of ``zones``, outermost first, name by axis key a mode key, ``system``
    or ``inherit``. An axis the page does not name follows its preference where it has one,
    else it is in its default mode. Every axis is written out.
    """
    axes, modes = axis_names(document), mode_names(document)
    attributes = {}
    for axis in document.axes:
        mode = "system" if axis.follows else axis.default
        for level in (page, *zones):
            choice = level.get(axis.key, "inherit")
            mode = mode if choice == "inherit" else choice
        attributes[f"data-{axes[axis.key]}"] = modes.get((axis.key, mode), "system")
    return attributes
