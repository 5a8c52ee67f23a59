"""What the address of the Exchange room says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class ExchangeAddress(Address):
    """The code of the long task that imports or exports."""

    task: str = text(40)
