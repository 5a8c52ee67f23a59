"""Whether a color is written and drawn, or lies under what is."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping

from prism.model.document import Document
from prism.roles.grounds import Guess

INK = ("text", "label", "icon", "line", "focus")
GROUND = ("page", "surface", "fill", "overlay")
#: Uses of pairings whose foreground is read.
READ = ("text", "large text")


def taken_otherwise(
    document: Document, roles: Mapping[str, Guess], targets: Callable[[str], Iterable[str]]
) -> dict[str, tuple[str, ...]]:
    """The tokens above the raw tier that semantic ones take for another use, by key, each with the keys of those
    that take them. ``targets`` gives the keys that a token refers to."""
    users_of: dict[str, list[str]] = {}
    sides = {key: of for key in roles if (of := side(roles, key))}
    for token in document.tokens:
        own = sides.get(token.key)
        if own is None or token.tier != "semantic":
            continue
        for target_key in targets(token.key):
            target = document.token(target_key)
            if target is None or target.tier == "raw" or target_key == token.key:
                continue
            other = sides.get(target_key)
            if other and other != own:
                users_of.setdefault(target_key, []).append(token.key)
    return {key: tuple(users) for key, users in users_of.items()}


def side(roles: Mapping[str, Guess], key: str) -> str:
    """``ink`` for what is written or drawn, ``ground`` for what lies under it, else empty."""
    known = roles.get(key)
    if known is None or not known.is_sure:
        return ""
    role = known.role
    if role.kind in INK or (role.kind == "status" and role.detail in ("text", "line")):
        return "ink"
    if role.kind in GROUND or (role.kind == "status" and role.detail in ("fill", "tint")):
        return "ground"
    return ""
