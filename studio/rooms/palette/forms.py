"""Forms of the palette: recipes, colors, points."""

from __future__ import annotations

from typing import Any

from django import forms

from prism.edits import Command
from prism.edits.palette import AddRamp, RetuneRamp, SetColor
from prism.model.document import Document
from prism.palette import building
from prism.palette.recipes import DEFAULTS
from prism.view_models import plot
from studio.rooms.writing import CommandForm
from studio.store import projects as store

METHODS = (
    ("anchored", "anchored: each step meets a contrast"),
    ("even", "even: equal lightness steps"),
)
GAMUTS = (("srgb", "sRGB"), ("display-p3", "Display P3"))


class RampForm(CommandForm):
    """A recipe as text, and the name of a new ramp or the key of one that is there."""

    ramp = forms.CharField(max_length=200, required=False)
    name = forms.CharField(max_length=200, required=False)
    names = forms.CharField(max_length=1000, required=False)
    purpose = forms.CharField(max_length=200, required=False)

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


class ColorForm(CommandForm):
    """A value for a raw color."""

    token = forms.CharField(max_length=200)
    value = forms.CharField(max_length=2000)

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
        ramp = building.ramp_with(self._document, values["token"])
        gamut = dict(ramp.parameters).get("gamut", "srgb") if ramp else "srgb"
        point = plot.numbers(values["lightness"], values["chroma"], values["hue"], gamut)
        return SetColor(values["token"], point.text)
