"""What the addresses of measures and texts say."""

from dataclasses import dataclass

from studio.rooms.address import Address, choice, text


@dataclass(frozen=True)
class MeasuresAddress(Address):
    """Which of the two pages it is, the kind of a new scale, and the axis of the columns."""

    page: str = choice("copy")
    kind: str = text(40)
    columns: str = text(200)
