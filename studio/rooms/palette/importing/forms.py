"""Forms of imports: text with colors, files, pictures, and what is done with each color."""

from __future__ import annotations

import re
from typing import Any

from django import forms

from prism.edits import Command
from prism.errors import EditError
from prism.palette.import_commands import ImportColors, UsePictureColors
from prism.palette.imports import DESTINATIONS
from prism.palette.picture_roles import ROLES, becomes
from prism.palette.text_colors import MAX_FOUND, MAX_TEXT
from studio.numbers import whole
from studio.rooms.frame import AnyFrame
from studio.rooms.writing import CommandForm
from studio.store import projects as store
from studio.store.pictures import Picture

MAX_FILE = 24 * 1024 * 1024


def _small_enough(file: Any) -> Any:
    if file and file.size > MAX_FILE:
        raise forms.ValidationError(
            f"{file.name} has {file.size / 1e6:.0f} MB; at most {MAX_FILE / 1e6:.0f} MB are read. "
            "Nothing was stored."
        )
    return file


class TextForm(forms.Form):
    """Text or a file that holds colors."""

    text = forms.CharField(
        max_length=MAX_TEXT, required=False, strip=False, label="Paste any text that holds colors"
    )
    file = forms.FileField(
        required=False,
        allow_empty_file=True,
        label="or choose a file, or drop it here: GIMP palette, Design Tokens, SVG swatches, CSS, CSV, text",
    )

    def clean_file(self) -> Any:
        return _small_enough(self.cleaned_data["file"])

    def clean(self) -> dict[str, Any]:
        values = super().clean() or {}
        if not self.errors and not values.get("text", "").strip() and not values.get("file"):
            raise forms.ValidationError("There is nothing to import. Paste text, or choose a file.")
        return values


class PlaceForm(CommandForm):
    """The colors that were previewed, each with what is to be done with it."""

    count = forms.IntegerField(min_value=1, max_value=MAX_FOUND)
    group = forms.CharField(max_length=200, required=False, label="Prefix")
    purpose = forms.CharField(max_length=200, required=False, label="Purpose")

    @property
    def sent(self) -> list[tuple[str, str]]:
        """Path and text of every color, in order."""
        return [
            (self.data.get(f"path-{n}", ""), self.data.get(f"text-{n}", ""))
            for n in range(self.cleaned_data["count"])
        ]

    def command(self) -> Command:
        colors = tuple(
            (path.strip(), text, self.data.get(f"action-{n}", "add"))
            for n, (path, text) in enumerate(self.sent)
            if self.data.get(f"take-{n}")
        )
        values = self.cleaned_data
        return ImportColors(store.new_key(), colors, values["group"].strip(), values["purpose"])


class PictureForm(forms.Form):
    """A picture, and how many colors to look for."""

    file = forms.FileField(
        label="Choose a picture, drop it here, or paste it",
        allow_empty_file=True,
        error_messages={"required": "There is no picture. Choose one, drop it, or paste it."},
    )
    count = forms.IntegerField(
        min_value=5,
        max_value=12,
        error_messages={
            "min_value": "A picture gives 5 to 12 colors.",
            "max_value": "A picture gives 5 to 12 colors.",
        },
        label="Colors to look for",
    )

    def clean_file(self) -> Any:
        return _small_enough(self.cleaned_data["file"])


class AssignForm(CommandForm):
    """Where the colors of a picture go: by role, or each to a place of its own.

    ``color-N`` is what was found under the mark of a color where somebody moved it.
    """

    picture = forms.SlugField(max_length=40)

    def __init__(self, data: Any, picture: Picture | None, frame: AnyFrame) -> None:
        super().__init__(data)
        self._picture = picture
        self._frame = frame

    def command(self) -> UsePictureColors:
        if self._picture is None:
            raise EditError("That picture is no longer there.", fix="Import it again.")
        colors = [self._color(n, cluster["hex"]) for n, cluster in enumerate(self._picture.colors)]
        uses = self._by_role(colors) if "by-role" in self.data else self._by_color(colors)
        return UsePictureColors(store.new_key(), self._picture.name, uses, self._modes())

    def _modes(self) -> tuple[tuple[str, str], ...]:
        """The modes that are named for the values of tokens, by axis."""
        return tuple(
            (axis.key, mode)
            for axis in self._frame.document.axes
            if (mode := self.data.get(f"at-{axis.key}", ""))
        )

    def _color(self, number: int, known: str) -> str:
        moved = self.data.get(f"color-{number}", "")
        return moved if re.fullmatch(r"#[0-9a-f]{6}", moved) else known

    def _by_color(self, colors: list[str]) -> tuple[tuple[str, str, str], ...]:
        return tuple(
            (text, kind, self.data.get(f"target-{n}", "").strip())
            for n, text in enumerate(colors)
            if (kind := self.data.get(f"kind-{n}", "")) in DESTINATIONS
        )

    def _by_role(self, colors: list[str]) -> tuple[tuple[str, str, str], ...]:
        analysis = self._frame.analysis
        uses = []
        for role, _ in ROLES:
            place = whole(self.data.get(f"role-{role}", ""))
            if place is not None and 0 <= place < len(colors):
                kind, target = becomes(analysis.document, analysis.roles, role)
                uses.append((colors[place], kind, target))
        return tuple(uses)
