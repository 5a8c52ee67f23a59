"""Roles of colors by what a style sheet does with them, whatever they are called.

What a rule sets says more than a name: the background of the page is the page, the text of a placeholder a hint, and
what a button is filled with an action. Where one color does several things, it is left for a person.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from prism.model.document import Document
from prism.roles import uses
from prism.roles.evidence import Named
from prism.roles.grounds import COLOR, COLORED, PART, PLAIN, SEEN, Guess
from prism.roles.role import STATUSES, Role
from prism.roles.uses import Use

#: Elements with backgrounds that are lines, and those with backgrounds that lie on the page.
_THIN = ("rule", "switch", "meter", "scrollbar")
_SURFACES = ("card", "code", "quote", "table")
#: From this contrast ratio on a ground stands out from the page, as a fill does.
_STANDS_OUT = 1.7


class Shown:
    """What the style sheet of a document puts on what."""

    def __init__(self, document: Document, readings: Mapping[str, Named]) -> None:
        self.readings = readings
        self.grounds: dict[str, list[str]] = {}
        self.texts: dict[str, list[str]] = {}
        for pairing in document.pairings:
            ground = next(iter(pairing.backgrounds), "")
            self.grounds.setdefault(pairing.foreground, []).append(ground)
            self.texts.setdefault(ground, []).append(pairing.foreground)
        self.uses = {key: uses.read(reading.token.uses) for key, reading in readings.items()}
        self.page = self._page()

    def _page(self) -> Named | None:
        """What the sheet fills the page with, most of all."""
        page = Use("background", "page")
        found = [
            (bool(known[0].element), known.index(page), key)
            for key, known in self.uses.items()
            if page in known
        ]
        return self.readings[min(found)[2]] if found else None


def of_use(r: Named, shown: Shown) -> Guess | None:
    """What a color is by its uses; None where they say nothing, or several things."""
    known = shown.uses[r.token.key]
    if not known:
        return None
    if r is shown.page:
        return Guess(Role("page"), PART, "the page is filled with it")
    if Use("text", "page") in known:
        return Guess(Role("text"), PART, "the text of the page")
    parts = {use.part for use in known}
    if parts <= {"shadow"}:
        return Guess(Role("shadow"), PLAIN, "it is the color of a shadow")
    around = [use.state for use in known if use.element]
    if parts <= {"focus", "shadow", "line"} and (
        "focus" in parts or (around and set(around) == {"focus"})
    ):
        return Guess(Role("focus"), PLAIN, "it surrounds what has the focus")
    if parts <= {"text", "icon"}:
        return _text(r, known, shown)
    thin = all(element in _THIN for element in _elements(known, "background"))
    if parts <= {"line", "shadow"} or (
        thin and (r.parts[:1] == ("line",) or _elements(known, "background")[:1] == ["rule"])
    ):
        return _line(known)
    if r.parts[:1] == ("text",) and "link" in _elements(known, "text")[:1]:
        return Guess(
            Role("text", "link", state=_state(known, "text")),
            PLAIN,
            "most of all the text of a link",
        )
    if parts <= {"background", "line", "shadow"}:
        return _ground(r, known, shown)
    return _mixed(r, known)


def _mixed(r: Named, known: Sequence[Use]) -> Guess | None:
    """What is written in a color and filled with it too: an accent, or a status."""
    status = next((use.element for use in known if use.element in STATUSES), "")
    state = _state(known, "background")
    if status:
        return Guess(
            Role("status", "fill", status, state), COLOR, f"used for {status} in several ways"
        )
    if r.chroma >= COLORED and "button" in _elements(known, "background"):
        return Guess(
            Role("fill", "action", state=state), COLOR, "a button is filled with it, among others"
        )
    return None


def _elements(known: Iterable[Use], part: str) -> list[str]:
    return [use.element for use in known if use.part == part and use.element]


def _state(known: Sequence[Use], part: str) -> str:
    """The state in which a color is used most, where it is used in none but states."""
    told = [use for use in known if use.part == part and use.element] or [
        use for use in known if use.part == part and use.state
    ]
    return told[0].state if told and all(use.state for use in told) else ""


def _text(r: Named, known: Sequence[Use], shown: Shown) -> Guess:
    elements = _elements(known, "text")
    state = _state(known, "text")
    if state == "disabled":
        return Guess(Role("text", "disabled"), PART, "the text of what is disabled")
    first = elements[0] if elements else ""
    if first == "placeholder":
        return Guess(Role("text", "hint"), PART, "the text of a placeholder")
    if first in STATUSES:
        return Guess(Role("status", "text", first, state), PLAIN, f"a text of {first}")
    if first == "link":
        rests = Use("text", "link") in known
        sure = PART if rests and not state else PLAIN
        return Guess(Role("text", "link", state=state), sure, "the text of a link")
    grounds = [key for key in shown.grounds.get(r.token.key, ()) if key in shown.readings]
    if first == "button" and grounds:
        return Guess(Role("label", state=state), PLAIN, "the text of a button", grounds[0])
    if first == "small":
        return Guess(Role("text", "quiet", state=state), PLAIN, "the text of small print")
    if first in ("code", "mark", "selection", "tooltip", "switch"):
        return Guess(Role("text"), COLOR, "a text of something else")
    return Guess(Role("text", state=state), PLAIN, "it is used as a text")


def _line(known: Sequence[Use]) -> Guess:
    elements = _elements(known, "line")
    state = _state(known, "line")
    status = next((e for e in elements if e in STATUSES), "")
    if status:
        return Guess(Role("status", "line", status, state), PLAIN, f"a line of {status}")
    if elements and set(elements) <= {"field", "switch"}:
        return Guess(Role("line", "control", state=state), PLAIN, "the line of a field")
    return Guess(Role("line", "soft", state=state), PLAIN, "it is used as a line")


def _ground(r: Named, known: Sequence[Use], shown: Shown) -> Guess | None:
    elements = _elements(known, "background")
    state = _state(known, "background")
    first = elements[0] if elements else ""
    page = shown.page
    ratio = page.ratio(r) if page is not None else 1.0
    if first in ("selection", "scrollbar", "mark", "meter"):
        return Guess(Role("other", state=state), PLAIN, f"the background of {uses.ELEMENTS[first]}")
    if first in STATUSES:
        detail = "fill" if page is not None and ratio >= _STANDS_OUT else "tint"
        return Guess(Role("status", detail, first, state), PLAIN, f"a background of {first}")
    if r.translucent and (state or first not in _SURFACES):
        return Guess(
            Role("overlay", state=state), PLAIN, "a background that lets through what is below"
        )
    alone = set(elements) <= {first, *_THIN}
    if first == "button" and (alone or ratio >= _STANDS_OUT):
        return Guess(Role("fill", "action", state=state), PLAIN, "a button is filled with it")
    if first == "field" and alone:
        return Guess(Role("fill", "field", state=state), PLAIN, "a field is filled with it")
    if page is not None and ratio >= SEEN and r.chroma >= COLORED and first not in _SURFACES:
        return Guess(Role("fill", "accent", state=state), COLOR, "a background that stands out")
    if ratio >= 4.5:
        return Guess(
            Role("surface", "inverse", state=state), COLOR, "a background against the page"
        )
    if not elements and not state and r.token.key not in shown.texts:
        return None  # a color of the palette may be behind anything
    sure = PLAIN if first in _SURFACES else COLOR
    return Guess(Role("surface", state=state, level=1), sure, "it is used as a background")
