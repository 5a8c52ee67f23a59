"""A brand that is added."""

from __future__ import annotations

from dataclasses import dataclass

from prism.brands import addition
from prism.brands.addition import NewBrand
from prism.commands.command import Command, command, keys_from
from prism.commands.names import short
from prism.model.document import Document


@command("add-brand")
@dataclass(frozen=True, slots=True)
class AddBrand(Command):
    """Add a brand: its ramps, and in its mode what the tokens that show a brand refer to.

    ``colors`` are pairs of name and color, the leading one first; ``corners`` is empty, ``square``,
    ``smaller`` or ``larger``; ``texts`` are pairs of a token by key and its value; ``first`` names the
    mode of what is there, where there is no axis of brands yet.
    """

    key: str
    name: str
    colors: tuple[tuple[str, str], ...] = ()
    corners: str = ""
    texts: tuple[tuple[str, str], ...] = ()
    first: str = ""

    @classmethod
    def of(cls, key: str, new: NewBrand) -> AddBrand:
        """The command that adds a brand."""
        return cls(key, new.name, new.colors, new.corners, new.texts, new.first)

    def apply(self, document: Document) -> Document:
        new = NewBrand(self.name, self.colors, self.corners, self.texts, self.first)
        return addition.add(document, new, keys_from(self.key)).document

    def sentence(self, before: Document) -> str:
        return f"Added brand {short(self.name)}"
