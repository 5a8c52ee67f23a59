"""Forms of a scheme of names."""

from __future__ import annotations

from typing import Any

from django import forms

from prism.edits import Command
from prism.model.document import Document
from prism.naming.commands import AddNames, StoreScheme
from studio.rooms.writing import CommandForm
from studio.store import projects as store

MOST_PARTS = 8


class SchemeForm(CommandForm):
    """A scheme: its name and lines of parts with their words."""

    scheme = forms.CharField(max_length=200, required=False)
    name = forms.CharField(max_length=120, required=False, label="Scheme")

    def __init__(self, data: Any, document: Document) -> None:
        super().__init__(data)
        self._document = document

    @property
    def lines(self) -> tuple[tuple[str, str], ...]:
        """Name and words of each part, in order."""
        return tuple(
            (self.data.get(f"part-{n}", ""), self.data.get(f"words-{n}", ""))
            for n in range(MOST_PARTS)
        )

    @property
    def key(self) -> str:
        """The key of the scheme that is stored: its own, or a new one for a scheme to start from."""
        asked = self.cleaned_data["scheme"]
        own = any(scheme.key == asked for scheme in self._document.schemes)
        return asked if own else store.new_key()

    def command(self) -> Command:
        return StoreScheme(self.key, self.cleaned_data["name"], self.lines)


class NamesForm(CommandForm):
    """The names of a scheme that are wanted."""

    scheme = forms.CharField(max_length=200)

    @property
    def chosen(self) -> tuple[str, ...]:
        """Paths of the names that are not struck."""
        return tuple(self.texts("take"))

    def command(self) -> Command:
        return AddNames(store.new_key(), self.cleaned_data["scheme"], self.chosen)
