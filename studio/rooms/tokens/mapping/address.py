"""What the address of the ladder says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class LadderAddress(Address):
    """The axis whose modes are shown, and the group of tokens."""

    columns: str = text(200)
    group: str = text(200)


@dataclass(frozen=True)
class LinkAddress(Address):
    """Up to which distance, CIEDE2000, links are selected."""

    upto: str = text(10)
