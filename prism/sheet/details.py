"""The page of a token: where it is used, what else lands where it does, what a value comes to."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import islice

from coloraide.css.color_names import name2val_map

from prism.analysis import Analysis
from prism.color import space
from prism.errors import PrismError
from prism.expressions.values import references
from prism.model.document import Document, Pairing, Token, shown_path
from prism.model.names import css_names
from prism.model.values import Condition
from prism.palette import text_colors
from prism.palette.ramps import oklch
from prism.resolution.answers import Answer
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme

#: So many unlinked colors of one scene are offered.
_MOST_LOOSE = 48


@dataclass(frozen=True, slots=True)
class TokenPage:
    """What a token's page shows beside what the token says of itself."""

    users: tuple[Token, ...]
    pairings: tuple[Pairing, ...]
    scenes: tuple[str, ...]
    css_name: str
    own_export_name: str


def page(resolver: Resolver, token: Token) -> TokenPage:
    """Where a token is used: tokens that refer to it, pairings and scenes."""
    document = resolver.document
    users = tuple(
        other
        for other in document.tokens
        if any(
            document.token_at(path) is token
            for _, value in other.values
            for path in references(value, other.type)
        )
    )
    pairings = tuple(
        pairing
        for pairing in document.pairings
        if token.key in (pairing.foreground, *pairing.backgrounds, pairing.page)
    )
    scenes = tuple(
        scene.name
        for scene in document.scenes
        if any(key == token.key for _, key in scene.bindings)
    )
    name = css_names(document).get(token.key, "")
    return TokenPage(users, pairings, scenes, name, dict(token.export_names).get("css", ""))


def owners(analysis: Analysis) -> list[Token]:
    """The colors that others can belong to: those that something stands on."""
    roles = analysis.roles
    return [
        token
        for token in analysis.document.tokens
        if token.key in roles and roles[token.key].role.is_ground
    ]


def same_color(resolver: Resolver, key: str, theme: Theme, limit: int = 12) -> list[Token]:
    """Other tokens with a meaning that are the same color, to the byte, in a theme."""
    color = resolver.resolve(key, theme).color
    if color is None:
        return []
    own = space.rgba8(color)
    others = (
        other
        for other in resolver.document.tokens
        if other.type == "color" and other.tier != "raw" and other.key != key
        if (theirs := resolver.resolve(other.key, theme).color) is not None
        and space.rgba8(theirs) == own
    )
    return list(islice(others, limit))


def result(document: Document, key: str, condition: Condition, theme: Theme) -> Answer:
    """What a token comes to in ``theme`` with the modes of ``condition``."""
    resolver = resolver_of(document)
    picks = resolver.picks(theme) | dict(condition.picks)
    return resolver.resolve(key, resolver.theme(picks))


@dataclass(frozen=True, slots=True)
class Pick:
    """A color to pick: what is typed for it, and its hex."""

    value: str
    hex: str


@dataclass(frozen=True, slots=True)
class Shelf:
    """Colors to pick from, with a name."""

    name: str
    colors: tuple[Pick, ...]


def shelf(resolver: Resolver, theme: Theme) -> list[Shelf]:
    """The ramps step by step in a theme, every other set of raw colors that was brought or saved
    under a group, the unlinked colors of each scene, then the named colors of CSS by hue."""
    document = resolver.document
    sets: dict[str, list[Token]] = {}
    taken: set[str] = set()
    for ramp in document.ramps:
        steps = [token for key in ramp.steps if (token := document.token(key)) is not None]
        sets.setdefault(ramp.name or "single", []).extend(steps)
        taken.update(ramp.steps)
    for token in document.tokens:
        if token.is_raw_color and token.key not in taken:
            sets.setdefault(token.group or "single", []).append(token)
    shelves = [
        Shelf(
            name,
            tuple(
                Pick(shown_path(step.path), resolver.resolve(step.key, theme).hex) for step in steps
            ),
        )
        for name, steps in sets.items()
    ]
    loose = ((scene.name, _loose(scene.markup)) for scene in document.scenes)
    shelves += [Shelf(name, colors) for name, colors in loose if colors]
    named = _css_names()
    for start in range(0, len(named), 24):
        shelves.append(Shelf("CSS", named[start : start + 24]))
    return shelves


@lru_cache(maxsize=32)
def _loose(markup: str) -> tuple[Pick, ...]:
    """The colors that are written out in a scene, each once; words that are colors too are not."""
    try:
        colors = text_colors.find(markup)
    except PrismError:
        return ()
    written = {
        color.text: space.hex_text(color.color) for color in colors if not color.text.isalpha()
    }
    return tuple(Pick(text, shown) for text, shown in written.items())[:_MOST_LOOSE]


@lru_cache(maxsize=1)
def _css_names() -> tuple[Pick, ...]:
    """The named colors of CSS Color 4, section 6.1, grays first and then by hue and lightness."""

    def place(name: str) -> tuple[bool, int, float]:
        lightness, chroma, hue = oklch(space.parse(name))
        return chroma > 0.02, int(hue // 30) if chroma > 0.02 else 0, -lightness

    names = [name for name in name2val_map if name != "transparent"]
    return tuple(Pick(name, space.hex_text(space.parse(name))) for name in sorted(names, key=place))
