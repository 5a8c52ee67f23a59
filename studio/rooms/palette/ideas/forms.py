"""The form that takes an idea."""

from __future__ import annotations

from typing import Any

from prism.color import space
from prism.edits import Command
from prism.model.document import Document
from prism.palette import ideas
from prism.palette.ideas import Idea
from prism.palette.import_commands import TakeIdea
from studio.rooms.palette.ideas.address import IdeasAddress
from studio.rooms.palette.ideas.source import idea_of
from studio.rooms.writing import CommandForm
from studio.store import projects as store


class TakeForm(CommandForm):
    """The idea that the address names, with the plan of its colors."""

    def __init__(self, data: Any, address: IdeasAddress, document: Document) -> None:
        super().__init__(data)
        self._address = address
        self._document = document

    def command(self) -> Command:
        return taking(idea_of(self._address), self._address, self._document)


def taking(idea: Idea, address: IdeasAddress, document: Document) -> TakeIdea:
    """The command that takes an idea as the address plans it."""
    colors = tuple((color.role, color.name, space.hex_text(color.color)) for color in idea.colors)
    plan = ideas.plan(document, idea) | dict(address.plan)
    words = address.words.strip()
    return TakeIdea(store.new_key(), words, idea.title, colors, tuple(plan.items()))
