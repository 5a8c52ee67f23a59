"""An axis of a style sheet in the making, and the axis of a document that it becomes."""

from __future__ import annotations

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field

import tinycss2

from prism.formats.css import FEATURES
from prism.formats.layers import NewKey
from prism.formats.style_sheets.declarations import SCHEME, Sheet
from prism.formats.style_sheets.page import Carrier, Page
from prism.model.document import Axis, Follows, Mode
from prism.model.storable import MAX_NAME
from prism.roles.lexicon import words_for

#: Words that name a mode as dark or light.
DARK, LIGHT = words_for("dark"), words_for("light")

Facts = Mapping[Carrier, str]


#: What stands between the words of a name.
WORDS = re.compile(r"[-_:\s]+")


def cut(name: str) -> str:
    """A name that is no longer than names may be, and not empty."""
    return name.strip()[:MAX_NAME] or "unnamed"


@dataclass(frozen=True, slots=True)
class Spelling:
    """One way to ask for a mode: what then holds of the page."""

    carrier: Carrier
    value: str

    @property
    def facts(self) -> Facts:
        """What holds of a page that asks for the mode like this."""
        return {self.carrier: self.value}


@dataclass
class AxisOfSheet:
    """An axis in the making: modes by name with their spellings, the first one counts."""

    name: str
    modes: dict[str, list[Spelling]] = field(default_factory=dict)
    default: str = ""
    #: Whether an unmarked page is in the default mode.
    bare: bool = True

    def facts(self, mode: str) -> Facts:
        """What holds of a page in a mode; nothing for a mode that no spelling asks for."""
        spellings = self.modes[mode]
        return spellings[0].facts if spellings else {}


def scheme_of(sheet: Sheet, page: Page) -> str:
    """The color scheme of a page: ``light``, ``dark``, or ``system`` where both may be."""
    forced = page.facts.get(("scheme", SCHEME))
    if forced:
        return forced
    winner = sheet.winner(SCHEME, page)
    words = winner.text.lower().split() if winner else []
    if {"light", "dark"} <= {*words}:
        return page.facts.get(("media", "prefers-color-scheme"), "system")
    return "dark" if "dark" in words else "light"


def build(axes: Iterable[AxisOfSheet], sheet: Sheet, new_key: NewKey) -> tuple[Axis, ...]:
    """The axes of the document; the names of modes are their keys."""
    return tuple(_axis(axis, sheet, new_key()) for axis in axes)


def _axis(axis: AxisOfSheet, sheet: Sheet, key: str) -> Axis:
    follows: dict[str, dict[str, str]] = {}
    modes = []
    keys = {
        name: f"m{place}" if not _is_key(name) else name for place, name in enumerate(axis.modes)
    }
    for name, spellings in axis.modes.items():
        scheme = scheme_of(sheet, Page(axis.facts(name)))
        told = any(d for d in sheet.declarations.get(SCHEME, ())) or _of_scheme(spellings)
        selectors = tuple(
            text for spelling in spellings if (text := selector_of(spelling)) is not None
        )
        for spelling in spellings:
            kind, feature = spelling.carrier
            if kind == "media" and feature in FEATURES:
                follows.setdefault(feature, {})[spelling.value] = keys[name]
        color_scheme = scheme if told and scheme in ("light", "dark") else ""
        modes.append(Mode(keys[name], name, color_scheme=color_scheme, selectors=selectors))
    feature = next(iter(follows), "")
    return Axis(
        key,
        axis.name,
        tuple(modes),
        keys[axis.default],
        follows=Follows(feature, tuple(follows[feature].items())) if feature else None,
    )


def _of_scheme(spellings: Iterable[Spelling]) -> bool:
    return any(spelling.carrier[0] == "scheme" for spelling in spellings)


def _is_key(name: str) -> bool:
    return re.fullmatch(r"[!-~]{1,200}", name) is not None


def selector_of(spelling: Spelling) -> str | None:
    """The selector that asks for a mode; None where no selector does."""
    kind, name = spelling.carrier
    if kind == "attribute":
        value = tinycss2.serializer.serialize_string_value(spelling.value)
        return f'[{tinycss2.serializer.serialize_identifier(name)}="{value}"]'
    if kind == "class":
        return "." + str(tinycss2.serializer.serialize_identifier(name))
    return None


def spellings_of(axis: AxisOfSheet) -> Iterator[Spelling]:
    """Every spelling of every mode."""
    for spellings in axis.modes.values():
        yield from spellings


def name_apart(axes: Iterable[AxisOfSheet]) -> None:
    """Number the names of axes that are called alike."""
    taken: set[str] = {"zone"}
    for axis in axes:
        name, number = axis.name, 2
        while name in taken:
            name, number = f"{axis.name}-{number}", number + 1
        axis.name = name
        taken.add(name)


def is_media(axis: AxisOfSheet) -> bool:
    """Whether media queries alone ask for the modes."""
    return all(spelling.carrier[0] == "media" for spelling in spellings_of(axis))


def plainest(axis: AxisOfSheet) -> str:
    """The mode that an axis is called by, as ``dark`` of ``dark-theme``, or else a light one."""
    words = WORDS.split(axis.name.lower())
    return min(axis.modes, key=lambda mode: (mode not in words, mode not in LIGHT))
