"""What the address of the axes says."""

from __future__ import annotations

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class AxesAddress(Address):
    """What is being added: ``axis``, ``brand``, or ``mode:`` with the key of its axis."""

    adding: str = text(300)

    @property
    def axis(self) -> str:
        """The key of the axis that a mode is being added to."""
        kind, _, axis = self.adding.partition(":")
        return axis if kind == "mode" else ""
