"""The form of scales."""

from __future__ import annotations

from django import forms

from prism.edits import Command
from prism.measures.commands import AddScale
from studio.rooms.writing import CommandForm
from studio.store import projects as store


class ScaleForm(CommandForm):
    """A scale on a base and a factor."""

    kind = forms.CharField(max_length=40)
    group = forms.CharField(max_length=200, label="Group")
    base = forms.CharField(max_length=60, required=False, label="Base")
    factor = forms.CharField(max_length=60, required=False, label="Factor")
    values = forms.CharField(max_length=400)
    names = forms.CharField(max_length=400, required=False, label="Names (empty: default)")

    def command(self) -> Command:
        fields = {name: self.cleaned_data[name] for name in self.fields if name != "revision"}
        return AddScale(store.new_key(), **fields)
