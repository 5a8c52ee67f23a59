"""The values of custom properties in every mode, as texts with references."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from itertools import product
from typing import Any

from prism.expressions.values import MAX_TEXT
from prism.formats.style_sheets.axis_of_sheet import AxisOfSheet, scheme_of
from prism.formats.style_sheets.declarations import SCHEME, Declaration, Held, Sheet
from prism.formats.style_sheets.outcome import CIRCULAR
from prism.formats.style_sheets.page import Carrier, Page
from prism.formats.style_sheets.references import holds, variables
from prism.formats.style_sheets.texts import Text, Writer
from prism.resolution.graph import strong_components

#: Themes that are computed for one property at most.
MOST_THEMES = 4_096

#: The mode picked on each of the axes that matter to a property, in their order.
Picks = tuple[tuple[str, str], ...]
#: What decides which of the declarations of a property wins.
Shape = tuple[tuple[object, ...], ...]


class Values:
    """Computes the texts of properties. Pages are told apart by the axes that matter only."""

    def __init__(self, sheet: Sheet, axes: Sequence[AxisOfSheet]) -> None:
        self.sheet = sheet
        self.axes = list(axes)
        self._carriers: dict[Carrier, int] = {
            spelling.carrier: place
            for place, axis in enumerate(self.axes)
            for spellings in axis.modes.values()
            for spelling in spellings
        }
        self._own: dict[str, frozenset[int]] = {}
        self._all: dict[str, frozenset[int]] = {}
        self._texts: dict[tuple[str, tuple[str, ...]], Text] = {}
        self._scheme_axes = self._axes_of(SCHEME)
        self.paths: Mapping[str, str] = {}
        self.defaults = tuple(axis.default for axis in self.axes)
        self._pages: dict[tuple[str, ...], Page] = {}
        self._held: dict[tuple[str, ...], Held] = {}
        self._winners: dict[Shape, dict[tuple[str, ...], int | None]] = {}
        self._shapes: dict[str, dict[tuple[str, ...], int | None]] = {}
        self._named = {
            name: tuple(dict.fromkeys(v for d in declarations for v in variables(d.tokens)))
            for name, declarations in sheet.declarations.items()
        }
        self._lacking = self._find_lacking()

    # Which axes matter

    def _axes_of(self, name: str) -> frozenset[int]:
        """The axes that the declarations of a property test."""
        places = {
            self._carriers[test.carrier]
            for test in self.sheet.tests(name)
            if test.carrier in self._carriers
        }
        if name == SCHEME:
            places |= {
                place
                for carrier, place in self._carriers.items()
                if carrier in (("media", "prefers-color-scheme"), ("scheme", SCHEME))
            }
        return frozenset(places)

    def axes_for(self, name: str) -> frozenset[int]:
        """The axes on which the text of a property may depend: those it tests, and those that
        decide whether what it refers to is there, or which side of ``light-dark()`` counts."""
        for members in strong_components([name], self._lacking_targets, self._all.__contains__):
            places: set[int] = set()
            for member in members:
                places |= self._own_axes(member)
                for target in self._lacking_targets(member):
                    places |= self._all.get(target, frozenset())
            self._all.update(dict.fromkeys(members, frozenset(places)))
        return self._all[name]

    def _lacking_targets(self, name: str) -> list[str]:
        return [target for target in self._named.get(name, ()) if target in self._lacking]

    def _own_axes(self, name: str) -> frozenset[int]:
        if name not in self._own:
            places = set(self._axes_of(name))
            if any(holds(d.tokens, "light-dark") for d in self.sheet.declarations.get(name, ())):
                places |= self._scheme_axes
            self._own[name] = frozenset(places)
        return self._own[name]

    def _find_lacking(self) -> set[str]:
        """Properties that may be without a value on some page."""
        users: dict[str, list[str]] = {}
        work = []
        for name, declarations in self.sheet.declarations.items():
            plain = any(not way.tests for d in declarations for way in d.ways)
            needed = self._named[name]
            if (
                not plain
                or any(d.keyword for d in declarations)
                or any(target not in self.sheet.declarations for target in needed)
            ):
                work.append(name)
            for target in needed:
                users.setdefault(target, []).append(name)
        work.extend(self._in_circles(users))
        lacking = set(work)
        while work:
            for user in users.get(work.pop(), ()):
                if user not in lacking:
                    lacking.add(user)
                    work.append(user)
        return lacking

    def _in_circles(self, users: Mapping[str, Sequence[str]]) -> list[str]:
        """Properties that refer to themselves by way of others, if in different modes, and all
        that refers to those."""
        ahead = {
            name: sum(target in self.sheet.declarations for target in needed)
            for name, needed in self._named.items()
        }
        work = [name for name, count in ahead.items() if not count]
        while work:
            name = work.pop()
            for user in users.get(name, ()):
                ahead[user] -= 1
                if not ahead[user]:
                    work.append(user)
        return [name for name, count in ahead.items() if count]

    def themes(self, places: frozenset[int]) -> Iterator[tuple[Picks, tuple[str, ...]]]:
        """Every combination of modes on some axes, the default modes first: what is picked, and
        the mode of every axis."""
        chosen = sorted(places)
        modes = [self._default_first(place) for place in chosen]
        defaults = [axis.default for axis in self.axes]

        def moved(combination: tuple[str, ...]) -> int:
            pairs = zip(chosen, combination, strict=True)
            return sum(mode != defaults[place] for place, mode in pairs)

        for combination in sorted(product(*modes), key=moved):
            theme = list(defaults)
            for place, mode in zip(chosen, combination, strict=True):
                theme[place] = mode
            picks = tuple(
                (self.axes[place].name, mode)
                for place, mode in zip(chosen, combination, strict=True)
                if mode != defaults[place]
            )
            yield picks, tuple(theme)

    def _default_first(self, place: int) -> list[str]:
        axis = self.axes[place]
        return sorted(axis.modes, key=lambda mode: mode != axis.default)

    def count(self, places: frozenset[int]) -> int:
        """How many themes there are on some axes."""
        total = 1
        for place in places:
            total *= len(self.axes[place].modes)
        return total

    def page(self, theme: tuple[str, ...]) -> Page:
        """What holds of the page in a theme."""
        if theme not in self._pages:
            facts: dict[Carrier, str] = {}
            for axis, mode in zip(self.axes, theme, strict=True):
                facts.update(axis.facts(mode))
            self._pages[theme] = Page(facts)
        return self._pages[theme]

    # Texts

    def text(self, name: str, theme: tuple[str, ...]) -> Text:
        """The text of a property in a theme. Chains of any length are followed."""
        known = self._texts.get((name, self._part(name, theme)))
        if known is not None:
            return known
        for members in strong_components(
            [name],
            lambda each: self._named_here(each, theme),
            lambda each: (each, self._part(each, theme)) in self._texts,
        ):
            circular = len(members) > 1 or members[0] in self._named_here(members[0], theme)
            for member in members:
                winner = self._winner(member, theme)
                self._texts[member, self._part(member, theme)] = (
                    Text(None, winner, CIRCULAR)
                    if circular
                    else self._computed(member, winner, theme)
                )
        return self._texts[name, self._part(name, theme)]

    def _named_here(self, name: str, theme: tuple[str, ...]) -> list[str]:
        """The properties that the text that holds in one theme refers to."""
        named: Iterable[str]
        if len(self.sheet.declarations.get(name, ())) == 1 and name not in self.sheet.initial:
            named = self._named[name]
        else:
            winner = self._winner(name, theme)
            tokens = winner.tokens if winner else self.sheet.initial.get(name)
            named = dict.fromkeys(variables(tokens or ()))
        return [target for target in named if target in self.sheet.declarations]

    def _part(self, name: str, theme: tuple[str, ...]) -> tuple[str, ...]:
        """The modes of a theme on the axes that matter to a property."""
        places = self.axes_for(name)
        return tuple(theme[place] for place in sorted(places)) if places else ()

    def turns_on_winners(self, name: str) -> bool:
        """Whether the text of a property is the same wherever the same declaration wins."""
        declarations = self.sheet.declarations[name]
        return not any(target in self._lacking for target in self._named[name]) and not any(
            holds(declaration.tokens, "light-dark") for declaration in declarations
        )

    def shape(self, name: str) -> Shape:
        """What decides which declaration of a property wins; properties of the same rules have
        the same shape."""
        return tuple(
            (id(d.ways), d.important, d.layer, d.keyword)
            for d in self.sheet.declarations.get(name, ())
        )

    def winner_at(self, name: str, theme: tuple[str, ...]) -> int | None:
        """The place of the declaration that wins in a theme, among those of the property."""
        declarations = self.sheet.declarations.get(name, ())
        if len(declarations) == 1 and not declarations[0].ways[0].tests:
            return 0 if declarations[0].keyword in ("", "initial") else None
        if name not in self._shapes:
            self._shapes[name] = self._winners.setdefault(self.shape(name), {})
        known = self._shapes[name]
        if theme not in known:
            page = self.page(theme)
            winner = self.sheet.winner(name, page, self._held.setdefault(theme, {}))
            places = enumerate(declarations)
            known[theme] = next((place for place, each in places if each is winner), None)
        return known[theme]

    def _winner(self, name: str, theme: tuple[str, ...]) -> Declaration | None:
        place = self.winner_at(name, theme)
        return None if place is None else self.sheet.declarations[name][place]

    def _computed(
        self,
        name: str,
        winner: Declaration | None,
        theme: tuple[str, ...],
    ) -> Text:
        tokens: Sequence[Any] | None = self.sheet.initial.get(name)
        if winner is not None and not winner.keyword:
            tokens = winner.tokens
        if tokens is None:
            return Text(None, winner)
        writer = Writer(self, theme)
        text = writer.text(tokens, 0).strip()
        if again := self._set_again(winner, tokens):
            why = f"needs {again}, which has another value further inside"
            return Text(None, winner, why, unread=True)
        if writer.why:
            return Text(None, winner, writer.why, writer.unread)
        if len(text) > MAX_TEXT:
            return Text(None, winner, f"is longer than {MAX_TEXT} characters", unread=True)
        return Text(text, winner)

    def _set_again(self, winner: Declaration | None, tokens: Sequence[Any]) -> str:
        """A property that a value refers to and that an element inside sets again: the value is
        computed on the outer one, and inherited as it is."""
        if winner is None or not self.sheet.several_elements:
            return ""
        depth = max(way.depth for way in winner.ways)
        named = variables(tokens)
        return next((name for name in named if self.sheet.deepest(name) > depth), "")

    def there(self, name: str, theme: tuple[str, ...]) -> bool:
        """Whether a property has a value in a theme; one that is being computed has none."""
        known = self._texts.get((name, self._part(name, theme)))
        return known is not None and known.text is not None

    def unread(self, name: str, theme: tuple[str, ...]) -> bool:
        """Whether a property has a value in a browser that is skipped here."""
        known = self._texts.get((name, self._part(name, theme)))
        return known is not None and known.unread

    def is_dark(self, theme: tuple[str, ...]) -> bool:
        """Which side of ``light-dark()`` counts in a theme."""
        return scheme_of(self.sheet, self.page(theme)) == "dark"
