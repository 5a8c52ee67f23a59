"""Names by scheme."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.commands.command import Command, command, keys_from
from prism.commands.names import counted, short
from prism.errors import EditError
from prism.model.document import Document, Scheme
from prism.naming import scheme as naming


@command("store-scheme")
@dataclass(frozen=True, slots=True)
class StoreScheme(Command):
    """Store a scheme of names, in place of the one of its key. ``parts`` are pairs of a part's name
    and its words."""

    key: str
    name: str
    parts: tuple[tuple[str, str], ...]

    def apply(self, document: Document) -> Document:
        return naming.store(document, naming.read(self.name, self.parts, self.key))

    def sentence(self, before: Document) -> str:
        return f"Stored scheme {short(self.name)}"


@command("add-names")
@dataclass(frozen=True, slots=True)
class AddNames(Command):
    """Add a token for each chosen name of a scheme."""

    key: str
    scheme: str
    chosen: tuple[str, ...]

    def _scheme(self, document: Document) -> Scheme:
        known: Sequence[Scheme] = (*document.schemes, *naming.STARTING)
        scheme = next((kind for kind in known if kind.key == self.scheme), None)
        if scheme is None:
            raise EditError("That scheme is no longer there.")
        return scheme

    def apply(self, document: Document) -> Document:
        scheme = self._scheme(document)
        return naming.add(document, scheme, set(self.chosen), keys_from(self.key))

    def sentence(self, before: Document) -> str:
        fresh = [path for path in self.chosen if before.token_at(path) is None]
        return f"Added {counted(len(fresh), 'token')} from scheme {self._scheme(before).name}"
