"""What the address of the Exchange room says."""

from dataclasses import dataclass

from studio.rooms.address import Address, choice, text


@dataclass(frozen=True)
class ExchangeAddress(Address):
    """The code of the long task that imports or exports, and whether its import was cancelled."""

    task: str = text(40)
    cancelled: str = choice("1")
