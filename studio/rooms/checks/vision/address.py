"""What the address of the vision checks says."""

from dataclasses import dataclass

from studio.rooms.address import Address, choice, text


@dataclass(frozen=True)
class VisionAddress(Address):
    """The set that is shown, by key; the two tokens that are open, by key with a space between; how severe a
    deficiency is, in tenths; and whether the set is being changed or a new one made."""

    of: str = text(200)
    pair: str = text(400)
    severity: str = choice(*(f"0.{tenth}" for tenth in range(1, 10)))
    edit: str = choice("set", "new")
