"""Roles guessed from names, neighbours and colors, each with how sure it is and why."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence, Set
from dataclasses import dataclass, replace

from prism.model.document import Document
from prism.resolution.resolver import Resolver
from prism.roles.by_use import Shown, of_use
from prism.roles.evidence import Named, named
from prism.roles.grounds import BY_HAND as BY_HAND
from prism.roles.grounds import COLOR, COLORED, NAME, PART, PLAIN, STRONG, Grounds, Guess
from prism.roles.labels import ON, beside_backgrounds, carrying, is_writing, of_writing
from prism.roles.neighbours import (
    BY_ITSELF,
    alone,
    bound,
    carrier,
    plain_states,
    with_rest,
    with_text,
)
from prism.roles.role import UNKNOWN, Role
from prism.roles.role import known as known_role
from prism.roles.said_words import with_words

#: Roles of what the uses alone say.
_BY_USE: Mapping[str, Role] = {
    "surface": Role("surface"),
    "fill": Role("fill", "action"),
    "line": Role("line", "soft"),
    "ring": Role("focus"),
    "focus": Role("focus"),
    "shadow": Role("shadow"),
}
#: Words for what is no surface, whatever else a name says.
_ELSE = frozenset(("scrollbar", "thumb", "caret", "cursor"))
_LEVELS = (("sunken", -1), ("modal", 4), ("floating", 3), ("raised", 2), ("card", 1))


@dataclass(frozen=True, slots=True)
class Guesses:
    """The guesses of a document by token key, and what they were made from: what names and colors say,
    the tokens that are writing, and the key of the page; empty without one. ``by_stem`` are the keys of
    tokens of the same words, ``against`` those of surfaces against the page."""

    all: dict[str, Guess]
    readings: Mapping[str, Named]
    writing: frozenset[str]
    page: str
    by_stem: Mapping[frozenset[str], Sequence[str]]
    against: Sequence[str]
    carried: frozenset[tuple[str, ...]]


def guess(document: Document, resolver: Resolver) -> dict[str, Guess]:
    """A guess for every color and shadow that is no step of a palette, by token key."""
    return guesses(document, resolver).all


def guesses(document: Document, resolver: Resolver) -> Guesses:
    """As ``guess``, with what was read for it."""
    own = {word.key: frozenset((word.meaning,)) for word in document.words}
    readings = {reading.token.key: reading for reading in named(document, resolver, own)}
    every = list(readings.values())
    page = _page_of(every)
    carried = carrying(every)
    writing = frozenset(
        r.token.key for r in every if is_writing(r) and (r.token.role or r.words not in carried)
    )
    writing |= beside_backgrounds(every)
    made = _guessed(every, writing, page, Grounds(), carried)
    made |= bound(document, made)
    made |= alone(every, made, made, with_text(every, made, writing))
    made |= _shown(Shown(document, readings), made)
    made |= with_words(made, readings, document.words)
    by_stem: dict[frozenset[str], list[str]] = {}
    for reading in every:
        by_stem.setdefault(_kin(reading), []).append(reading.token.key)
    against = [key for key, known in made.items() if known.role.is_against]
    of_page = page.token.key if page else ""
    return Guesses(made, readings, writing, of_page, by_stem, against, carried)


def following(document: Document, resolver: Resolver, before: Guesses, keys: Set[str]) -> Guesses:
    """The guesses of a document that differs from the one before in the values of the tokens ``keys``
    alone: those of the same words are made again. All are, where a color decides for others too: that
    of the page, of a surface against it, or one that lets through what it let not before."""
    theme = resolver.default_theme
    changed: dict[str, Named] = {}
    for key in keys & before.readings.keys():
        token, color = document.token(key), resolver.resolve(key, theme).color
        assert token is not None
        changed[key] = replace(before.readings[key], token=token, color=color)
    readings = {**before.readings, **changed}
    stems = {_kin(reading) for reading in changed.values()}
    group = [readings[key] for stem in stems for key in before.by_stem[stem]]
    grounds = Grounds()
    grounds.add([readings[key] for key in before.against], before.all)
    made = _guessed(group, before.writing, readings.get(before.page), grounds, before.carried)
    made |= bound(document, made)
    now = {**before.all, **made}
    written = with_text(group, made, before.writing)
    was = [before.readings[reading.token.key] for reading in group]
    told = written, carrying(group)
    if told != (with_text(was, before.all, before.writing), carrying(was)) or any(
        key == before.page
        or reading.translucent != before.readings[key].translucent
        or reading.token.belongs_to
        or before.all[key].role.is_against
        or now[key].role.is_against
        for key, reading in changed.items()
    ):
        return guesses(document, resolver)
    if any(known.why == BY_ITSELF for known in made.values()):
        every = list(readings.values())
        now |= alone(group, made, now, with_text(every, now, before.writing))
    shown = Shown(document, readings)
    if shown.page is not None and shown.page.token.key in keys:
        return guesses(document, resolver)
    now |= _shown(shown, {key: now[key] for key in made})
    now |= with_words({key: now[key] for key in made}, readings, document.words)
    return replace(before, all=now, readings=readings)


def _shown(shown: Shown, made: Mapping[str, Guess]) -> dict[str, Guess]:
    """What is unknown, or called by no word that says what it is for, and is used in the style sheet of the document."""
    unsaid = [
        key
        for key, known in made.items()
        if shown.uses[key]
        and (
            known.role.kind == "unknown"
            or (shown.readings[key].says_nothing and known.why != BY_HAND)
        )
    ]
    found = {key: of_use(shown.readings[key], shown) for key in unsaid}
    return {
        key: replace(known, belongs_to=made[key].belongs_to or known.belongs_to)
        for key, known in found.items()
        if known is not None
    }


def _kin(reading: Named) -> frozenset[str]:
    """The words that tokens share whose roles depend on each other."""
    return reading.stem - ON - {*STRONG}


def _guessed(
    readings: Sequence[Named],
    writing: Collection[str],
    page: Named | None,
    grounds: Grounds,
    carried: Collection[tuple[str, ...]],
) -> dict[str, Guess]:
    """The guesses of some tokens: of grounds first, then of what stands on them, with the plain states
    and the owners that belong to them. ``grounds`` are others that are known."""
    made: dict[str, Guess] = {}
    for reading in readings:
        if reading.token.key not in writing:
            made[reading.token.key] = (
                _by_hand(reading) or carrier(reading, carried) or _ground(reading, page)
            )
    grounds.add(readings, made)
    for reading in readings:
        if reading.token.key in writing:
            known = of_writing(reading, grounds, page)
            by_hand = _by_hand(reading)
            made[reading.token.key] = (
                replace(by_hand, belongs_to=known.belongs_to) if by_hand else known
            )
    plain = plain_states(readings, made)
    for reading in readings:
        key, owner = reading.token.key, reading.token.belongs_to
        known = with_rest(reading, made[key], plain)
        made[key] = replace(known, belongs_to=owner) if owner else known
    return {reading.token.key: made[reading.token.key] for reading in readings}


def _by_hand(reading: Named) -> Guess | None:
    """The role that a person says the token has."""
    role = known_role(reading.token.role)
    return Guess(replace(role, level=_level(reading)), 1.0, BY_HAND) if role else None


def _page_of(readings: Sequence[Named]) -> Named | None:
    """The token that everything stands on: the surface that is called a page, or else the one with
    the plainest name."""
    surfaces = [
        r
        for r in readings
        if r.has("surface", "page")
        and not r.translucent
        and not r.state
        and not r.has("inverse", "status", "action", "field", "line", "icon", "label", "link")
        and not r.status
        and not is_writing(r)
    ]
    places = [r for r in surfaces if r.has("page")]
    told = [r for r in readings if r.token.role == "page"]
    if told:
        return told[0]
    if places:
        return min(places, key=lambda r: (not r.has("surface"), len(r.words)))
    bare = [r for r in surfaces if not _level(r) and not r.has("accent", "card")]
    return min(bare, key=lambda r: (len(r.stem), len(r.words)), default=None)


def _level(reading: Named) -> int:
    return next((level for word, level in _LEVELS if reading.has(word)), 0)


# --- What things stand on, and lines -----------------------------------------------------------


def _ground(reading: Named, page: Named | None) -> Guess:
    """The role of what is no writing."""
    r = reading
    if r.token.type == "shadow" or r.has("shadow"):
        return Guess(Role("shadow"), NAME, "its name says shadow")
    if r.has("chart"):
        return Guess(Role("chart"), NAME, "its name says chart")
    if r.has("overlay") and (r.translucent or not r.has("surface")):
        role = Role("overlay", state=r.state)
        return Guess(role, NAME if r.translucent else COLOR, "its name says overlay")
    if r.has("focus") and (r.has("line", "ring") or not r.has("surface", "fill")):
        return Guess(Role("focus"), NAME, "its name says focus")
    if r.has("ring") and not r.has("surface", "fill", "line"):
        return Guess(Role("focus"), PLAIN, "a ring is drawn around what has the focus")
    if "selection" in r.words or (r.has("other") and not r.has("line", "surface")):
        return Guess(Role("other", state=r.state), PART, "its name says something else")
    if (r.status and not r.has("action")) or r.has("status"):
        return _status(r, page)
    if not _ELSE.isdisjoint(r.words):
        return Guess(Role("other", state=r.state), PART, "its name says something else")
    if r.has("line"):
        return _line(r)
    if r is page:
        if r.has("page"):
            return Guess(Role("page"), NAME, "its name says page")
        return Guess(Role("page"), PLAIN, "the plainest of the surfaces")
    return _surface(r, page)


def _line(r: Named) -> Guess:
    detail = "soft"
    if r.has("field"):
        detail = "control"
    elif r.has("strong") or ("outline" in r.words and len(r.words) == 1):
        detail = "strong" if r.has("strong") else "control"
    return Guess(Role("line", detail, state=r.state), NAME, "its name says line")


def _surface(r: Named, page: Named | None) -> Guess:
    part = r.has("surface", "fill")
    leads = r.has("strong", "main", "quiet") or "contrast" in r.words
    if r.has("surface") and leads and page is not None and r.ratio(page) >= 3:
        else_of = ("inverse", "tooltip", "page", *(word for word, _ in _LEVELS))
        if r.has("strong") or not r.has("accent", *else_of):
            return Guess(Role("fill", "action", state=r.state), PLAIN, "seen on the page")
    if r.has("field"):
        return Guess(Role("fill", "field", state=r.state), NAME if part else COLOR, "a field")
    if r.has("action"):
        clear = PART if r.has("button") else PLAIN
        return Guess(Role("fill", "action", state=r.state), NAME if part else clear, "an action")
    if r.has("accent"):
        return _accent(r, page)
    if r.has("inverse", "tooltip") and (r.has("surface") or r.has("inverse")):
        against = page is None or page.color is None or r.ratio(page) >= 4.5
        if r.has("inverse") or against:
            return Guess(Role("surface", "inverse", state=r.state), NAME, "stands against the page")
    if r.has("surface", "card", "raised", "floating", "modal", "sunken"):
        role = Role("surface", state=r.state, level=_level(r))
        sure = COLOR if r.translucent else NAME if r.has("surface") else PART
        if r.parts[:1] == ("line",):
            sure = PLAIN  # its sheet draws lines with it first
        if page is not None and _telling(r) == _telling(page):
            return Guess(role, PLAIN, "its name is like that of the page")
        return Guess(role, sure, "its name says surface")
    return _plain(r)


def _accent(r: Named, page: Named | None) -> Guess:
    if not r.has("surface"):
        pale = r.translucent or (page is not None and r.ratio(page) < 1.3)
        if pale and r.parts == ("background",):
            return Guess(Role("surface", state=r.state, level=1), COLOR, "close to the page")
        return Guess(Role("fill", "accent", state=r.state), PLAIN, "its name says accent")
    colored = r.chroma >= COLORED and (page is None or r.ratio(page) >= 2)
    role = Role("surface", "colored" if colored else "", state=r.state, level=1)
    return Guess(role, PLAIN, "a surface, by its color")


def _plain(r: Named) -> Guess:
    """A color whose name says little: by its state, or by what it is used for."""
    if r.has("fill"):
        return Guess(Role("fill", "action", state=r.state), COLOR, "its name says fill")
    if r.state == "disabled":
        return Guess(Role("fill", "", state="disabled"), 0.5, "its name says disabled")
    if r.has("page"):
        return Guess(Role("surface", state=r.state), COLOR, "its name says page")
    if r.used:
        role = replace(_BY_USE[r.used], state=r.state)
        if r.translucent and r.state and role.kind == "surface":
            return Guess(
                Role("overlay", state=r.state), PLAIN, "a state that lets through what is below"
            )
        return Guess(role, PLAIN, f"it is used as a {r.used}")
    if r.has("quiet", "soft"):
        return Guess(UNKNOWN, 0.2, "its name says only how strong it is")
    return Guess(UNKNOWN, 0.0, "its name says nothing")


def _telling(r: Named) -> list[str]:
    """The words of a name without those that say nothing, as ``color``."""
    return [word for word, held in zip(r.words, r.meanings, strict=True) if "nothing" not in held]


def _status(r: Named, page: Named | None) -> Guess:
    """The role of a status without a word for text."""
    status = r.status
    if not status:
        if r.has("line"):
            return _line(r)
        if r.has("surface"):
            return Guess(Role("surface", state=r.state, level=1), COLOR, "a surface of messages")
        return Guess(UNKNOWN, 0.2, "it does not say which status")
    if r.has("line"):
        return Guess(Role("status", "line", status, r.state), NAME, "a line of a status")
    pale = page is not None and r.ratio(page) < 1.7
    if (r.has("soft") and not r.has("fill", "strong")) or (r.has("soft") and pale):
        return Guess(Role("status", "tint", status, r.state), NAME, "a soft status")
    if r.has("fill", "strong"):
        return Guess(Role("status", "fill", status, r.state), NAME, "a full status")
    if pale or r.translucent:
        return Guess(Role("status", "tint", status, r.state), COLOR, "close to the page")
    if "background" in r.parts:
        return Guess(Role("status", "fill", status, r.state), COLOR, "it is used as a background")
    return Guess(Role("status", "text", status, r.state), 0.7, BY_ITSELF)
