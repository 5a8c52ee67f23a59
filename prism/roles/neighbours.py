"""What neighbours say of a color: plain states, labels beside fills, statuses by themselves, scenes."""

from __future__ import annotations

from collections.abc import Collection, Mapping, Sequence
from dataclasses import replace

from prism.model.document import Document
from prism.roles.evidence import Named
from prism.roles.grounds import PART, PLAIN, Guess
from prism.roles.role import Role, read

#: Why a status is what it is where nothing but its name says so.
BY_ITSELF = "a status by itself"


_Plain = dict[tuple[frozenset[str], str, str], str]


def plain_states(readings: Sequence[Named], guesses: Mapping[str, Guess]) -> _Plain:
    """The tokens without a state, by their stem and role."""
    plain: _Plain = {}
    for reading in readings:
        if not reading.state:
            role = guesses[reading.token.key].role
            plain.setdefault((reading.stem, role.kind, role.detail), reading.token.key)
    return plain


def with_rest(r: Named, known: Guess, plain: _Plain) -> Guess:
    """A state with the plain state that it belongs to."""
    if not r.state or known.belongs_to or known.role.kind in ("unknown", "focus"):
        return known
    rest = plain.get((r.stem, known.role.kind, known.role.detail), "")
    return replace(known, belongs_to=rest)


#: What the slots of scenes say of what a person bound to them.
_BY_SLOT = {
    "page": "page", "card": "surface", "raised": "surface", "sunken": "surface", "ink": "text",
    "muted": "text quiet", "faint": "text hint", "link": "text link", "line": "line soft",
    "line-strong": "line strong", "action": "fill action", "action-label": "label",
    "highlight": "fill accent", "highlight-label": "label", "veil": "overlay", "focus": "focus",
    "go": "status text success", "wait": "status text warning", "stop": "status text error",
    "note": "status text information",
}  # fmt: skip


def bound(document: Document, made: Mapping[str, Guess]) -> dict[str, Guess]:
    """What is unknown and was bound to a slot of a scene."""
    return {
        key: Guess(read(_BY_SLOT[slot]), PART, f"bound to {slot} on {scene.name or 'a scene'}")
        for scene in document.scenes
        for slot, key in scene.bindings
        if slot in _BY_SLOT and key in made and made[key].role.kind == "unknown"
    }


def carrier(r: Named, carried: Collection[tuple[str, ...]]) -> Guess | None:
    """A color whose name says little and that another is named to stand on is a fill."""
    if r.words not in carried or r.status or r.has("action", "accent", "card", "field", "page"):
        return None
    return Guess(
        Role("fill", "action", state=r.state), PLAIN, "another color is named as its label"
    )


def with_text(
    readings: Sequence[Named], known: Mapping[str, Guess], writing: Collection[str]
) -> set[str]:
    """The statuses that have a text among some tokens."""
    return {
        reading.status
        for reading in readings
        if reading.token.key in writing and known[reading.token.key].role.kind == "status"
    }


def alone(
    readings: Sequence[Named],
    made: Mapping[str, Guess],
    every: Mapping[str, Guess],
    written: Collection[str],
) -> dict[str, Guess]:
    """Statuses by themselves that are fills, with their states: where a label stands on one, or where the text of
    its status is another token, as ``written`` says."""
    alone = [r for r in readings if made[r.token.key].why == BY_ITSELF]
    if not alone:
        return {}
    labelled = {known.belongs_to for known in every.values() if known.role.kind == "label"}
    fills = {r.token.key for r in alone if r.token.key in labelled or r.status in written}
    fills |= {r.token.key for r in alone if r.state and made[r.token.key].belongs_to in fills}
    why = "a label or a text of its status stands beside it"
    return {
        r.token.key: replace(
            made[r.token.key],
            role=replace(made[r.token.key].role, detail="fill"),
            sure=PART,
            why=why,
        )
        for r in alone
        if r.token.key in fills
    }
