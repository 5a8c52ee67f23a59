"""Colors from elsewhere: imported, out of pictures, out of ideas."""

from __future__ import annotations

from dataclasses import dataclass

from prism.color import space
from prism.commands.command import Command, command, keys_from
from prism.commands.names import counted, short
from prism.errors import EditError
from prism.model.document import Document
from prism.model.values import Condition
from prism.palette import ideas, imports


@command("import-colors")
@dataclass(frozen=True, slots=True)
class ImportColors(Command):
    """Add colors to the palette. ``colors`` are path, text, and ``add``, ``replace`` or ``keep``
    where the path is taken."""

    key: str
    colors: tuple[tuple[str, str, str], ...]
    group: str = ""
    purpose: str = ""

    def apply(self, document: Document) -> Document:
        if not self.colors:
            raise EditError("No color is selected.", fix="Select those to import.")
        choices = [imports.Choice(*color) for color in self.colors]
        return imports.place(
            document, choices, keys_from(self.key), group=self.group, purpose=self.purpose
        )

    def sentence(self, before: Document) -> str:
        return f"Imported {counted(len(self.colors), 'color')}"


@command("use-picture-colors")
@dataclass(frozen=True, slots=True)
class UsePictureColors(Command):
    """Give colors of a picture their places. ``uses`` are a color's text, ``color``, ``ramp`` or
    ``token``, and the path or name of what it becomes; ``picks`` are the modes that a token takes it in, by
    axis and mode: none for its value where no condition holds."""

    key: str
    picture: str
    uses: tuple[tuple[str, str, str], ...]
    picks: tuple[tuple[str, str], ...] = ()

    def apply(self, document: Document) -> Document:
        if not self.uses:
            raise EditError("Every color is left out.", fix="Choose where at least one goes.")
        for axis_key, mode in self.picks:
            axis = document.axis(axis_key)
            if axis is None or all(known.key != mode for known in axis.modes):
                raise EditError("That mode is no longer there.", fix="Choose another one.")
        uses = [
            imports.destination_for(space.parse(text), kind, to) for text, kind, to in self.uses
        ]
        return imports.use(document, uses, Condition.of(dict(self.picks)), keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Imported {counted(len(self.uses), 'color')} from {short(self.picture)}"


@command("take-idea")
@dataclass(frozen=True, slots=True)
class TakeIdea(Command):
    """Add a ramp for each color of an idea. ``colors`` are role, name and text; ``plan`` says for a
    role what its color does: the key of the ramp it replaces, ``new`` or ``leave``."""

    key: str
    words: str
    title: str
    colors: tuple[tuple[str, str, str], ...]
    plan: tuple[tuple[str, str], ...] = ()

    def apply(self, document: Document) -> Document:
        colors = tuple(ideas.named_color(*color) for color in self.colors)
        idea = ideas.Idea(self.key, self.title, colors)
        return ideas.take(document, idea, dict(self.plan), keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Used idea “{short(self.words)}”, {short(self.title)}"
