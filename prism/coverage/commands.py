"""What a scheme lacks, added."""

from __future__ import annotations

from dataclasses import dataclass

from prism.changes.outcome import Outcome
from prism.commands.command import Command, command, keys_from
from prism.commands.names import short
from prism.coverage import additions
from prism.model.document import Document


@command("add-missing")
@dataclass(frozen=True, slots=True)
class AddMissing(Command):
    """Add what coverage found missing, made from what is there. ``need`` is the id of the gap."""

    key: str
    need: str

    def apply(self, document: Document) -> Document:
        return additions.fill(document, self.need, keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Added {short(self.need.partition(' ')[0])}"


@command("add-all-missing")
@dataclass(frozen=True, slots=True)
class AddAllMissing(Command):
    """Add everything that coverage found missing, one after the other."""

    key: str

    def outcome(self, document: Document) -> Outcome:
        filled, count = additions.fill_all(document, keys_from(self.key))
        return Outcome(filled, count)

    def sentence(self, before: Document) -> str:
        return "Added what was missing"
