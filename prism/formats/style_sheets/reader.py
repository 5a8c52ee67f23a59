"""A style sheet as a document: its custom properties in every mode it knows.

The cascade decides which declaration counts on which page; the texts of all pages become the
fewest conditions that give them again.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace

import tinycss2

from prism.errors import ExpressionError, FormatError
from prism.expressions.syntax import REFERENCE
from prism.formats.layers import NewKey
from prism.formats.limits import MAX_TOKENS
from prism.formats.style_sheets import axes as axes_of_sheets
from prism.formats.style_sheets import cascade
from prism.formats.style_sheets.axis_of_sheet import AxisOfSheet, build
from prism.formats.style_sheets.declarations import SCHEME, Declaration, Sheet
from prism.formats.style_sheets.outcome import SkippedDeclaration, StyleSheet, value_of
from prism.formats.style_sheets.page import Carrier, Tests
from prism.formats.style_sheets.references import holds, variables
from prism.formats.style_sheets.source import imported
from prism.formats.style_sheets.texts import Text
from prism.formats.style_sheets.together import with_pairings
from prism.formats.style_sheets.types import Types, in_order
from prism.formats.style_sheets.values import (
    MOST_THEMES,
    Picks,
    Shape,
    Values,
)
from prism.formats.text_files import decoded
from prism.formats.wholeness import whole
from prism.model.document import Axis, Document, Token
from prism.model.names import derived_name, free_name, settle_names
from prism.model.values import ABSENT, Condition, Value
from prism.resolution.compiled import strongest
from prism.roles.tiers import with_tiers

#: From this many themes on, winning declarations are compared rather than texts.
_MANY = 48

#: The texts of a property by what is picked beside the default modes.
Texts = Mapping[Picks, Text]


def read(
    data: bytes,
    file: str,
    new_key: NewKey,
    maps: Mapping[str, tuple[str, str]] | None = None,
    imports: Mapping[str, bytes] | None = None,
) -> StyleSheet:
    """The custom properties of a style sheet as a document.

    ``maps`` names axis and mode for selectors that do not say it themselves, ``imports`` are the
    files that ``@import`` may name. Raises ``FormatError`` for a file that is no style sheet.
    """
    texts = {name: decoded(other, name) for name, other in (imports or {}).items()}
    sheet = cascade.read(decoded(data, file), file, maps or {}, texts)
    return _Reader(sheet, file, new_key).read()


def read_together(
    files: Mapping[str, bytes],
    new_key: NewKey,
    maps: Mapping[str, tuple[str, str]] | None = None,
) -> StyleSheet:
    """Several style sheets as one document: those that no other one imports, in their order."""
    texts = {name: decoded(data, name) for name, data in files.items()}
    tops = [
        name
        for name in files
        if not any(other != name and name in imported(texts[other], other) for other in files)
    ]
    names = [tinycss2.serializer.serialize_string_value(name) for name in tops or files]
    top = "".join(f'@import "{name}";\n' for name in names)
    sheet = cascade.read(top, "", maps or {}, texts)
    name = (tops or list(files))[0]
    return _Reader(sheet, name, new_key).read()


class _Reader:
    def __init__(self, sheet: Sheet, file: str, new_key: NewKey) -> None:
        self.sheet = sheet
        self.file = file
        self.new_key = new_key
        #: Which declaration wins in each theme, by the shape of a property.
        self._winners: dict[Shape, list[tuple[Picks, tuple[str, ...], int | None]]] = {}
        self._turns: dict[tuple[Shape, tuple[object, ...]], list[tuple[Picks, int | None]]] = {}

    def read(self) -> StyleSheet:
        self._drop_strangers()
        names = [name for name in self.sheet.declarations if name != SCHEME]
        names += [name for name in self.sheet.initial if name not in self.sheet.declarations]
        if not names:
            raise FormatError(
                "The style sheet declares no custom property on the page.",
                place=self.file,
                fix="Properties begin with two dashes; map other selectors to modes.",
            )
        if len(names) > MAX_TOKENS:
            raise FormatError(
                f"The style sheet has {len(names)} properties; {MAX_TOKENS} are read at most.",
                place=self.file,
            )
        light_dark = any(
            holds(declaration.tokens, "light-dark")
            for declarations in self.sheet.declarations.values()
            for declaration in declarations
        )
        found_axes = self._axes(light_dark)
        self.values = Values(self.sheet, found_axes)
        self.values.paths = _paths(names)
        document_axes = build(found_axes, self.sheet, self.new_key)
        tokens = self._tokens(names, found_axes, document_axes)
        document = Document(
            name=self.file.rsplit("/", 1)[-1].removesuffix(".css"),
            axes=document_axes,
            tokens=with_tiers(tokens),
        )
        by_path = {token.path: token for token in document.tokens}
        made = {name: by_path[path] for name, path in self.values.paths.items() if path in by_path}
        document = with_pairings(document, self.sheet.together, made)
        places = {token.path: f"{self.file}, --{token.path}" for token in document.tokens}
        return StyleSheet(whole(settle_names(document), places), tuple(self.sheet.skipped))

    def _axes(self, light_dark: bool) -> list[AxisOfSheet]:
        try:
            return axes_of_sheets.read(self.sheet, light_dark)
        except FormatError as error:
            raise error.at(self.file) from None

    def _drop_strangers(self) -> None:
        """Skip what asks for a class or an attribute that is no mode of the page."""
        reasons = axes_of_sheets.strangers(self.sheet)
        for name, declarations in list(self.sheet.declarations.items()):
            kept = []
            for declaration in declarations:
                whys = [_reason(way.tests, reasons) for way in declaration.ways]
                ways = [way for way, why in zip(declaration.ways, whys, strict=True) if not why]
                if len(ways) == len(declaration.ways):
                    kept.append(declaration)
                elif ways:
                    kept.append(replace(declaration, ways=tuple(ways)))
                elif name != SCHEME:
                    self._skip(declaration, next(why for why in whys if why))
            if kept:
                self.sheet.declarations[name] = kept
            else:
                del self.sheet.declarations[name]

    def _skip(self, declaration: Declaration, reason: str) -> None:
        self.sheet.skipped.append(
            SkippedDeclaration(declaration.name, declaration.selector, reason, declaration.line)
        )

    # Tokens

    def _tokens(
        self, names: Sequence[str], axes: Sequence[AxisOfSheet], document_axes: Sequence[Axis]
    ) -> tuple[Token, ...]:
        texts = self._all_texts(names)
        fonts = {self.values.paths[n] for n in texts if "font" in self.sheet.rule_uses.parts(n)}
        types = Types((self.values.paths[name] for name in texts), fonts)
        made: dict[str, Token] = {}
        keys = {
            (axis.name, mode): (built.key, built.modes[place].key)
            for axis, built in zip(axes, document_axes, strict=True)
            for place, mode in enumerate(axis.modes)
        }
        positions = {axis.key: place for place, axis in enumerate(document_axes)}
        targets = {
            name: [v for d in self.sheet.declarations.get(name, ()) for v in variables(d.tokens)]
            for name in names
        }
        for name in in_order(names, lambda name: targets.get(name, ())):
            if name not in texts:
                continue
            token = self._token(name, texts[name], types, keys, positions)
            if token is not None:
                made[name] = token
        self._drop_unreachable(made, texts)
        return tuple(made[name] for name in names if name in made)

    def _all_texts(self, names: Sequence[str]) -> dict[str, Texts]:
        """The texts of every property, by what is picked; those of none are skipped and listed."""
        texts: dict[str, Texts] = {}
        for name in names:
            places = self.values.axes_for(name)
            if self.values.count(places) > MOST_THEMES:
                self._skip(self.sheet.declarations[name][0], "depends on too many axes at once")
                continue
            by_page: Texts
            if self.values.count(places) > _MANY and self.values.turns_on_winners(name):
                by_page = self._texts_by_winners(name)
            elif places:
                by_page = {
                    picks: self.values.text(name, theme)
                    for picks, theme in self.values.themes(places)
                }
            else:
                by_page = {(): self.values.text(name, self.values.defaults)}
            for why in dict.fromkeys(t.why for t in by_page.values() if t.why):
                declaration = next(t.declaration for t in by_page.values() if t.why == why)
                if declaration is not None:
                    self._skip(declaration, why)
            if any(t.text is not None for t in by_page.values()) or self._is_initial(name):
                texts[name] = by_page
            elif not any(t.why for t in by_page.values()) and name in self.sheet.declarations:
                self._skip(self.sheet.declarations[name][0], "holds in no mode of the page")
        return texts

    def _texts_by_winners(self, name: str) -> Texts:
        """The texts of a property in the fewest themes that tell those of all others. Which
        declaration wins where is found once for all properties of the same rules, and which
        themes tell the others once for all whose texts are equal in the same places."""
        shape = self.values.shape(name)
        if shape not in self._winners:
            self._winners[shape] = [
                (picks, theme, self.values.winner_at(name, theme))
                for picks, theme in self.values.themes(self.values.axes_for(name))
            ]
        first: dict[int | None, Text] = {}
        for _, theme, winner in self._winners[shape]:
            if winner not in first:
                first[winner] = self.values.text(name, theme)
        distinct = list(dict.fromkeys(text.text for text in first.values()))
        places = {winner: distinct.index(text.text) for winner, text in first.items()}
        pattern = (shape, tuple(places.items()))
        if pattern not in self._turns:
            positions = {axis.name: place for place, axis in enumerate(self.values.axes)}
            held: dict[Condition, int] = {}
            turns = []
            for picks, _, winner in self._winners[shape]:
                condition = Condition(tuple(sorted(picks)))
                if places[winner] != strongest(held, condition, positions):
                    held[condition] = places[winner]
                    turns.append((picks, winner))
            self._turns[pattern] = turns
        return {picks: first[winner] for picks, winner in self._turns[pattern]}

    def _is_initial(self, name: str) -> bool:
        """Whether a property says nothing but that it has no value, which others may ask for."""
        declarations = self.sheet.declarations.get(name, ())
        return bool(declarations) and all(declaration.keyword for declaration in declarations)

    def _token(
        self,
        name: str,
        texts: Texts,
        types: Types,
        keys: Mapping[tuple[str, str], tuple[str, str]],
        positions: Mapping[str, int],
    ) -> Token | None:
        path = self.values.paths[name]
        distinct = list(dict.fromkeys(t.text for t in texts.values() if t.text is not None))
        try:
            kind = types.settle(path, distinct)
        except ExpressionError as error:
            declaration = next((t.declaration for t in texts.values() if t.declaration), None)
            if declaration is not None:
                self._skip(declaration, error.sentence[:1].lower() + error.sentence[1:].rstrip("."))
            return None
        values: dict[Condition, Value] = {}
        for picks, text in texts.items():
            condition = Condition(tuple(sorted(keys[pick] for pick in picks)))
            value = ABSENT if text.text is None else value_of(text.text, kind)
            if value != (strongest(values, condition, positions) or ABSENT):
                values[condition] = value
        parts: tuple[str, ...] = ()
        if kind == "color":
            parts = self.sheet.rule_uses.of(name, self.sheet.declarations)
        token = Token(self.new_key(), path, kind, "raw", tuple(values.items()), uses=parts)
        if derived_name(path) != name[2:]:
            token = replace(token, export_names=(("css", name[2:]),))
        return token

    def _drop_unreachable(self, made: dict[str, Token], texts: Mapping[str, Texts]) -> None:
        """Skip what refers to a property that was skipped, and what refers to that."""
        users: dict[str, set[str]] = {}
        for name in made:
            for text in texts[name].values():
                for match in REFERENCE.finditer(text.text or ""):
                    users.setdefault(match[1], set()).add(name)
        there = {token.path for token in made.values()}
        work = [path for path in users if path not in there]
        while work:
            path = work.pop()
            for name in users.get(path, ()):
                token = made.pop(name, None)
                if token is None:
                    continue
                work.append(token.path)
                needing = next(
                    t for t in texts[name].values() if "{" + path + "}" in (t.text or "")
                )
                if needing.declaration is not None:
                    self._skip(needing.declaration, "needs a property that was skipped")


def _reason(tests: Tests, reasons: Mapping[Carrier, str]) -> str:
    """Why one of the tests is none of the page; empty where all are."""
    return next((reasons[t.carrier] for t in tests if not t.negated and t.carrier in reasons), "")


def _paths(names: Sequence[str]) -> dict[str, str]:
    """A path for each property: its name, without what a path cannot hold."""
    paths: dict[str, str] = {}
    taken: set[str] = set()
    for name in names:
        plain = name[2:].translate(str.maketrans("{}.", "___"))
        if plain.startswith("$"):
            plain = "_" + plain[1:]
        plain = plain.strip() or "unnamed"
        paths[name] = free_name(plain, taken) if plain in taken else plain
        taken.add(paths[name])
    return paths
