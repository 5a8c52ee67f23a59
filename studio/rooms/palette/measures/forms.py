"""The form of scales."""

from __future__ import annotations

from django import forms

from prism.edits import Command
from prism.edits.measures import AddScale
from studio.rooms.writing import CommandForm
from studio.store import projects as store


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
