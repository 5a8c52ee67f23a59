"""What the address of names by scheme says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class NamingAddress(Address):
    """The key of the scheme that is open."""

    scheme: str = text(200)
