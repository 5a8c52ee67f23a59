"""The palette: raw colors by group, as they are in one theme."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.color import space
from prism.color.contrast import contrast_ratio, cut
from prism.tokens.model import Token, shown_path
from prism.tokens.resolve import Resolver, Theme
from prism.tokens.resolved import Answer


@dataclass(frozen=True, slots=True)
class Swatch:
    """One raw color: its last name, its ratios on white and on black, cut for display.

    ``ink`` says what can be read on it: ``dark``, ``light``, or ``clear`` where it is translucent
    or has no color here.
    """

    token: Token
    answer: Answer
    name: str
    on_white: str
    on_black: str
    ink: str


@dataclass(frozen=True, slots=True)
class Strip:
    """A group of raw colors in order."""

    name: str
    swatches: tuple[Swatch, ...]

    @property
    def steps(self) -> tuple[str, ...]:
        """The names of its colors."""
        return tuple(one.name for one in self.swatches)


def swatch(resolver: Resolver, token: Token, theme: Theme) -> Swatch:
    """One color token as a swatch."""
    answer = resolver.resolve(token.key, theme)
    name = shown_path(token.path).rpartition(".")[2]
    if answer.color is None:
        return Swatch(token, answer, name, "", "", "clear")
    red, green, blue, alpha = space.rgba8(answer.color)
    rgb = (red / 255, green / 255, blue / 255)
    white = float(contrast_ratio(rgb, (1, 1, 1)))
    black = float(contrast_ratio(rgb, (0, 0, 0)))
    ink = "clear" if alpha < 1 else "dark" if black > white else "light"
    return Swatch(token, answer, name, cut(white), cut(black), ink)


def strips(resolver: Resolver, theme: Theme) -> list[Strip]:
    """The raw colors, group by group, in document order."""
    groups: dict[str, list[Swatch]] = {}
    for token in resolver.document.tokens:
        if token.tier == "raw" and token.type == "color":
            groups.setdefault(token.group, []).append(swatch(resolver, token, theme))
    return [Strip(name, tuple(members)) for name, members in groups.items()]


def shared_steps(found: Sequence[Strip]) -> tuple[str, ...]:
    """The step names of the longest strip, where at least two have them all; else none."""
    lists = [strip.steps for strip in found]
    longest = max(lists, key=len, default=())
    return longest if len(longest) > 2 and lists.count(longest) > 1 else ()


def landing_on(resolver: Resolver, key: str, theme: Theme) -> list[Token]:
    """The tokens that come to a raw color in ``theme``, through any number of hops."""
    return [
        other
        for other in resolver.document.tokens
        if other.key != key and any(hop.token == key for hop in resolver.trace(other.key, theme))
    ]
