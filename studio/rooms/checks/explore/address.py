"""What the address of the table of all colors on all grounds says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class ExploreAddress(Address):
    """The words that colors are found by which are written or drawn, and those that lie under them: paths, with ``*``
    for any characters."""

    ink: str = text(100)
    ground: str = text(100)
