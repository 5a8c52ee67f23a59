"""Colors that mean different things: each two that must not become one where they were told apart.

A thing and its hover, sunken and raised surfaces and the page, texts of different weight in one group, and what one part
of different statuses is painted with; only where it is sure what both are for.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from itertools import combinations, islice

from prism.model import grouping
from prism.model.document import Document, Token
from prism.roles.grounds import Guess
from prism.roles.role import Role

#: CIEDE2000 from which two colors side by side are seen as two by most. Common practice, no source: a little over the
#: difference that is just noticed.
TOLD_APART = 2.5
#: Families whose members are one color by mistake; a shadow may set surfaces off, and texts may be alike where
#: contrast is raised.
NEVER_ONE = ("states", "statuses")
#: Pairs that are looked at most; what is left out is said.
MOST = 4_000


@dataclass(frozen=True, slots=True)
class Different:
    """Each two colors that mean different things and are sure to, with the family they differ in; how many colors were
    left out because their role is not sure, and whether there are more pairs than are looked at."""

    pairs: list[tuple[str, Token, Token]]
    unsure: int
    more: bool


def pairs(document: Document, guesses: Mapping[str, Guess]) -> Different:
    """The colors of a document that mean different things, two by two."""
    families: dict[tuple[str, ...], list[tuple[Token, str]]] = {}
    unsure = 0
    placed = grouping.groups(document.tokens)
    for token in document.tokens:
        guess = guesses.get(token.key)
        if token.type != "color" or guess is None:
            continue
        if not guess.is_sure:
            unsure += 1
            continue
        for family, meaning in _families(token, guess, guesses, placed[token.key][-1]):
            families.setdefault(family, []).append((token, meaning))
    found = (
        (family[0], first, second)
        for family, members in families.items()
        for (first, meaning), (second, other) in combinations(members, 2)
        if meaning != other
    )
    looked = list(islice(found, MOST))
    return Different(looked, unsure, next(found, None) is not None)


def _families(
    token: Token, guess: Guess, guesses: Mapping[str, Guess], group: str
) -> Iterator[tuple[tuple[str, ...], str]]:
    """The families a color belongs to, each with what tells it from the others in it."""
    role = guess.role
    plain = guesses.get(guess.belongs_to) if role.state else None
    if plain is not None and role.state == "hover" and _alike(plain.role, role):
        yield ("states", guess.belongs_to), role.state
    elif not role.state:
        yield ("states", token.key), ""
    if role.kind in ("page", "surface") and not role.detail and not role.state:
        # A shadow sets off what is raised.
        yield ("levels",), "sunken" if role.level < 0 else role.kind
    if role.kind == "status" and not role.state:
        yield ("statuses", role.detail), role.status
    if role.kind == "text" and not role.state and role.detail in ("", "quiet", "hint", "link"):
        yield ("texts", group), role.detail


def _alike(plain: Role, state: Role) -> bool:
    return (plain.kind, plain.detail, plain.status) == (state.kind, state.detail, state.status)
