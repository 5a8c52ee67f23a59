"""What the address of the ladder says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class LadderAddress(Address):
    """The axis whose modes are shown, and the group of tokens."""

    columns: str = text(200)
    group: str = text(200)
