"""The palette: raw colors by purpose and ramp, as they are in one theme."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from prism.color import notation as notations
from prism.color import space
from prism.color.contrast import ink_on, ratio_of, truncate_ratio
from prism.color.difference import oklab
from prism.model.document import Purpose, Ramp, Token
from prism.palette import purposes, ramp_edits, ramps, recipes
from prism.resolution.answers import Answer
from prism.resolution.resolver import Resolver, Theme

#: Colors outside its ramp that could stand in for one that goes, at most.
STAND_INS = 60


@dataclass(frozen=True, slots=True)
class Swatch:
    """One raw color: its last name, its text in the notation asked for, its ratios on white and on
    black, truncated for display.

    ``ink`` says what can be read on it: ``dark``, ``light``, or ``clear`` where it is translucent
    or has no color here. ``beyond`` marks a color that sRGB cannot hold, ``seed`` the seed of its
    ramp, ``moved`` a step moved by hand.
    """

    token: Token
    answer: Answer
    name: str
    text: str
    on_white: str
    on_black: str
    ink: str
    beyond: bool = False
    seed: bool = False
    moved: bool = False


@dataclass(frozen=True, slots=True)
class Strip:
    """Raw colors that stand together: a ramp, or a group of colors that is none. ``beside`` is the
    base color of a ramp where it is none of the steps."""

    name: str
    swatches: tuple[Swatch, ...]
    ramp: Ramp | None = None
    words: str = ""
    beside: Swatch | None = None

    def begins_with(self, key: str) -> bool:
        """Whether its first color is the token with this key."""
        return bool(self.swatches) and self.swatches[0].token.key == key

    @property
    def steps(self) -> tuple[str, ...]:
        """The names of its colors."""
        return tuple(swatch.name for swatch in self.swatches)


@dataclass(frozen=True, slots=True)
class Section:
    """The strips of one purpose; None for those without."""

    purpose: Purpose | None
    strips: tuple[Strip, ...]


@dataclass(frozen=True, slots=True)
class Head:
    """A step that strips share: its name, and the ratio aimed at where all agree."""

    name: str
    target: str


def swatch(
    resolver: Resolver,
    token: Token,
    theme: Theme,
    notation: str = "hex",
    ramp: Ramp | None = None,
) -> Swatch:
    """One color token as a swatch."""
    answer = resolver.resolve(token.key, theme)
    name = token.leaf
    color = answer.color
    moved = ramp is not None and token.key in ramp.moved
    if color is None:
        return Swatch(token, answer, name, "", "", "", "clear", moved=moved)
    return Swatch(
        token, answer, name, *_facts(color, notation), seed=_is_seed(token, ramp), moved=moved
    )


@lru_cache(maxsize=16384)
def _facts(color: space.Color, notation: str) -> tuple[str, str, str, str, bool]:
    """What a swatch says of a color: text, ratios on white and black, ink, whether beyond sRGB."""
    white, black = (ratio_of(color, end) for end in (space.WHITE, space.BLACK))
    ink = "clear" if space.rgba8(color)[3] < 1 else ink_on(color)
    beyond = notations.beyond_srgb(color)
    return (
        notations.write(color, notation),
        truncate_ratio(white),
        truncate_ratio(black),
        ink,
        beyond,
    )


def _is_seed(token: Token, ramp: Ramp | None) -> bool:
    fields = dict(ramp.parameters) if ramp else {}
    if fields.get("keep-seed") != "yes" or ramp is None or token.key in ramp.moved:
        return False
    return any(getattr(value, "text", "") == fields["seed"] for _, value in token.values)


def sections(resolver: Resolver, theme: Theme, notation: str = "hex") -> list[Section]:
    """The raw colors by purpose, ramp by ramp; what has no purpose comes last."""
    document = resolver.document
    order: list[Purpose | None] = [*purposes.of(document), None]
    known = {purpose.key for purpose in order if purpose is not None}
    groups = []
    strips = _strips(resolver, theme, notation)
    for purpose in order:
        key = purpose.key if purpose else ""
        held = [
            strip
            for strip in strips
            if (strip.ramp.purpose if strip.ramp and strip.ramp.purpose in known else "") == key
        ]
        if held:
            groups.append(Section(purpose, tuple(held)))
    return groups


def _strips(resolver: Resolver, theme: Theme, notation: str) -> list[Strip]:
    document = resolver.document
    strips = []
    taken: set[str] = set()
    for ramp in document.ramps:
        steps = [token for key in ramp.steps if (token := document.token(key)) is not None]
        taken |= {token.key for token in steps}
        made = tuple(swatch(resolver, token, theme, notation, ramp) for token in steps)
        base = document.token(ramp.base) if ramp.base else None
        beside = swatch(resolver, base, theme, notation) if base else None
        taken.add(ramp.base)
        strips.append(Strip(ramp.name, made, ramp, recipe_words(ramp), beside))
    groups: dict[str, list[Swatch]] = {}
    for token in document.tokens:
        if token.is_raw_color and token.key not in taken:
            shown = swatch(resolver, token, theme, notation)
            groups.setdefault(token.group, []).append(shown)
    return strips + [Strip(name, tuple(members)) for name, members in groups.items()]


def recipe_words(ramp: Ramp) -> str:
    """How a ramp is made, in a few words."""
    if not ramp.parameters:
        return "no recipe"
    fields = dict(ramp.parameters)
    gamut = "sRGB" if fields["gamut"] == "srgb" else "P3"
    return f"{fields['method']}, {gamut}"


def heads(colors: Sequence[Section]) -> tuple[Head, ...]:
    """The steps of the longest strip, where at least two have them all; else none.

    Targets are shown where every anchored ramp with these steps aims at the same.
    """
    strips = [strip for section in colors for strip in section.strips]
    lists = [strip.steps for strip in strips]
    longest = max(lists, key=len, default=())
    if len(longest) < 3 or lists.count(longest) < 2:
        return ()
    aims = {
        ramps.targets_of(recipes.read(strip.ramp.parameters))
        for strip in strips
        if strip.steps == longest and strip.ramp and _anchored(strip.ramp)
    }
    shared = aims.pop() if len(aims) == 1 else ()
    return tuple(
        Head(name, f"{shared[place]:.2f}" if len(shared) == len(longest) else "")
        for place, name in enumerate(longest)
    )


def _anchored(ramp: Ramp) -> bool:
    return dict(ramp.parameters).get("method") == "anchored"


def landing_on(resolver: Resolver, key: str, theme: Theme) -> list[Token]:
    """The tokens that come to a raw color in ``theme``, through any number of hops."""
    users = resolver.graph.users([key]) - {key}
    return [
        other
        for other in resolver.document.tokens
        if other.key in users and any(h.token == key for h in resolver.trace(other.key, theme))
    ]


@dataclass(frozen=True, slots=True)
class Carried:
    """What hangs on some raw colors, in all themes: tokens, and pairings that hold one of them."""

    tokens: tuple[Token, ...]
    tiers: tuple[str, ...]
    pairings: int


def carried(resolver: Resolver, keys: Sequence[str]) -> Carried:
    """What may come to one of ``keys`` in some theme."""
    reached = resolver.graph.users(keys) - set(keys)
    tokens = tuple(token for token in resolver.document.tokens if token.key in reached)
    held = reached | set(keys)
    pairings = [
        pairing
        for pairing in resolver.document.pairings
        if held & {pairing.foreground, *pairing.backgrounds, pairing.page}
    ]
    return Carried(tokens, tuple(dict.fromkeys(token.tier for token in tokens)), len(pairings))


def step_options(resolver: Resolver, key: str, theme: Theme) -> list[Token]:
    """Other raw colors that could stand in for one that goes: its own ramp, then those nearest to it in a theme."""
    document = resolver.document
    ramp = ramp_edits.ramp_with(document, key)
    own = set(ramp.steps) if ramp else set()
    raw = [token for token in document.tokens if token.is_raw_color and token.key != key]
    if not raw:
        return []
    colors = [_srgb(resolver.resolve(token.key, theme)) for token in raw]
    distance = np.linalg.norm(oklab(colors) - oklab(_srgb(resolver.resolve(key, theme))), axis=-1)
    nearest = [
        raw[place] for place in np.argsort(distance, kind="stable") if raw[place].key not in own
    ]
    return [token for token in raw if token.key in own] + nearest[:STAND_INS]


def _srgb(answer: Answer) -> tuple[float, float, float]:
    """The color of an answer in sRGB; black where it has none."""
    return space.rgba(answer.color)[:3] if answer.color else (0.0, 0.0, 0.0)


@dataclass(frozen=True, slots=True)
class MadeStep:
    """A step that a recipe would make: its name, hex, ratio with the recipe's reference, and what
    can be read on it."""

    name: str
    hex: str
    ratio: str
    target: str
    ink: str
    seed: bool


def made(recipe: ramps.Recipe, steps: Sequence[ramps.Step], names: Sequence[str]) -> list[MadeStep]:
    """The steps of a recipe as they are shown before they are stored."""
    heads = []
    for name, step in zip(names, steps, strict=True):
        heads.append(
            MadeStep(
                name,
                space.hex_text(step.color),
                truncate_ratio(ratio_of(step.color, recipe.reference)),
                f"{step.target:.2f}" if step.target else "",
                ink_on(step.color),
                step.is_seed,
            )
        )
    return heads
