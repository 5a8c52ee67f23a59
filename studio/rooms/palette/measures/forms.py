"""Forms of measures and texts: values, single tokens, scales."""

from __future__ import annotations

from typing import Any

from django import forms

from prism.changes.values import cell_condition
from prism.edits import Command
from prism.edits.cells import SetValue
from prism.edits.measures import AddMeasure, AddScale
from prism.errors import EditError
from prism.expressions.types import TOKEN_TYPES
from prism.model.values import BASE
from prism.view_models import measures
from studio.rooms.frame import Frame
from studio.rooms.palette.measures.address import MeasuresAddress
from studio.rooms.writing import CommandForm
from studio.store import projects as store

MEASURE_TYPES = tuple(known.name for known in TOKEN_TYPES.values() if known.room == "measures")
TEXT_TYPES = tuple(known.name for known in TOKEN_TYPES.values() if known.room == "texts")


class ValueForm(CommandForm):
    """A value for a token, in a mode of an axis (its keys, separated by a blank) or everywhere."""

    token = forms.CharField(max_length=200)
    value = forms.CharField(max_length=4000, strip=False)
    mode = forms.CharField(max_length=200, required=False)

    def __init__(self, data: Any, frame: Frame[MeasuresAddress]) -> None:
        super().__init__(data)
        self._frame = frame

    def command(self) -> Command:
        values, resolver = self.cleaned_data, self._frame.resolver
        if self._frame.document.token(values["token"]) is None:
            raise EditError("That token is no longer there.")
        axis, _, mode = values["mode"].partition(" ")
        condition = BASE
        if mode:
            theme = measures.theme_in(resolver, self._frame.theme, axis, mode)
            condition = cell_condition(resolver, values["token"], axis, mode, theme)
        return SetValue(values["token"], values["value"], condition)


class AddForm(CommandForm):
    """A single token."""

    path = forms.CharField(max_length=300)
    type = forms.ChoiceField(choices=[(name, name) for name in MEASURE_TYPES + TEXT_TYPES])
    value = forms.CharField(max_length=2000, strip=False)

    def command(self) -> Command:
        values = self.cleaned_data
        return AddMeasure(store.new_key(), values["path"], values["type"], values["value"])


class ScaleForm(CommandForm):
    """A scale on a base and a factor."""

    kind = forms.CharField(max_length=40)
    group = forms.CharField(max_length=200)
    base = forms.CharField(max_length=60, required=False)
    factor = forms.CharField(max_length=60, required=False)
    values = forms.CharField(max_length=400)
    names = forms.CharField(max_length=400, required=False)

    def command(self) -> Command:
        fields = {name: self.cleaned_data[name] for name in self.fields if name != "revision"}
        return AddScale(store.new_key(), **fields)
