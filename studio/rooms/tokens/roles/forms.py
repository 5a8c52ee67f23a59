"""Forms of the questions about roles."""

from __future__ import annotations

from django import forms

from prism.edits import Command
from prism.sheet.token_commands import MarkTokens
from studio.rooms.writing import CommandForm


class AnswerForm(CommandForm):
    """What one token is for: the role of the button that was pressed, or the one chosen beside it."""

    about = forms.CharField(max_length=200)
    role = forms.CharField(max_length=60, required=False)
    other = forms.CharField(max_length=60, required=False, label="Another role")

    def command(self) -> Command:
        role = self.cleaned_data["role"] or self.cleaned_data["other"]
        return MarkTokens((self.cleaned_data["about"],), role=role)
