"""What the address of the Palette room says."""

from dataclasses import dataclass

from prism.color.notation import NOTATIONS
from studio.rooms.address import Address, choice, text


@dataclass(frozen=True)
class PaletteAddress(Address):
    """The color or the ramp that is open, how it is looked at, and the notation of colors."""

    OPENS = ("swatch", "ramp", "view")

    swatch: str = text(200)
    ramp: str = text(200)
    view: str = choice("tune", "steps", "curves", "new", "purposes", "coverage")
    notation: str = choice(*NOTATIONS[1:])
