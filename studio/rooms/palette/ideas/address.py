"""What the address of ideas says: words, held colors, the idea that is open, what its colors do."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Self

from prism.color import space
from prism.errors import ExpressionError
from prism.palette.ideas import ROLES, Brief, NamedColor
from studio.rooms.address import Address, text

#: Between held colors.
SEPARATOR = "~"
_PLAN = "plan-"


@dataclass(frozen=True)
class IdeasAddress(Address):
    """``plan`` are pairs of a role and what its color does."""

    words: str = text(400)
    held: str = text(1000)
    like: str = text(60)
    idea: str = text(60)
    plan: tuple[tuple[str, str], ...] = ()

    @classmethod
    def read(cls, state: Mapping[str, str]) -> Self:
        """The address that a query or a form states; held colors that cannot be read are skipped."""
        address = super().read(state)
        given = ((role, state.get(f"{_PLAN}{role}", "")[:200]) for role in ROLES)
        plan = tuple((role, does) for role, does in given if does)
        return address.but(plan=plan, held=held_text(held_colors(address.held)))

    def members(self) -> dict[str, str]:
        """What stands in a query, by name."""
        return Address.members(self) | {f"{_PLAN}{role}": does for role, does in self.plan}

    @property
    def brief(self) -> Brief:
        """What is asked of the source of ideas."""
        return Brief(self.words, tuple(held_colors(self.held)), self.like)


def held_colors(text: str) -> Iterator[NamedColor]:
    """Held colors, as ``held_text`` writes them."""
    for part in text.split(SEPARATOR):
        role, _, rest = part.partition(":")
        hexes, _, name = rest.partition(":")
        known = next((known for known in ROLES if known == role), None)
        if known is not None and name:
            try:
                yield NamedColor(known, name[:60], space.parse(f"#{hexes}"))
            except ExpressionError:
                continue


def held_text(colors: Iterator[NamedColor] | list[NamedColor]) -> str:
    """Held colors as they stand in an address."""
    return SEPARATOR.join(
        f"{color.role}:{space.hex_text(color.color)[1:]}:{color.name}" for color in colors
    )
