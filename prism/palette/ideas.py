"""Ideas for palettes: what is asked, what comes back, and taking one into a document.

Whatever makes ideas stands behind ``IdeaSource``; the one that ships is
``studio.standins.word_ideas``.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal, Protocol, cast

from prism.color import space
from prism.errors import EditError
from prism.model.document import Document, Ramp
from prism.palette import purposes, ramp_edits, recipes
from prism.palette.ramp_edits import NewKey
from prism.resolution.current import resolver_of
from prism.roles.by_slot import by_slot
from prism.roles.guess import guess

Role = Literal["neutral", "main", "second", "accent", "quiet"]
#: What each color of an idea is there for, in order, and the purpose its ramp gets.
ROLES: Mapping[Role, str] = {
    "neutral": "ink",
    "main": "identity",
    "second": "identity",
    "accent": "identity",
    "quiet": "extra",
}
#: The slots of a scene whose color says which ramp plays a role now.
_PLAYED_BY: Mapping[Role, tuple[str, ...]] = {
    "neutral": ("ink", "page"),
    "main": ("action",),
    "accent": ("highlight", "focus"),
}
LEAVE, NEW = "leave", "new"
_NONE = space.Color("srgb", (0.0, 0.0, 0.0))


@dataclass(frozen=True, slots=True)
class NamedColor:
    """A color of an idea."""

    role: Role
    name: str
    color: space.Color


def named_color(role: str, name: str, text: str) -> NamedColor:
    """A color of an idea from texts. Raises ``EditError`` for a role that there is not."""
    known = next((known for known in ROLES if known == role), None)
    if known is None:
        raise EditError(f"“{role[:20]}” is not a role of an idea.")
    return NamedColor(known, name, space.parse(text))


@dataclass(frozen=True, slots=True)
class Brief:
    """What is asked: words, colors that are held, and the idea (by key) to be like, if any."""

    words: str
    held: tuple[NamedColor, ...] = ()
    like: str = ""


@dataclass(frozen=True, slots=True)
class Idea:
    """One set of named colors, one for each role. ``key`` finds it again for the same brief."""

    key: str
    title: str
    colors: tuple[NamedColor, ...]


class IdeaSource(Protocol):
    """What makes ideas. ``notice`` says in one sentence what it is."""

    notice: str

    def ideas(self, brief: Brief) -> tuple[Idea, ...]:
        """Several ideas for a brief; the same ones for the same brief."""
        ...


def plan(document: Document, idea: Idea) -> dict[str, str]:
    """For each role what its color does by default: the key of the ramp it stands in for, or
    ``new`` for a ramp beside those there are."""
    choices = dict.fromkeys(ROLES, NEW)
    resolver = resolver_of(document)
    slots = by_slot(document, guess(document, resolver))
    taken: set[str] = set()
    for role, names in _PLAYED_BY.items():
        for name in names:
            key = slots.get(name)
            hops = resolver.trace(key, resolver.default_theme) if key else []
            ramp = ramp_edits.ramp_with(document, hops[-1].token) if hops else None
            if ramp is not None and ramp.key not in taken:
                choices[role] = ramp.key
                taken.add(ramp.key)
                break
    return {color.role: choices[color.role] for color in idea.colors}


def present(document: Document) -> tuple[NamedColor, ...]:
    """The colors that play a role now, each the seed of its ramp or its most colorful step."""
    colors = []
    nobody = Idea("", "", tuple(NamedColor(role, "", _NONE) for role in ROLES))
    for role, key in plan(document, nobody).items():
        ramp = document.ramp(key)
        if ramp is not None and ramp.steps:
            seed = space.parse_function(ramp_edits.proposed(document, ramp)["seed"])
            colors.append(NamedColor(cast("Role", role), ramp.name, space.fit(seed, "srgb")))
    return tuple(colors)


def take(document: Document, idea: Idea, planned: Mapping[str, str], new_key: NewKey) -> Document:
    """The document with a ramp for every color of an idea that is not left out.

    Where a color stands in for a ramp, its own ramp has as many steps of the same names, and
    everything that referred to the old one refers to it. The old ramp stays.
    """
    changed = document
    for color in idea.colors:
        where = planned.get(color.role, LEAVE)
        if where == LEAVE:
            continue
        old = None if where == NEW else ramp_edits.ramp_of(document, where)
        name = ramp_edits.free_name(changed, color.name)
        changed = ramp_edits.add_ramp(
            changed,
            name,
            _fields(color, old),
            new_key,
            names=_names(document, old),
            purpose=old.purpose if old else _purpose(document, ROLES[color.role]),
        )
        if old is not None:
            changed = ramp_edits.replace_ramp(changed, old.key, changed.ramps[-1].key)
    if changed is document:
        raise EditError("Every color is left out.", fix="Choose what at least one of them does.")
    return changed


def _fields(color: NamedColor, old: Ramp | None) -> dict[str, str]:
    """The recipe of the ramp that is stood in for, with another seed."""
    fields = dict(old.parameters) if old else {}
    fields["seed"] = space.hex_text(color.color)
    if old and not old.parameters:
        fields["count"] = str(len(old.steps))
    fields |= {"drift-light": "0", "drift-dark": "0", "gamut": "srgb", "tint": "1"}
    return dict(recipes.complete(fields))


def _names(document: Document, old: Ramp | None) -> str:
    names: Sequence[str] = [ramp_edits.leaf(document, key) for key in old.steps] if old else []
    plain = all(name and not any(sign in name for sign in " ,;") for name in names)
    return " ".join(names) if plain else ""


def _purpose(document: Document, key: str) -> str:
    return key if any(purpose.key == key for purpose in purposes.of(document)) else ""
