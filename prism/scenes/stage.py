"""The stage: zones with themes of their own, how texts read in them, what is pointed at, and what a token paints."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from prism.analysis import Analysis
from prism.color import space
from prism.color.contrast import contrast_ratio, flatten, truncate_ratio
from prism.expressions.typed_input import typed
from prism.expressions.values import references
from prism.formats import css
from prism.hygiene.literal import is_unlinked
from prism.model.document import Document, Token, shown_path
from prism.model.names import condition_words
from prism.resolution.answers import Answer
from prism.resolution.resolver import Theme
from prism.scenes.markup import Element, SceneRead, TextRun

#: What a text needs: WCAG 2.2, SC 1.4.3.
TEXT = 4.5
_LONGEST = 8


@dataclass(frozen=True, slots=True)
class Zone:
    """A part of a scene with modes of its own: the place of its element, and modes by axis, by key; axes that are not
    named inherit."""

    place: int
    picks: tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class ZoneRow:
    """A zone in the tree: how deep it lies, its element's name, what it pins and what it inherits, in words."""

    place: int
    depth: int
    name: str
    pins: str
    inherits: str


class Staged:
    """A scene on the stage in one theme, with its zones."""

    def __init__(
        self,
        analysis: Analysis,
        scene: SceneRead,
        theme: Theme,
        zones: Sequence[Zone] = (),
        also: Mapping[str, Token] | None = None,
    ) -> None:
        """``also`` are slots that take tokens here alone."""
        self.bindings = {**analysis.bindings, **(also or {})}
        self.analysis = analysis
        self.scene = scene
        self.theme = theme
        self.zones = {zone.place: zone for zone in zones if zone.place < len(scene.elements)}

    def chain(self, place: int) -> list[Zone]:
        """The zones that an element lies in, the outermost first."""
        chain: list[Zone] = []
        while place >= 0:
            if place in self.zones:
                chain.append(self.zones[place])
            place = self.scene.elements[place].inside
        return chain[::-1]

    def theme_at(self, place: int) -> Theme:
        """The theme of an element."""
        resolver = self.analysis.resolver
        picks = dict(resolver.picks(self.theme))
        for zone in self.chain(place):
            picks |= dict(zone.picks)
        return resolver.theme(picks)

    def attributes(self) -> list[tuple[int, dict[str, str]]]:
        """The attributes of each zone, every axis written out, by the place of its element. An element without an ink of
        its own takes that of what it lies in again, as text keeps the color that was computed outside."""
        page = dict(self.analysis.resolver.picks(self.theme))
        document, elements = self.analysis.document, self.scene.elements
        attributes = []
        for place in sorted(self.zones):
            picks = [dict(zone.picks) for zone in self.chain(place)]
            element = elements[place]
            again = {} if element.own_ink or not element.ink else {"data-ink": element.ink}
            attributes.append((place, css.zone_attributes(document, page, picks) | again))
        return attributes

    def ratio(self, run: TextRun) -> float | None:
        """The contrast of a text with what really lies behind it: its ink in the zone of the text, each layer in the zone
        of its own element; None where a slot has no token or a token no color."""
        layers = []
        places = (run.element, *run.places[1:])
        for slot, place in zip((run.ink, *run.fills), places, strict=True):
            answer = self.answer(slot, place)
            if answer is None or answer.color is None:
                return None
            layers.append(np.array(space.rgba(answer.color)))
            if len(layers) > 1 and answer.color.alpha >= 1:
                break
        if len(layers) < 2:
            return None
        if layers[-1][3] < 1:
            layers.append(np.ones(4))  # what a browser paints below everything
        above, below = flatten(layers)[:3], flatten(layers[1:])[:3]
        return float(contrast_ratio(above, below))

    def answer(self, slot: str, place: int) -> Answer | None:
        """What a slot resolves to at an element; None without a token."""
        token = self.bindings.get(slot)
        if token is None:
            return None
        return self.analysis.resolver.resolve(token.key, self.theme_at(place))

    def failing(self) -> tuple[int, int]:
        """How many texts fall short, and how many could be read at all."""
        ratios = [self.ratio(run) for run in self.scene.runs if not run.exempt]
        known = [ratio for ratio in ratios if ratio is not None]
        return sum(ratio < TEXT for ratio in known), len(known)

    def tree(self) -> list[ZoneRow]:
        """The zones with what they pin and inherit; the page is the outermost."""
        axes = self.analysis.document.axes
        rows = []
        for place in sorted(self.zones):
            picks = dict(self.zones[place].picks)
            modes = {mode.key: mode.name for axis in axes for mode in axis.modes}
            pins = [f"{axis.name} {modes[picks[axis.key]]}" for axis in axes if axis.key in picks]
            rest = [axis.name for axis in axes if axis.key not in picks]
            outer = self.chain(place)[:-1]
            source = self.scene.elements[outer[-1].place].name if outer else "the page"
            inherits = f"{', '.join(rest)} from {source}" if rest else ""
            name = self.scene.elements[place].name
            rows.append(ZoneRow(place, len(outer) + 1, name, ", ".join(pins), inherits))
        return rows


@dataclass(frozen=True, slots=True)
class SlotRow:
    """A slot of an element: its state and property in words, its slot, the token it takes, what comes of it, and the
    value that decides it here, as it is typed, with the condition under which it is stored, in words."""

    what: str
    slot: str
    token: Token | None
    result: str
    hex: str
    steps: tuple[str, ...]
    typed: str = ""
    where: str = ""


@dataclass(frozen=True, slots=True)
class Pointed:
    """What is pointed at: the element, what it takes, its text's ratio cut to two decimals, empty where there is none,
    whether that falls short, and what the text stands on."""

    element: Element
    rows: tuple[SlotRow, ...]
    ratio: str
    fails: bool
    words: str
    zone: str


_WORDS = {
    "ink": "text", "edge": "line", "lift": "shadow", "round": "radius", "round-top": "radius, top",
    "round-bottom": "radius, bottom", "pad": "padding", "pad-x": "padding, sides",
    "pad-y": "padding, top and bottom", "pad-top": "padding, top",
}  # fmt: skip


def pointed(staged: Staged, place: int) -> Pointed:
    """What there is to say of an element."""
    element = staged.scene.elements[place]
    rows = []
    for use in element.uses:
        token = staged.bindings.get(use.slot)
        answer = staged.answer(use.slot, place)
        paint = _WORDS.get(use.paint, use.paint.replace("-", " "))
        what = f"{paint}, {use.state}" if use.state else paint
        rows.append(
            SlotRow(
                what,
                use.slot,
                token,
                answer.css if answer else "",
                answer.hex if answer else "",
                _steps(staged, token, place) if token else (),
                *_held(staged, token, place),
            )
        )
    run = next((run for run in staged.scene.runs if run.element == place), None)
    ratio = staged.ratio(run) if run else None
    zones = staged.chain(place)
    return Pointed(
        element,
        tuple(rows),
        truncate_ratio(ratio) if ratio is not None else "",
        ratio is not None and run is not None and not run.exempt and ratio < TEXT,
        _stands(staged, run) if run else "",
        staged.scene.elements[zones[-1].place].name if zones else "the page",
    )


def _held(staged: Staged, token: Token | None, place: int) -> tuple[str, str]:
    """The value of a token that wins at an element, as it is typed, and its condition in words."""
    resolver = staged.analysis.resolver
    won = resolver.winner(token.key, staged.theme_at(place)) if token is not None else None
    if token is None or won is None:
        return "", ""
    condition, value = won
    where = condition_words(staged.analysis.document, condition) if condition.picks else ""
    return typed(value, token.type).strip("{}"), where


def _stands(staged: Staged, run: TextRun) -> str:
    """The tokens of a text and of what it stands on."""
    bindings = staged.bindings
    names = [
        shown_path(bindings[slot].path) if slot in bindings else slot
        for slot in (run.ink, *run.fills)
    ]
    return f"{names[0]} on {' over '.join(names[1:3])}" if len(names) > 1 else names[0]


def _steps(staged: Staged, token: Token, place: int) -> tuple[str, ...]:
    """The tokens that a value comes from, hop by hop."""
    resolver, theme = staged.analysis.resolver, staged.theme_at(place)
    document: Document = staged.analysis.document
    paths: list[str] = []
    here: Token | None = token
    while here is not None and len(paths) < _LONGEST:
        won = resolver.winner(here.key, theme)
        named = list(references(won[1], here.type)) if won else []
        here = document.token_at(named[0]) if len(named) == 1 else None
        if here is not None and won is not None:
            why = f" because {condition_words(document, won[0])}" if won[0].picks else ""
            paths.append(f"{shown_path(here.path)}{why}")
    return tuple(paths)


def painted_by(analysis: Analysis, key: str) -> list[str]:
    """The slots that a token paints, by itself or by way of others that refer to it."""
    users = {key, *analysis.resolver.graph.users({key})}
    return [slot for slot, token in analysis.bindings.items() if token.key in users]


def unbound(analysis: Analysis, scene: SceneRead) -> list[str]:
    """The slots of a scene that have no token; texts keep their own words, so they do not count."""
    named = ("copy-", "show-")
    return [
        slot for slot in scene.slots if slot not in analysis.bindings and not slot.startswith(named)
    ]


@dataclass(frozen=True, slots=True)
class Unlinked:
    """A color of a scene that follows no palette: the token that holds it as a literal, the slots that show it, and its
    colors as hex, each once."""

    token: Token
    slots: tuple[str, ...]
    colors: tuple[str, ...]


def unlinked(analysis: Analysis, scene: SceneRead) -> list[Unlinked]:
    """The literal colors that a scene shows, in tokens above the raw tier, in document order."""
    shown: dict[str, list[str]] = {}
    for slot in scene.slots:
        bound = analysis.bindings.get(slot)
        for key in analysis.resolver.graph.reach([bound.key]) if bound is not None else ():
            shown.setdefault(key, []).append(slot)
    return [
        Unlinked(token, tuple(shown[token.key]), tuple(_colors(analysis, token)))
        for token in analysis.document.tokens
        if token.key in shown and is_unlinked(token)
    ]


def _colors(analysis: Analysis, token: Token) -> Iterator[str]:
    answers = (answer for _, answer in analysis.answers.of(token.key))
    yield from dict.fromkeys(answer.hex for answer in answers if answer.hex)


def attributes_of(document: Document, theme: Theme) -> Mapping[str, str]:
    """The attributes of a page in a theme."""
    return css.root_attributes(document, theme)
