"""What stands on things: texts, labels and icons, with what they belong to."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from prism.roles.evidence import Named
from prism.roles.grounds import COLOR, COLORED, NAME, PART, PLAIN, SEEN, Grounds, Guess
from prism.roles.lexicon import SOFT, meanings_of
from prism.roles.role import Role, known

#: Words for what stands on the thing that the rest of the name says.
ON = frozenset(("on", "content", "foreground", "fg", "contrast", "label"))
#: A text that is called none of these is meant for what it is read on, at least as large text.
READ = 3.0
#: Abbreviations of two letters or three may stand for other words.
_TERSE = frozenset(("tx", "lk", "lnk", "ac", "acc"))
_PARTS = ("surface", "text", "label", "icon", "fill", "line", "ring", "overlay", "shadow")


def carrying(readings: Sequence[Named]) -> frozenset[tuple[str, ...]]:
    """The names, as words, of colors that others are named to stand on and are seen on: ``secondary``
    beside ``on-secondary`` or ``secondary-content``. Names that say a part of their own are left out."""
    plain = {r.words: r for r in readings if not r.has(*_PARTS)}
    return frozenset(
        rest
        for reading in readings
        if not ON.isdisjoint(reading.words)
        and (rest := _without_on(reading)) in plain
        and reading.ratio(plain[rest]) >= SEEN
    )


def _without_on(reading: Named) -> tuple[str, ...]:
    return tuple(word for word in reading.words if word not in ON)


def is_writing(reading: Named) -> bool:
    """Whether a name speaks of a text, a label or an icon, or a person says it is one."""
    role = known(reading.token.role)
    if role is not None:
        return role.kind in ("text", "label", "icon") or (role.kind, role.detail) == (
            "status",
            "text",
        )
    if reading.token.type != "color" or reading.has("shadow", "chart"):
        return False
    if reading.used:
        return reading.used in ("text", "icon", "label")
    if reading.has("focus") and reading.has("line", "ring"):
        return False
    surface = max(reading.last("surface"), reading.last("fill"))
    writing = max(reading.last("text"), reading.last("icon"))
    if "on" in reading.words[:-1] or (reading.has("label") and surface < reading.last("label")):
        return True
    if reading.has("hint", "link") and surface < 0 and not reading.has("line", "action"):
        return True
    if reading.has("line") and reading.last("line") > writing:
        return False
    if writing >= 0 and surface >= 0 and reading.words[writing] == "body":
        return False  # the page
    pale = surface >= 0 and reading.meanings[surface] <= {"soft"}
    return writing >= 0 and (writing > surface or pale)


def beside_backgrounds(readings: Sequence[Named]) -> set[str]:
    """Texts that are called by their place alone, as CSS calls them, beside the background there:
    ``hint-color`` and ``hint-background``."""
    grounds = {r.stem for r in readings if r.has("surface") and r.stem}
    return {
        r.token.key
        for r in readings
        if not r.has_part
        and r.has("card", "floating", "modal", "tooltip", "field")
        and "nothing" in r.all
        and r.stem in grounds
    }


def _of_status(r: Named, page: Named | None, ground: tuple[Named, Guess] | None) -> Guess:
    """The role of a text whose name speaks of a status: of that status, or a label on what it belongs to."""
    kept = Guess(Role("status", "text", r.status, r.state), NAME, "a text of a status")
    if ground is None:
        return kept
    below, belongs = ground[1].role, ground[0].token.key
    label, ratio = Role("label", state=r.state), r.ratio(ground[0])
    if "contrast" in r.words:
        return Guess(label, PART, "the contrast of a fill", belongs)
    on_fill = (below.kind, below.detail) == ("status", "fill")
    if on_fill and (r.has("label") or ratio >= READ):
        return Guess(label, PART, "stands on a full status", belongs)
    unseen = page is not None and r.ratio(page) < 2 and ratio > 1.5 * r.ratio(page)
    if unseen and (on_fill or ratio >= SEEN):
        return Guess(label, PLAIN, "seen on a status alone", belongs)
    named_on = not ON.isdisjoint(r.words) and ground[0].words == _without_on(r)
    if named_on and below.detail in ("fill", "text") and ratio >= SEEN:
        return Guess(label, PART, "stands on a status", belongs)
    return replace(kept, belongs_to=belongs) if below.detail == "tint" else kept


def of_writing(r: Named, grounds: Grounds, page: Named | None) -> Guess:
    """The role of a text, a label or an icon."""
    ground = grounds.under(r)
    belongs = ground[0].token.key if ground else ""
    below = ground[1].role if ground else None
    if r.has("icon"):
        state = r.state
        return Guess(Role("icon", state=state), NAME, "its name says icon", belongs)
    if r.used == "icon":
        return Guess(Role("icon", state=r.state), PLAIN, "it is used as an icon", belongs)
    if r.has("other"):
        sure = PLAIN if r.has("text") else PART
        return Guess(Role("other", state=r.state), sure, "its name says something else")
    if r.status and not r.has("action"):
        return _of_status(r, page, ground)
    if below is not None and _is_label(r, ground, below):
        if below.kind == "surface":
            return Guess(Role("text", "inverse"), NAME, "stands on its surface", belongs)
        disabled = "disabled" if r.state == "disabled" else r.state
        return Guess(Role("label", state=disabled), NAME, "stands on its fill", belongs)
    own = belongs if below is not None and below.kind == "surface" else ""
    if own and page is not None and _only_strength(r) and r.ratio(page) >= SEEN:
        own = ""  # “text secondary” beside “bg secondary” is a quieter text, on the page too
    return _text(r, page, own, grounds.seen_on_dark(r))


def _only_strength(r: Named) -> bool:
    """Whether the words that a text shares with what it could stand on say only how strong both are."""
    stem = [meanings_of(word) for word in r.stem - {"on"}]
    return bool(stem) and all(m and m <= {"quiet", "soft", "strong", "main"} for m in stem)


def _is_label(r: Named, ground: tuple[Named, Guess] | None, below: Role) -> bool:
    if ground is None:
        return False
    if below.kind == "fill":
        if below.detail == "field":
            return False
        explicit = r.has("label") or "on" in r.words or r.has("action")
        if not explicit and -1 < r.last("text") < r.last("quiet"):
            return False  # a quiet text, as “text secondary”, and no label on the second fill
        return explicit or r.ratio(ground[0]) >= SEEN
    return below.kind == "surface" and below.detail in ("inverse", "colored")


def _detail(r: Named) -> str:
    """Which text its name says it is; empty for the main one."""
    if r.state == "disabled":
        return "disabled"
    for detail in ("inverse", "link", "hint"):
        if r.has(detail):
            return detail
    if r.has("quiet") or not SOFT.isdisjoint(r.words):
        return "quiet"
    return "link" if r.has("accent") and r.chroma >= COLORED else ""


def _text(r: Named, page: Named | None, belongs: str, elsewhere: bool) -> Guess:
    """The role of a text; ``elsewhere`` tells that it is seen on a surface against the page."""
    state = "" if r.state == "disabled" else r.state
    detail = _detail(r)
    sure = NAME if r.has("text") else PART
    if r.has("accent") and not r.has("link"):
        sure = PLAIN  # its color decided, or it is a text on what is accented
    if not _TERSE.isdisjoint(r.words):
        sure = PLAIN
    if not detail and elsewhere and page is not None and r.ratio(page) < 2:
        return Guess(
            Role("text", "inverse", state=state), COLOR, "hardly seen on the page", belongs
        )
    if "on" in r.words and r.has("surface", "page"):
        return Guess(Role("text", detail, state=state), PART, "stands on surfaces", belongs)
    if r.has("label") and not r.has("text"):
        return Guess(Role("label", state=r.state), COLOR, "its name says label", belongs)
    role, why = Role("text", detail, state=state), "its name says text"
    if r.used:
        return Guess(role, PLAIN, "it is used as a text", belongs)
    if r.parts and "text" not in r.parts:
        return Guess(role, COLOR, f"{why}, and it is used otherwise", belongs)
    if r.has("button"):
        return Guess(role, PLAIN, f"{why}, and button", belongs)
    if state and "active" in r.words:
        return Guess(role, PLAIN, f"{why}; active is pressed or chosen", belongs)
    unknown = [
        held
        for word, held in zip(r.words, r.meanings, strict=True)
        if word in r.stem and not word.isdigit()
    ]
    if unknown and not any(unknown):
        return Guess(role, PLAIN, f"{why}, of something unknown", belongs)
    return Guess(role, sure, why, belongs)
