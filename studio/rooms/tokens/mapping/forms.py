"""Forms for many cells at once: bulk commands, a pasted table, the ladder, links."""

from __future__ import annotations

import json
from typing import Any

from django import forms

from prism import edits
from prism.commands.command import list_fields
from prism.edits import Command
from prism.sheet import cell_commands, row_commands, token_commands
from prism.sheet.cell_commands import Cells, Paste, SetOnStep
from prism.sheet.token_commands import LinkLiterals, SetGroupTier
from studio.numbers import whole
from studio.rooms.writing import CommandForm, named, text_of
from studio.sheet.columns import InColumns, axis_of
from studio.store import projects as store

#: The field of a command that the one text box of the bar stands for.
TEXT_IS = {
    "set-cells": "text",
    "set-opacity": "percent",
    "replace-in-names": "find",
    "move-to-group": "group",
}
#: Fields of commands that have an input of their own on the bar.
CHOICES = ("ramp", "source", "target", "replacement", "after")


class CellsForm(CommandForm):
    """A command on cells by token and mode: rows that are selected, or a range as JSON lists."""

    text = forms.CharField(max_length=1_000_000, required=False, strip=False)

    def __init__(self, data: Any, frame: InColumns, picks: tuple[tuple[str, str], ...]) -> None:
        super().__init__(data)
        self._axis = axis_of(frame)
        self._picks = picks

    @property
    def tokens(self) -> tuple[str, ...]:
        """Keys of the tokens meant, in order."""
        given = _list(self.data.get("tokens", "")) or self.texts("pick")
        return tuple(given)

    @property
    def cells(self) -> Cells:
        """The cells meant."""
        modes = _list(self.data.get("modes", "")) or self.texts("mode")
        axis = self._axis.key if self._axis else ""
        return Cells(self.tokens, axis, tuple(modes), self._picks)

    def command(self) -> Command:
        cls, values = named(self.data, cell_commands, token_commands, row_commands)
        values |= {choice: text_of(self.data, choice) for choice in CHOICES if choice in self.data}
        if field := values.pop("text-is", "") or TEXT_IS.get(cls.id):
            values[field] = self.cleaned_data["text"]
        if field := values.pop("role-is", ""):
            values["role"] = text_of(self.data, field) if field in self.data else ""
        for field in list_fields(cls):
            values[field] = list(self.tokens)
        made = {"cells": self.cells, "key": store.new_key()}
        return edits.from_fields(cls.id, values | made)


class PasteForm(CellsForm):
    """A table or named values to be pasted onto cells."""

    def command(self) -> Command:
        return Paste(self.cells, self.cleaned_data["text"])


def _list(text: str) -> list[str]:
    try:
        parsed = json.loads(text) if text else []
    except (ValueError, RecursionError):
        return []
    return [use for use in parsed if isinstance(use, str)] if isinstance(parsed, list) else []


class TierForm(CommandForm):
    """Groups whose tokens are to be of a tier."""

    tier = forms.CharField(max_length=20)

    def command(self) -> Command:
        groups = tuple(self.texts("groups"))
        return SetGroupTier(groups, self.cleaned_data["tier"])


class MarkForm(CommandForm):
    """A mark of the ladder set on another step."""

    token = forms.CharField(max_length=200)
    mode = forms.CharField(max_length=200, required=False)
    step = forms.CharField(max_length=200)

    def __init__(self, data: Any, frame: InColumns, picks: tuple[tuple[str, str], ...]) -> None:
        super().__init__(data)
        self._axis = axis_of(frame)
        self._picks = picks

    def command(self) -> Command:
        values = self.cleaned_data
        modes = (values["mode"],) if values["mode"] and self._axis else ()
        axis = self._axis.key if self._axis and modes else ""
        return SetOnStep(Cells((values["token"],), axis, modes, self._picks), values["step"])


class LinksForm(CommandForm):
    """Links that were accepted, by their places in the review."""

    def command(self) -> Command:
        places = (whole(text) for text in self.texts("take"))
        return LinkLiterals(tuple(place for place in places if place is not None))
