"""What a word of the project's own says of a color, and which guesses go with it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from prism.model.document import Word
from prism.roles.evidence import Name, Named
from prism.roles.grounds import BY_HAND, PART, PLAIN, Guess
from prism.roles.role import STATES, STATUSES, Role

#: The roles that meanings stand for.
ROLES: Mapping[str, Role] = {
    "surface": Role("surface"),
    "page": Role("page"),
    "text": Role("text"),
    "action": Role("fill", "action"),
    "line": Role("line"),
    "overlay": Role("overlay"),
    "icon": Role("icon"),
    "focus": Role("focus"),
    "accent": Role("fill", "accent"),
    "label": Role("label"),
    "link": Role("text", "link"),
    "field": Role("fill", "field"),
    "shadow": Role("shadow"),
    "chart": Role("chart"),
}


def says(meaning: str, role: Role) -> bool:
    """Whether a role is what a meaning says."""
    if meaning in STATES:
        return role.state == meaning
    if meaning in STATUSES:
        return role.status == meaning
    wanted = ROLES.get(meaning)
    if wanted is not None:
        return role.kind == wanted.kind and (not wanted.detail or role.detail == wanted.detail)
    return role.detail == meaning


def with_words(
    made: Mapping[str, Guess], readings: Mapping[str, Named], words: tuple[Word, ...]
) -> dict[str, Guess]:
    """Guesses that a word of the project's own says: sure where nothing else in the name is unknown, and not sure where
    it has a word that nobody knows, which may say that it is a quieter one, or another state."""
    own = {word.key: word.meaning for word in words if word.meaning in ROLES}
    found: dict[str, Guess] = {}
    for key, known in made.items() if own else ():
        name = readings[key].name
        said = next((w for w in name.words if w in own and says(own[w], known.role)), "")
        unknown = _unknown(name)
        if said and known.is_sure == bool(unknown) and known.why != BY_HAND:
            why = f"“{said}” means {own[said]} in this project"
            if unknown:
                found[key] = replace(known, sure=PLAIN, why=f"{why}, and “{unknown}” is not known")
            else:
                found[key] = replace(known, sure=PART, why=why)
    return found


def _unknown(name: Name) -> str:
    """The first word of a name that nobody knows; empty where there is none."""
    pairs = zip(name.words, name.meanings, strict=True)
    return next((word for word, held in pairs if not held and not word.isdigit()), "")
