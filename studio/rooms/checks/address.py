"""What the address of the Checks room says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class ChecksAddress(Address):
    """The words that pairings are found by."""

    find: str = text(100)
