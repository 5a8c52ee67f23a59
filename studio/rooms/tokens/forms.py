"""Forms of the sheet: a cell, and what is said of a token."""

from __future__ import annotations

from typing import Any

from django import forms

from prism.compare.rows import condition_from
from prism.edits import Command
from prism.model.document import Document
from prism.model.values import Condition
from prism.sheet.cell_commands import ClearValue, SetValue, SetValueInColumn
from prism.sheet.row_commands import AddPasted, AddToken
from prism.sheet.token_commands import DescribeToken
from studio.rooms.frame import Frame
from studio.rooms.writing import CommandForm
from studio.sheet.address import SheetAddress
from studio.sheet.columns import axis_of
from studio.store import projects as store


class CellForm(CommandForm):
    """A value typed into a cell, and where it holds.

    ``condition`` is ``chosen`` for the modes chosen axis by axis, or ``cell`` for where a value typed
    into the cell of ``mode`` holds. ``clear`` takes the stored value away, ``keep`` lets it stand,
    ``typed`` says that it was typed into the sheet and not beside it.
    """

    token = forms.CharField(max_length=200)
    condition = forms.CharField(max_length=2000, label="Applies to")
    value = forms.CharField(max_length=4000, required=False, strip=False, label="Value")
    clear = forms.BooleanField(required=False)
    keep = forms.BooleanField(required=False)
    typed = forms.BooleanField(required=False)
    mode = forms.CharField(max_length=200, required=False)

    def __init__(self, data: Any, frame: Frame[SheetAddress]) -> None:
        super().__init__(data)
        self._frame = frame

    def command(self) -> Command:
        values = self.cleaned_data
        if values["condition"] == "cell":
            column = self._column()
            if values["clear"]:
                return SetValueInColumn(column.token, "", column.axis, column.picks)
            return column
        condition = self.target(self._frame.document)
        if values["clear"]:
            return ClearValue(values["token"], condition)
        return SetValue(values["token"], values["value"], condition)

    def target(self, document: Document) -> Condition:
        """The condition that the value is meant for."""
        text = self.cleaned_data["condition"]
        if text == "cell":
            return self._column().condition(document)
        if text != "chosen":
            return condition_from(text)
        chosen = {
            name.removeprefix("at-"): mode
            for name, mode in self.data.items()
            if name.startswith("at-") and mode
        }
        return Condition.of(chosen)

    def _column(self) -> SetValueInColumn:
        values = self.cleaned_data
        axis = axis_of(self._frame)
        picks = dict(self._frame.picks)
        if axis is not None and values["mode"]:
            picks[axis.key] = values["mode"]
        key = axis.key if axis else ""
        return SetValueInColumn(values["token"], values["value"], key, tuple(picks.items()))


class DescribeForm(CommandForm):
    """What is said of a token beside its values."""

    token = forms.CharField(max_length=200)
    path = forms.CharField(max_length=600, label="Path; references follow")
    description = forms.CharField(max_length=8000, required=False, label="Description, Markdown")
    uses = forms.CharField(max_length=1000, required=False, label="Uses, separated by commas")
    export_name = forms.CharField(max_length=300, required=False, label="CSS name")
    private = forms.BooleanField(required=False, label="private")
    is_deprecated = forms.BooleanField(required=False, label="deprecated")
    deprecated = forms.CharField(max_length=1000, required=False)
    type = forms.CharField(max_length=40, required=False, label="Type")
    role = forms.CharField(max_length=60, required=False, label="Role, what it is for")
    belongs_to = forms.CharField(max_length=600, required=False, label="Belongs to")

    def command(self) -> Command:
        values = self.cleaned_data
        return DescribeToken(
            token=values["token"],
            path=values["path"],
            description=values["description"],
            uses=values["uses"],
            export_name=values["export_name"],
            private=values["private"],
            deprecated=values["deprecated"] if values["is_deprecated"] else None,
            role=values["role"] if "role" in self.data else None,
            belongs_to=values["belongs_to"] if "belongs_to" in self.data else None,
            type=values["type"],
        )


class AddForm(CommandForm):
    """A new token: its path, and a value for each column, the first of them for every theme."""

    path = forms.CharField(max_length=600, error_messages={"required": "A token needs a name."})
    new_tier = forms.CharField(max_length=20, required=False)
    new_type = forms.CharField(max_length=40, required=False, label="Type")

    def __init__(self, data: Any, frame: Frame[SheetAddress]) -> None:
        super().__init__(data)
        self._axis = axis_of(frame)

    def command(self) -> Command:
        values = self.cleaned_data
        axis = self._axis
        base, others = self.data.get("value", ""), []
        for mode in axis.modes if axis is not None else ():
            text = self.data.get(f"value-{mode.key}", "")[:4000]
            if axis is not None and mode.key == axis.default:
                base = text or base
            elif axis is not None and text.strip():
                others.append((Condition.of({axis.key: mode.key}), text))
        key = store.new_key()
        return AddToken(
            key,
            values["path"],
            base[:4000],
            tuple(others),
            tier=values["new_tier"],
            type=values["new_type"],
        )


class AddPastedForm(CommandForm):
    """The names of a pasted text that are no tokens yet."""

    text = forms.CharField(max_length=1_000_000, strip=False)

    def __init__(self, data: Any, frame: Frame[SheetAddress]) -> None:
        super().__init__(data)
        self._axis = axis_of(frame)

    def command(self) -> Command:
        axis = self._axis.key if self._axis else ""
        return AddPasted(store.new_key(), self.cleaned_data["text"], axis)
