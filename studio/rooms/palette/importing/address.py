"""What the address of a picture says."""

from dataclasses import dataclass

from studio.rooms.address import Address, text


@dataclass(frozen=True)
class PictureAddress(Address):
    """The code of the picture that is open."""

    picture: str = text(40)
