"""What the address of the balance says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class BalanceAddress(Address):
    """The axis, the mode that colors were designed for and the one they are compared in, by name; the
    token whose color is open, and its brand."""

    axis: str = text(200)
    standard: str = text(200)
    mode: str = text(200)
    token: str = text(400)
    brand: str = text(200)
