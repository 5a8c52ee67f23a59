"""The rooms there are, in the order of the work. A new room is a folder and a line here.

From this list follow the route, the keys, the addresses and the installed applications.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Room:
    """One main area. ``number`` is its place among all eight, on screen and as a key; ``parts`` are
    the folders inside its own, each with the path that its addresses begin with."""

    number: int
    name: str
    title: str
    parts: tuple[tuple[str, str], ...] = ()

    @property
    def applications(self) -> Iterator[str]:
        """The modules of the room and its parts, for the settings."""
        yield f"studio.rooms.{self.name}"
        for part, _ in self.parts:
            yield f"studio.rooms.{self.name}.{part}"

    @property
    def addresses(self) -> Iterator[tuple[str, str]]:
        """Path and module of the addresses of the parts and the room, the longest path first."""
        for part, path in self.parts:
            yield f"{self.name}/{path}/", f"studio.rooms.{self.name}.{part}.urls"
        yield f"{self.name}/", f"studio.rooms.{self.name}.urls"


ROOMS = (
    Room(
        1,
        "palette",
        "Palette",
        (("measures", "measures"), ("importing", "import"), ("ideas", "ideas")),
    ),
    Room(
        2,
        "tokens",
        "Tokens",
        (("mapping", "map"), ("naming", "names"), ("axes", "axes"), ("roles", "roles")),
    ),
    Room(3, "stage", "Stage"),
    Room(
        4,
        "checks",
        "Checks",
        (
            ("balance", "balance"),
            ("vision", "vision"),
            ("findings", "findings"),
            ("explore", "explore"),
            ("report", "report"),
        ),
    ),
    Room(6, "exchange", "Exchange"),
)
