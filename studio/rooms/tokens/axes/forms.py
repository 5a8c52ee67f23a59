"""Forms of axes and modes."""

from __future__ import annotations

from django import forms

from prism.edits import Command
from prism.edits.axes import DeriveMode
from studio.rooms.writing import CommandForm
from studio.store import projects as store

SCHEMES = [("", ""), ("light", "light"), ("dark", "dark")]


class ProposalForm(forms.Form):
    """A mode to be proposed from another."""

    axis = forms.CharField(max_length=200)
    source = forms.CharField(max_length=200)
    name = forms.CharField(max_length=200)
    scheme = forms.ChoiceField(choices=SCHEMES, required=False)


class DeriveForm(ProposalForm, CommandForm):
    """A mode as it was proposed, and the rows that were accepted."""

    @property
    def accepted(self) -> tuple[str, ...]:
        """Keys of the tokens whose proposed value is taken."""
        return tuple(self.texts("take"))

    def command(self) -> Command:
        values = self.cleaned_data
        return DeriveMode(
            store.new_key(),
            values["axis"],
            values["source"],
            values["name"],
            values["scheme"],
            self.accepted,
        )
