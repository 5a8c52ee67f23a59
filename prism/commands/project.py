"""The project as a whole, and several commands as one."""

from __future__ import annotations

from dataclasses import dataclass, replace

from prism.commands.command import Command, command
from prism.commands.names import short
from prism.model.document import Document


@command("rename-project")
@dataclass(frozen=True, slots=True)
class RenameProject(Command):
    """Give the project another name."""

    name: str

    def apply(self, document: Document) -> Document:
        return replace(document, name=self.name)

    def sentence(self, before: Document) -> str:
        return f"Renamed the project to {short(self.name)}"


@command("batch")
@dataclass(frozen=True, slots=True)
class Batch(Command):
    """Several commands as one edit, in order."""

    title: str
    commands: tuple[Command, ...]

    def apply(self, document: Document) -> Document:
        for step in self.commands:
            document = step.apply(document)
        return document

    def sentence(self, before: Document) -> str:
        return short(self.title)
