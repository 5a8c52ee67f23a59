"""Axes out of what a style sheet tests; what means the same there is a spelling of one axis."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from prism.errors import FormatError
from prism.formats.css import FEATURES
from prism.formats.limits import MAX_AXES
from prism.formats.style_sheets.axis_of_sheet import (
    DARK,
    LIGHT,
    WORDS,
    AxisOfSheet,
    Spelling,
    cut,
    is_media,
    name_apart,
    plainest,
    scheme_of,
    spellings_of,
)
from prism.formats.style_sheets.declarations import SCHEME, Declaration, Held, Sheet
from prism.formats.style_sheets.page import Carrier, Page, Test
from prism.formats.style_sheets.system_mode import fold_system

#: The attribute of parts of a page that have modes of their own, in style sheets written here.
ZONE = "data-zone"
#: Values of one attribute, classes and media features that are compared with each other.
MOST_MODES = 200
_MOST_CARRIERS = 4 * MAX_AXES
_PREFERENCES = {"prefers-color-scheme": "appearance", "prefers-contrast": "contrast"}
#: Words of a class beside the mode it names, such as ``theme`` in ``theme-dark``.
_AROUND = frozenset(("theme", "mode", "scheme", "color", "colors", "is", "t"))
#: Words that tell of an attribute that it asks for a theme.
_THEMES = frozenset(("theme", "mode", "scheme", "brand", "appearance", "contrast", "density"))


def read(sheet: Sheet, light_dark: bool) -> list[AxisOfSheet]:
    """The axes that the declarations of a sheet ask for, weaker ones first.

    ``light_dark`` tells that some value is ``light-dark()``. Raises ``FormatError`` for more axes
    than a document has.
    """
    builder = _Builder(sheet)
    axes = builder.axes(light_dark)
    if len(axes) > MAX_AXES:
        names = ", ".join(axis.name for axis in axes[:MAX_AXES])
        raise FormatError(
            f"The style sheet asks for {len(axes)} axes; at most {MAX_AXES} are read.",
            fix=f"The first are {names}. Leave out what is no theme.",
        )
    return axes


def strangers(sheet: Sheet) -> dict[Carrier, str]:
    """What a sheet tests that is no mode of the page, with the reason."""
    builder = _Builder(sheet)
    reasons: dict[Carrier, str] = {}
    for kind, name in builder.values:
        if kind == "class" and not builder.mode_of_class(name):
            reasons[kind, name] = f"the class .{name} names no mode"
        elif kind == "attribute" and not builder.is_of_the_page(name):
            reasons[kind, name] = f"the attribute {name} speaks of a part of the page"
    return reasons


class _Builder:
    def __init__(self, sheet: Sheet) -> None:
        self.sheet = sheet
        self.properties: dict[Carrier, list[str]] = {}
        self.values: dict[Carrier, dict[str, None]] = {}
        self._mode_names: set[str] = set()
        self._held: dict[frozenset[tuple[Carrier, str]], Held] = {}
        for name in sheet.declarations:
            for test in sheet.tests(name):
                self._know(test, name)
        ways = {
            (name, way)
            for name, declarations in sheet.declarations.items()
            for declaration in declarations
            for way in declaration.ways
        }
        #: What a selector asks for that says which element it speaks of.
        self._firm = {test.carrier for _, way in ways if not way.loose for test in way.tests}
        #: Properties that an unmarked page has.
        self._plain = {name for name, way in ways if not way.tests}

    def _know(self, test: Test, name: str) -> None:
        names = self.properties.setdefault(test.carrier, [])
        if not names or names[-1] != name:
            names.append(name)
        values = self.values.setdefault(test.carrier, {})
        if test.kind == "media" and test.negated:
            others = [value for value in FEATURES.get(test.name, ()) if value != test.value]
            values.update(dict.fromkeys(others))
        elif test.kind != "attribute" or test.operator != "present":
            values[test.value] = None

    def axes(self, light_dark: bool) -> list[AxisOfSheet]:
        """All axes, with like ones joined, their default modes and free names."""
        candidates = [*self._of_classes(), *self._of_attributes(), *self._of_media()]
        candidates += self._mapped()
        for candidate in candidates:
            if len(candidate.modes) > MOST_MODES:
                raise FormatError(
                    f"The style sheet knows {len(candidate.modes)} modes of “{candidate.name[:40]}”; "
                    f"at most {MOST_MODES} are read.",
                    fix="Leave out those that are no theme.",
                )
        if len(candidates) > _MOST_CARRIERS:
            raise FormatError(
                f"The style sheet asks for {len(candidates)} attributes, classes and media features; "
                f"at most {_MOST_CARRIERS} are compared.",
                fix="Leave out what is no theme.",
            )
        joined: list[AxisOfSheet] = []
        for candidate in candidates:
            home = next((axis for axis in joined if self._alike(axis, candidate)), None)
            if home is None:
                joined.append(candidate)
                continue
            for mode, spellings in candidate.modes.items():
                home.modes.setdefault(mode, []).extend(spellings)
            if home.name == "appearance":
                home.name = candidate.name
        if light_dark:
            self._for_light_dark(joined)
        fold_system(joined, self._says_the_same)
        for axis in joined:
            self._settle_default(axis)
            axis.modes = {axis.default: axis.modes[axis.default], **axis.modes}
        name_apart(joined)
        return [axis for axis in joined if axis.modes]

    def is_of_the_page(self, attribute: str) -> bool:
        """Whether an attribute asks for a mode of the page rather than speaks of some part: it
        stands on the root, is called like a theme, or changes what the page has too."""
        if attribute == ZONE:
            return False
        carrier: Carrier = ("attribute", attribute)
        if carrier in self._firm:
            return True
        if set(WORDS.split(attribute.lower())) & _THEMES:
            return True
        if not attribute.startswith("data-"):
            return False
        if any(value.lower() in DARK | LIGHT for value in self.values[carrier]):
            return True
        return any(name in self._plain for name in self.properties.get(carrier, ()))

    # Candidates

    def _of_attributes(self) -> Iterator[AxisOfSheet]:
        for (kind, name), values in self.values.items():
            if kind != "attribute":
                continue
            modes = [value for value in values if value.strip()] or ["on"]
            axis = AxisOfSheet(cut(name.removeprefix("data-") or name))
            for value in modes:
                fact = "" if modes == ["on"] and not values else value
                axis.modes[cut(value)] = [Spelling(("attribute", name), fact)]
            yield axis

    def _of_classes(self) -> Iterator[AxisOfSheet]:
        """One axis of all classes that name a mode; others are dropped by their carriers."""
        axis = AxisOfSheet("appearance")
        for kind, name in self.values:
            if kind == "class" and (mode := self.mode_of_class(name)):
                axis.modes.setdefault(mode, []).append(Spelling(("class", name), ""))
        if axis.modes:
            if not {*axis.modes} & (DARK | LIGHT):
                axis.name = "theme"
            yield axis

    def _of_media(self) -> Iterator[AxisOfSheet]:
        for (kind, feature), values in self.values.items():
            if kind == "media":
                name = _PREFERENCES.get(feature, feature.removeprefix("prefers-"))
                modes = {value: [Spelling(("media", feature), value)] for value in values}
                yield AxisOfSheet(name, dict(modes))

    def _mapped(self) -> Iterator[AxisOfSheet]:
        for (kind, name), values in self.values.items():
            if kind == "mapped":
                spelled = {value: [Spelling(("mapped", name), value)] for value in values}
                yield AxisOfSheet(name, dict(spelled))

    def mode_of_class(self, name: str) -> str:
        """The mode that a class names as a whole; empty for a class that names none."""
        if not self._mode_names:
            self._mode_names = {*DARK, *LIGHT}
            for (kind, attribute), values in self.values.items():
                if kind == "attribute" and self.is_of_the_page(attribute):
                    self._mode_names |= {value.lower() for value in values}
        if name.lower() in self._mode_names:
            return name.lower()
        words = WORDS.split(name.lower())
        modes = [word for word in words if word in DARK | LIGHT]
        others = [word for word in words if word not in _AROUND and word not in modes]
        known = len(others) < len(words) - len(modes) and len(others) <= 1
        return modes[0] if len(modes) == 1 and known else ""

    # Joining

    def _alike(self, axis: AxisOfSheet, other: AxisOfSheet) -> bool:
        """Whether two axes mean the same: they share a mode, and say the same in it."""
        if axis.name == other.name and all(
            spelling.carrier[0] == "mapped"
            for spellings in (*axis.modes.values(), *other.modes.values())
            for spelling in spellings
        ):
            return True
        shared = [mode for mode in other.modes if mode in axis.modes]
        if not shared or self._asked_for_together(axis, other):
            return False
        names = self._names(axis) | self._names(other)
        tells = not names
        for mode in shared:
            first, second = Page(axis.facts(mode)), Page(other.facts(mode))
            if any(not self._same(name, first, second) for name in names):
                return False
            tells |= any(
                self._winner(name, first) is not self._winner(name, Page()) for name in names
            )
        if not tells:
            return False
        # What is asked for outright must count, whatever the other one says.
        weak = [(mode, page) for mode in other.modes for page in [Page(other.facts(mode))]]
        for mode in axis.modes:
            for _, page in weak if is_media(other) else []:
                both = page.with_facts(axis.facts(mode))
                if any(not self._same(name, both, Page(axis.facts(mode))) for name in names):
                    return False
        return True

    def _says_the_same(self, axis: AxisOfSheet, other: AxisOfSheet, a: Page, b: Page) -> bool:
        return all(self._same(name, a, b) for name in self._names(axis) | self._names(other))

    def _asked_for_together(self, axis: AxisOfSheet, other: AxisOfSheet) -> bool:
        """Whether some selector wants an attribute or a class of both at once, as in
        ``[data-mode=dark][data-dark-theme=dimmed]``."""
        first, second = (
            {s.carrier for s in spellings_of(each) if s.carrier[0] in ("attribute", "class")}
            for each in (axis, other)
        )
        return any(
            first & wanted and second & wanted
            for name in self._names(axis) & self._names(other)
            for declaration in self.sheet.declarations[name]
            for way in declaration.ways
            for wanted in [{test.carrier for test in way.tests if not test.negated}]
        )

    def _names(self, axis: AxisOfSheet) -> set[str]:
        carriers = {s.carrier for spellings in axis.modes.values() for s in spellings}
        return {
            name
            for carrier in carriers
            for name in self.properties.get(carrier, ())
            if name != SCHEME
        }

    def _same(self, name: str, first: Page, second: Page) -> bool:
        """Whether a property has the same text on two pages."""
        here, there = self._winner(name, first), self._winner(name, second)
        return here is there or (here is not None and there is not None and here.text == there.text)

    def _winner(self, name: str, page: Page) -> Declaration | None:
        held = self._held.setdefault(frozenset(page.facts.items()), {})
        return self.sheet.winner(name, page, held)

    # Defaults

    def _settle_default(self, axis: AxisOfSheet) -> None:
        """The mode that an unmarked page is in; a mode of its own where it is in none of them."""
        names, bare = self._names(axis) or {SCHEME}, Page()
        absent = all(self._winner(name, bare) is None for name in names)
        if absent and names != {SCHEME}:
            telling = [mode for mode in axis.modes if self._says_something(axis, mode, names)]
            if (len(axis.modes) > 1 or not self._has_base()) and (telling or len(axis.modes) > 1):
                axis.bare = False
                axis.default = telling[0] if telling else plainest(axis)
                return
            if not telling:
                self._add_unmarked(axis)
                return
        for mode in sorted(axis.modes, key=lambda mode: mode not in LIGHT):
            page = Page(axis.facts(mode))
            alike = all(self._same(name, bare, page) for name in names)
            if alike and not self._matters_with_others(axis, page, names):
                axis.default = mode
                return
        self._add_unmarked(axis)

    def _matters_with_others(self, axis: AxisOfSheet, page: Page, names: Iterable[str]) -> bool:
        """Whether a mode that changes nothing by itself does so together with one of another axis."""
        own = {spelling.carrier for spelling in spellings_of(axis)}
        return any(
            any(test.carrier in own and test.holds(page) for test in wanted)
            and any(test.carrier not in own for test in wanted)
            for name in names
            for declaration in self.sheet.declarations.get(name, ())
            for way in declaration.ways
            for wanted in [[test for test in way.tests if not test.negated]]
        )

    def _add_unmarked(self, axis: AxisOfSheet) -> None:
        """A mode for pages that ask for none of the others."""
        free = ["standard", "default", "none", "unmarked"]
        if DARK & {*axis.modes}:
            free.insert(0, "light")
        axis.default = next(name for name in free if name not in axis.modes)
        axis.modes = {axis.default: [], **axis.modes}

    def _has_base(self) -> bool:
        """Whether anything is declared for a page without a mark."""
        return any(
            not way.tests
            for name, declarations in self.sheet.declarations.items()
            for declaration in declarations
            for way in declaration.ways
            if name != SCHEME
        )

    def _says_something(self, axis: AxisOfSheet, mode: str, names: Iterable[str]) -> bool:
        page = Page(axis.facts(mode))
        return any(self._winner(name, page) is not None for name in names)

    def _sets_dark(self, axis: AxisOfSheet) -> bool:
        """Whether a mode called dark asks for the dark color scheme."""
        return any(
            scheme_of(self.sheet, Page(axis.facts(mode))) == "dark"
            for mode in axis.modes
            if mode in DARK
        )

    def _for_light_dark(self, axes: list[AxisOfSheet]) -> None:
        """See to it that some axis tells light from dark, as ``light-dark()`` asks."""
        schemes = {scheme_of(self.sheet, Page())}
        schemes |= {
            scheme_of(self.sheet, Page(axis.facts(mode))) for axis in axes for mode in axis.modes
        }
        system: Carrier = ("media", "prefers-color-scheme")
        if "system" in schemes:
            axis = next(
                (axis for axis in axes if any(s.carrier == system for s in spellings_of(axis))),
                None,
            )
            if axis is None:
                axis = next((axis for axis in axes if self._sets_dark(axis)), None)
            if axis is None:
                axis = AxisOfSheet("appearance")
                axes.append(axis)
            for mode in ("light", "dark"):
                spellings = axis.modes.setdefault(mode, [])
                if all(spelling.carrier != system for spelling in spellings):
                    spellings.append(Spelling(system, mode))
        elif len(schemes) == 1:
            scheme: Carrier = ("scheme", SCHEME)
            modes = {mode: [Spelling(scheme, mode)] for mode in ("light", "dark")}
            axes.append(AxisOfSheet("appearance", dict(modes)))
