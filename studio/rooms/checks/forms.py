"""Forms of the checks."""

from __future__ import annotations

from django import forms

from prism.contrast.pairing_commands import AddPairing
from prism.contrast.rule_commands import PairByPattern
from prism.edits import Command
from prism.resolution.contrast import REQUIRED
from studio.rooms.writing import CommandForm
from studio.store import projects as store


class ReviewForm(CommandForm):
    """The moves that are selected, and the tokens that are kept as they are."""


class PairingForm(CommandForm):
    """A new pairing: tokens by path, and a use."""

    foreground = forms.CharField(max_length=600, label="foreground")
    background = forms.CharField(max_length=600, label="on")
    page = forms.CharField(max_length=600, label="over page", required=False)
    use = forms.ChoiceField(choices=[(use, use) for use in REQUIRED], label="as")
    enhanced = forms.BooleanField(required=False, label="enhanced")
    reason = forms.CharField(max_length=300, required=False)
    revision = forms.IntegerField(min_value=0, widget=forms.HiddenInput)

    def command(self) -> Command:
        fields = {name: self.cleaned_data[name] for name in self.fields if name != "revision"}
        if "*" in fields["foreground"] + fields["background"]:
            kept = {name: fields[name] for name in ("foreground", "background", "use", "enhanced")}
            return PairByPattern(store.new_key(), **kept)
        return AddPairing(store.new_key(), **fields)
