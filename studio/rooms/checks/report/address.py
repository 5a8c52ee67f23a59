"""What the address of the report says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class ReportAddress(Address):
    """The code of the long task that writes the report as a file."""

    task: str = text(40)
