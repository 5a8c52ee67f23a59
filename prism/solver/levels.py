"""Levels of elevation in a mode made of another: they get lighter as they rise, stay in order
and apart, and what is read on them can still be read.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from prism.color import space
from prism.color.contrast import relative_luminance
from prism.expressions.typed_input import reference_to
from prism.expressions.values import references
from prism.model.document import Document, Pairing, Token
from prism.model.values import Expression, Value
from prism.palette.mapping import is_rung, ladder_of
from prism.palette.ramp_edits import is_of_palette
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver, Theme
from prism.roles.grounds import Guess
from prism.roles.lexicon import words_of
from prism.roles.role import Role

#: Place of the page among the levels; a surface of another name lies one above it, as a card does.
_PAGE = 1


@dataclass(frozen=True, slots=True)
class Levels:
    """The surfaces of a document by token key with how high each lies, and the colors they may
    take, by key, lightest first; ``used`` is the place of the lightest one they take now."""

    ranks: Mapping[str, int]
    shades: tuple[str, ...]
    used: int

    @property
    def first(self) -> str:
        """The key of the first surface above the page, on which most things lie; empty for none."""
        return next((key for key, height in self.ranks.items() if height == _PAGE + 1), "")


def find(resolver: Resolver, theme: Theme, guesses: Mapping[str, Guess]) -> Levels | None:
    """The surfaces that stand on one ladder, the one most of them stand on, on white or black, or
    between two shades of these. None where fewer than two do.
    """
    document = resolver.document
    standing: list[tuple[Token, Value]] = []
    for token in document.tokens:
        if token.tier != "semantic" or not _is_level(guesses.get(token.key)):
            continue
        won = resolver.winner(token.key, theme)
        answer = resolver.resolve(token.key, theme).color
        if won is None or answer is None or answer.alpha < 1:
            continue
        named = [document.token_at(path) for path in references(won[1], token.type)]
        if all(target is not None and is_rung(document, target) for target in named):
            standing.append((token, won[1]))
    standing_on = [ladder_of(document, value) for _, value in standing]
    ladders = [ladder[0] for ladder in standing_on if ladder]
    if not ladders:
        return None
    shades = _shades(resolver, theme, max(ladders, key=ladders.count))
    members = {
        token: place
        for token, value in standing
        if (place := _place(resolver, theme, shades, token, value)) is not None
    }
    if len(members) < 2:
        return None
    ranks = {member.key: rank(member, guesses[member.key].role) for member in members}
    return Levels(ranks, shades, min(members.values()))


def assign(
    resolver: Resolver, theme: Theme, levels: Levels, inks: Mapping[str, str]
) -> dict[str, Expression]:
    """The value of each surface in the new mode, by token key.

    What is lightest by day lies lowest at night: the lowest level takes the shade opposite to the
    lightest one used, each level above it the next lighter one. ``inks`` are the shades that words
    and lines take, by token key; where they could no longer be read the levels end, and the upper
    ones lie between two shades.
    """
    ranks = sorted(set(levels.ranks.values()))
    lowest = len(levels.shades) - 1 - levels.used
    highest = min(_readable(resolver, theme, levels, inks, lowest), max(lowest - 1, 0))
    places = _places(len(ranks), lowest, highest)
    return {
        key: _between(resolver.document, levels.shades, places[ranks.index(rank)])
        for key, rank in levels.ranks.items()
    }


def _place(
    resolver: Resolver, theme: Theme, shades: tuple[str, ...], token: Token, value: Value
) -> int | None:
    """The place of the shade a surface stands on, or of the next darker one where it is a mix of
    shades; None where it is made of anything else."""
    own = resolver.resolve(token.key, theme)
    named = [resolver.document.token_at(path) for path in references(value, token.type)]
    if not named:
        same = [i for i, key in enumerate(shades) if resolver.resolve(key, theme).hex == own.hex]
        return same[0] if same else None
    if any(rung is None or rung.key not in shades for rung in named):
        return None
    light = _light(resolver, theme, token.key)
    lighter = [key for key in shades if _light(resolver, theme, key) > light]
    return min(len(lighter), len(shades) - 1)


def plain_ends(resolver: Resolver, theme: Theme) -> list[str]:
    """The first raw colors that are pure white and black, by key."""
    ends: dict[str, str] = {}
    for token in resolver.document.tokens:
        shown = resolver.resolve(token.key, theme).hex if token.is_raw_color else ""
        if shown in ("#ffffff", "#000000") and is_of_palette(resolver, token):
            ends.setdefault(shown, token.key)
    return list(ends.values())


def _shades(resolver: Resolver, theme: Theme, steps: tuple[str, ...]) -> tuple[str, ...]:
    """A ladder from its lightest to its darkest step, with white and black at its ends."""
    known = {resolver.resolve(key, theme).hex for key in steps}
    ends = [
        key for key in plain_ends(resolver, theme) if resolver.resolve(key, theme).hex not in known
    ]
    return tuple(
        sorted((*ends, *steps), key=lambda key: _light(resolver, theme, key), reverse=True)
    )


def _light(resolver: Resolver, theme: Theme, key: str) -> float:
    color = resolver.resolve(key, theme).color
    return float(relative_luminance(space.rgba(color)[:3])) if color else 0.0


def _is_level(known: Guess | None) -> bool:
    """Whether a token is the page or a plain surface on it."""
    if known is None or known.role.state:
        return False
    return known.role.kind == "page" or (known.role.kind == "surface" and not known.role.detail)


def rank(token: Token, role: Role) -> int:
    """How high a surface lies by what it is for, or by its number counted from the page."""
    numbers = [int(word) for word in words_of(token.path) if word.isdigit()]
    if numbers:
        return _PAGE + numbers[0]
    if role.kind == "page":
        return _PAGE
    return _PAGE + (role.level or 1)


def _readable(
    resolver: Resolver, theme: Theme, levels: Levels, inks: Mapping[str, str], lowest: int
) -> int:
    """The place of the lightest shade on which all that can be read now can be read then."""
    watched = [
        pairing
        for pairing in resolver.document.pairings
        if pairing.foreground in inks
        and len(pairing.backgrounds) == 1
        and pairing.backgrounds[0] in levels.ranks
    ]
    held = [
        pairing
        for pairing, now in zip(watched, audit(resolver, watched, [theme]), strict=True)
        if now.passes
    ]
    inked = [(inks[pairing.foreground], pairing.required) for pairing in held]

    def read(place: int) -> list[bool]:
        ground = (levels.shades[place],)
        pairs = [Pairing("", ink, ground, required=ratio) for ink, ratio in inked]
        return [reading.passes for reading in audit(resolver, pairs, [theme])]

    first = read(lowest)  # what cannot be read even here has to move itself
    place = lowest
    while place > 0:
        if any(was and not now for was, now in zip(first, read(place - 1), strict=True)):
            break
        place -= 1
    return place


def _places(count: int, lowest: int, highest: int) -> list[float]:
    """``count`` places from ``lowest`` towards ``highest``: whole ones while there is room, the
    rest spread over what is left."""
    whole = min(count, max(lowest - highest, 1))
    places = [float(lowest - i) for i in range(whole)]
    left = count - whole
    last = places[-1]
    return places + [last - (last - highest) * (i + 1) / left for i in range(left)]


def _between(document: Document, shades: tuple[str, ...], place: float) -> Expression:
    """The shade at a place, or a mix of the two it lies between."""
    below, share = int(place) + 1, 1 - (place - int(place))
    upper = document.token(shades[int(place)])
    assert upper is not None
    if share == 1:
        return reference_to(document, upper)
    lower = document.token(shades[below])
    assert lower is not None
    dark, other = (reference_to(document, token).text for token in (lower, upper))
    return Expression(f"color-mix(in oklab, {dark} {round((1 - share) * 100)}%, {other})")
