"""Scenes: what of an interface takes which slot, and what text stands on which stack of fills, read from its markup.

An element says by ``data-ink`` which slot colors its text, by ``data-fill`` which slot fills it and by ``data-edge``
which slot colors its border; ``formats.scene_css`` has all of these attributes.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from html.parser import HTMLParser

from prism.formats.scene_css import COPY, PAINTS, SHOWN, STATES, parts
from prism.model.document import Pairing, Token
from prism.resolution.contrast import Reading, audit
from prism.resolution.resolver import Resolver, Theme

_VOID = frozenset(
    ("area", "base", "br", "col", "embed", "hr", "img", "input", "link", "meta", "source", "wbr")
)
_UNSEEN = ("style", "script", "title", "template")


@dataclass(frozen=True, slots=True)
class Use:
    """A slot that an element takes: the state it takes it in, empty at rest, the paint, and the slot."""

    state: str
    paint: str
    slot: str


@dataclass(frozen=True, slots=True)
class TextRun:
    """A text of a scene: the slot of its color and the fills under it, nearest first, with the places of the
    elements that take them, the ink's first."""

    text: str
    ink: str
    fills: tuple[str, ...]
    element: int = -1
    exempt: bool = False
    places: tuple[int, ...] = ()


@dataclass(slots=True)
class Element:
    """An element that takes slots: its place among these, its tag and name, what it takes, the place of the one it
    lies in, -1 for none, its own text, and the slots of the ink and the fills that it and those around it have."""

    place: int
    tag: str
    name: str
    uses: tuple[Use, ...]
    inside: int
    ink: str
    fills: tuple[str, ...]
    text: str = ""
    is_disabled: bool = False
    own_ink: str = ""
    own_fill: str = ""


@dataclass(slots=True)
class SceneRead:
    """A scene as it is read: its elements with slots, its texts, and all uses of slots, in order."""

    elements: list[Element] = field(default_factory=list)
    runs: list[TextRun] = field(default_factory=list)
    uses: dict[Use, None] = field(default_factory=dict)

    @property
    def slots(self) -> list[str]:
        """The slots that are used, each once."""
        return list(dict.fromkeys(use.slot for use in self.uses))

    def is_in(self, place: int, other: int) -> bool:
        """Whether an element is another one, or lies in it; both by place."""
        return other in _chain({e.place: e.inside for e in self.elements}, place)

    def moved(self, moves: Mapping[int, int]) -> SceneRead:
        """The scene with elements in other elements, each by its place, and what is read off it there. A move into
        itself, or to a place that is not there, is left out."""
        inside = {element.place: element.inside for element in self.elements}
        for place, into in moves.items():
            if place in inside and into in inside and place not in _chain(inside, into):
                inside[place] = into
        made = SceneRead(uses=self.uses)
        for element in self.elements:
            around = [self.elements[place] for place in _chain(inside, element.place)]
            ink = next(
                (element_there.own_ink for element_there in around if element_there.own_ink), ""
            )
            fills = tuple(
                element_there.own_fill for element_there in around if element_there.own_fill
            )
            there = inside[element.place]
            made.elements.append(replace(element, inside=there, ink=ink, fills=fills))
        for run in self.runs:
            around = [self.elements[place] for place in _chain(inside, run.element)]
            inked = next((element_there for element_there in around if element_there.own_ink), None)
            filled = [element_there for element_there in around if element_there.own_fill]
            places = (
                inked.place if inked else -1,
                *(element_there.place for element_there in filled),
            )
            fills = tuple(element_there.own_fill for element_there in filled)
            ink = inked.own_ink if inked else ""
            made.runs.append(replace(run, ink=ink, fills=fills, places=places))
        return made


def _chain(inside: Mapping[int, int], place: int) -> list[int]:
    """An element and those around it, by place, the nearest first."""
    chain = []
    while place >= 0:
        chain.append(place)
        place = inside[place]
    return chain


@dataclass(frozen=True, slots=True)
class _Open:
    tag: str
    ink: str
    fill: str
    element: int
    hides: bool
    disabled: bool
    ink_place: int = -1


class _Reader(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.scene = SceneRead()
        self.open: list[_Open] = []

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        attributes = {name: value or "" for name, value in attrs}
        above = self.open[-1] if self.open else _Open("", "", "", -1, False, False)
        uses = tuple(_uses(attributes))
        self.scene.uses.update(dict.fromkeys(uses))
        ink, fill = attributes.get("data-ink", ""), attributes.get("data-fill", "")
        disabled = above.disabled or attributes.get("aria-disabled") == "true"
        for state in _states(attributes):
            ink = attributes.get(f"data-{state}-ink", ink)
            fill = attributes.get(f"data-{state}-fill", fill)
            disabled = disabled or state == "disabled"
        place = above.element
        if uses or "data-part" in attributes:
            place = len(self.scene.elements)
            fills = tuple(above_it.fill for above_it in reversed(self.open) if above_it.fill)
            fills = (fill, *fills) if fill else fills
            name = attributes.get("data-part") or attributes.get("class", "").split(" ")[0] or tag
            element = Element(place, tag, name, uses, above.element, ink or above.ink, fills)
            element.is_disabled = disabled
            element.own_ink, element.own_fill = ink, fill
            self.scene.elements.append(element)
        if tag not in _VOID:
            hides = above.hides or tag in _UNSEEN or "hidden" in attributes
            inked = place if ink else above.ink_place
            self.open.append(_Open(tag, ink or above.ink, fill, place, hides, disabled, inked))

    def handle_endtag(self, tag: str) -> None:
        while self.open:
            if self.open.pop().tag == tag:
                break

    def handle_data(self, data: str) -> None:
        text = " ".join(data.split())
        if not text or not self.open or self.open[-1].hides:
            return
        here = self.open[-1]
        filled = [element for element in reversed(self.open) if element.fill]
        fills = tuple(element.fill for element in filled)
        places = (here.ink_place, *(element.element for element in filled))
        self.scene.runs.append(TextRun(text, here.ink, fills, here.element, here.disabled, places))
        if here.element >= 0 and not self.scene.elements[here.element].text:
            self.scene.elements[here.element].text = text[:60]


#: What says that an element stands in a state, beside ``data-as``.
_STANDING = {
    "aria-current": "selected",
    "aria-selected": "selected",
    "aria-invalid": "error",
    "aria-disabled": "disabled",
}


def _states(attributes: Mapping[str, str]) -> list[str]:
    """The states that an element stands in, in the order in which they paint."""
    states = attributes.get("data-as", "").split()
    states += [
        state for name, state in _STANDING.items() if attributes.get(name, "false") != "false"
    ]
    return [state for state in STATES if state in states]


def _uses(attributes: Mapping[str, str]) -> Iterable[Use]:
    uses = []
    for attribute, value in attributes.items():
        known = parts(attribute)
        if known is not None and value:
            uses.append(Use(*known, f"copy-{value}" if known[1] == COPY else value))
    order = [*PAINTS, COPY, SHOWN]
    yield from sorted(uses, key=lambda use: (bool(use.state), order.index(use.paint)))


def read_scene(markup: str) -> SceneRead:
    """A scene's elements with slots, its texts and its uses of slots."""
    reader = _Reader()
    reader.feed(markup)
    reader.close()
    return reader.scene


def read(markup: str) -> tuple[list[TextRun], list[str]]:
    """The texts of a scene, and the slots of colors at rest that it uses, both in order."""
    scene = read_scene(markup)
    colors = (
        use.slot for use in scene.uses if use.paint in ("ink", "fill", "edge") and not use.state
    )
    return scene.runs, list(dict.fromkeys(colors))


@dataclass(frozen=True, slots=True)
class RunReading:
    """How all texts of one ink on one stack read, theme by theme; None where unbound. ``exempt`` are texts of
    disabled parts, which need no contrast (WCAG 2.2, SC 1.4.3)."""

    ink: str
    fills: tuple[str, ...]
    count: int
    example: str
    readings: tuple[Reading | None, ...]
    exempt: bool = False


def readings(
    resolver: Resolver,
    runs: Sequence[TextRun],
    bound: Mapping[str, Token],
    themes: Sequence[Theme],
) -> list[RunReading]:
    """Each distinct ink and stack of a scene, with its reading in each of ``themes``."""
    seen: dict[tuple[str, tuple[str, ...], bool], list[TextRun]] = {}
    for run in runs:
        seen.setdefault((run.ink, run.fills, run.exempt), []).append(run)
    run_readings = []
    for (ink, fills, exempt), members in seen.items():
        per_theme: tuple[Reading | None, ...] = (None,) * len(themes)
        if ink in bound and fills and all(fill in bound for fill in fills):
            need = 0.0 if exempt else 4.5
            keys = tuple(bound[fill].key for fill in fills)
            per_theme = tuple(
                audit(resolver, [Pairing("", bound[ink].key, keys, "text", need)], themes)
            )
        run_readings.append(
            RunReading(ink, fills, len(members), members[0].text, per_theme, exempt)
        )
    return run_readings
