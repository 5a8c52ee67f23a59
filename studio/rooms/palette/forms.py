"""Forms of the palette: recipes, colors, points."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django import forms

from prism.edits import Command
from prism.model.document import Document
from prism.palette import plot, ramp_edits
from prism.palette.commands import AddRamp, RetuneRamp, SetColor
from prism.palette.recipes import DEFAULTS
from studio.rooms.writing import CommandForm
from studio.store import projects as store

METHODS = (
    ("anchored", "anchored: each step meets a contrast"),
    ("even", "even: equal lightness steps"),
)
GAMUTS = (("srgb", "sRGB"), ("display-p3", "Display P3"))


#: The fields of a recipe that are folded away: name, label, and the method that needs it.
_ADJUST = (
    ("count", "Steps", ""),
    ("names", "Step names (empty: numbers, or as they are)", ""),
    ("method", "Method", ""),
    ("reference", "Measured against", "anchored"),
    ("targets", "Contrast targets (default)", "anchored"),
    ("lightest", "Lightest", "even"),
    ("darkest", "Darkest", "even"),
    ("drift-light", "Hue drift to light", ""),
    ("drift-dark", "Hue drift to dark", ""),
    ("curve", "Chroma falloff", ""),
    ("tint", "Chroma ×", ""),
    ("gamut", "Gamut", ""),
)
_WIDE = ("names", "targets")
_NUMBERS = ("count", "lightest", "darkest", "drift-light", "drift-dark", "curve", "tint")


class RampForm(CommandForm):
    """A recipe as text, and the name of a new ramp or the key of one that is there.

    ``given`` is what the fields show where nothing was typed yet.
    """

    ramp = forms.CharField(max_length=200, required=False)
    name = forms.CharField(max_length=200, required=False, label="Name")
    seed = forms.CharField(max_length=200, required=False, label="Base color")
    names = forms.CharField(max_length=1000, required=False)
    purpose = forms.CharField(max_length=200, required=False, label="Purpose")

    def __init__(self, data: Any, given: Mapping[str, str] | None = None, names: str = "") -> None:
        super().__init__(data, initial=dict(given or {}), label_suffix="", auto_id="%s")
        for name, label, _ in _ADJUST:
            if name in ("method", "gamut"):
                known = METHODS if name == "method" else GAMUTS
                self.fields[name] = forms.ChoiceField(choices=known, required=False, label=label)
            else:
                self.fields[name] = forms.CharField(max_length=1000, required=False, label=label)
                self.fields[name].widget.attrs = {"autocomplete": "off", "spellcheck": "false"}
            if name in _NUMBERS:
                self.fields[name].widget.attrs |= {"inputmode": "decimal", "size": "5"}
        self.fields["names"].widget.attrs |= {"placeholder": names}
        self.fields["method"].widget = _MethodSelect(choices=METHODS)
        self.fields["keep-seed"] = forms.BooleanField(
            required=False, label="keep the base color, as a step or beside the steps"
        )

    @property
    def adjusted(self) -> list[tuple[forms.BoundField, str, str]]:
        """The fields that are folded away, each with the method that needs it and how it looks."""
        return [
            (self[name], needed, "wide" if name in _WIDE else "") for name, _, needed in _ADJUST
        ]

    @property
    def keep_label(self) -> str:
        """What keeping the base color is called."""
        return str(self.fields["keep-seed"].label)

    @property
    def keeps(self) -> bool:
        """Whether the base color is kept."""
        return bool(self.initial.get("keep-seed") == "yes")

    @property
    def recipe(self) -> dict[str, str]:
        """The recipe's fields, as they were sent; a box that is not ticked sends nothing."""
        fields = {name: self.data.get(name, "") for name in DEFAULTS}
        fields["keep-seed"] = "yes" if self.data.get("keep-seed") == "yes" else "no"
        return fields

    @property
    def typed(self) -> dict[str, str]:
        """Everything that was typed, to be shown again."""
        names = ("name", "names", "purpose")
        return self.recipe | {name: self.data.get(name, "") for name in names}

    def command(self) -> Command:
        values = self.cleaned_data
        recipe = tuple(self.recipe.items())
        if values["ramp"]:
            return RetuneRamp(store.new_key(), values["ramp"], recipe, values["names"])
        return AddRamp(store.new_key(), values["name"], recipe, values["names"], values["purpose"])


class _MethodSelect(forms.Select):
    """A select whose options say which fields they need."""

    def create_option(self, name: str, value: Any, *args: Any, **more: Any) -> dict[str, Any]:
        option = super().create_option(name, value, *args, **more)
        option["attrs"]["data-needs"] = str(value)
        return option


class ColorForm(CommandForm):
    """A value for a raw color."""

    token = forms.CharField(max_length=200)
    value = forms.CharField(max_length=2000, label="Value")

    def command(self) -> Command:
        return SetColor(self.cleaned_data["token"], self.cleaned_data["value"])


class PointForm(CommandForm):
    """A step moved to a lightness and a chroma."""

    token = forms.CharField(max_length=200)
    lightness = forms.FloatField(min_value=0, max_value=1)
    chroma = forms.FloatField(min_value=0, max_value=0.5)
    hue = forms.FloatField()

    def __init__(self, data: Any, document: Document) -> None:
        super().__init__(data)
        self._document = document

    def command(self) -> Command:
        values = self.cleaned_data
        ramp = ramp_edits.ramp_with(self._document, values["token"])
        gamut = dict(ramp.parameters).get("gamut", "srgb") if ramp else "srgb"
        point = plot.numbers(values["lightness"], values["chroma"], values["hue"], gamut)
        return SetColor(values["token"], point.text)
