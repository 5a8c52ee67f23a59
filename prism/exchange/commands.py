"""A document that takes the place of the one that is there."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

from prism.commands.command import Command, command
from prism.commands.names import short
from prism.model.document import Document


@command("import-document")
@dataclass(frozen=True, slots=True)
class ImportDocument(Command):
    """Put an imported document in place of the project's own; its name stays.

    The document itself is not written down: the journal keeps what changed.
    """

    source: str
    document: Document = field(metadata={"kept": False}, default_factory=Document)

    def apply(self, document: Document) -> Document:
        return replace(self.document, name=document.name)

    def sentence(self, before: Document) -> str:
        return f"Imported {short(self.source)}"
