"""What the address of the questions about roles says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class RolesAddress(Address):
    """The key of the token that is asked about; empty for the first that is not sure."""

    token: str = text(200)
