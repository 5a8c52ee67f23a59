"""What the address of the sheet says."""

from __future__ import annotations

from dataclasses import dataclass

from studio.rooms.address import Address, choice, text

#: Between the names of folded groups.
SEPARATOR = "~"


@dataclass(frozen=True)
class SheetAddress(Address):
    """The axis of the columns, the filter, the open cell and the folded groups.

    ``cell`` is a token's key and a mode's name, separated by a colon; ``add`` and ``menu`` are a tier
    and a group, so too: where a token is being added, and the group whose actions are open. ``only``
    names the part of the palette whose tokens are shown, ``scale`` the kind of scale being added.
    """

    OPENS = ("cell", "view")

    columns: str = text(200)
    find: str = text(100)
    type: str = text(200)
    tier: str = text(200)
    group: str = text(200)
    role: str = text(60)
    state: str = text(200)
    since: str = text(200)
    cell: str = text(500)
    folded: str = text(2000)
    view: str = choice("page")
    trace: str = choice("off")
    add: str = text(400)
    menu: str = text(400)
    only: str = choice("measures", "texts")
    scale: str = text(40)

    @property
    def open_token(self) -> str:
        """The key of the token whose cell is open; empty where none is."""
        return self.cell.partition(":")[0]

    @property
    def open_mode(self) -> str:
        """The name of the mode whose cell is open."""
        return self.cell.partition(":")[2]

    @property
    def folded_groups(self) -> tuple[str, ...]:
        """The groups that are folded."""
        return tuple(name for name in self.folded.split(SEPARATOR) if name)

    def folding(self, group: str) -> str:
        """The member for ``folded`` with a group folded, or unfolded where it was folded."""
        groups = self.folded_groups
        rest = [name for name in groups if name != group]
        return SEPARATOR.join(rest if group in groups else [*rest, group])
