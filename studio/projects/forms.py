"""Forms over whole projects."""

from __future__ import annotations

from django import forms
from django.contrib.auth import get_user_model

from prism.starters import STARTERS
from studio.store.models import Membership


class NameForm(forms.Form):
    """A project's name."""

    name = forms.CharField(max_length=120, error_messages={"required": "A project needs a name."})


BEGINNINGS = (
    ("empty", "empty", "Make the first ramp, or paste colors."),
    ("file", "from a file", "Design Tokens, a style sheet, a palette."),
    ("picture", "from a picture", "Its colors, each for a ramp."),
    *((starter.id, starter.name, starter.sentence) for starter in STARTERS),
)


class NewForm(NameForm):
    """A new project: its name and how it begins."""

    start = forms.ChoiceField(
        choices=[(value, words) for value, words, _ in BEGINNINGS], required=False
    )


class MemberForm(forms.Form):
    """A person by account name, and a role."""

    username = forms.CharField(max_length=150, label="Account name")
    role = forms.ChoiceField(choices=Membership.Role.choices, initial=Membership.Role.EDITOR)

    def clean_username(self) -> str:
        name: str = self.cleaned_data["username"].strip()
        user = get_user_model().objects.filter(username=name).first()
        if user is None:
            raise forms.ValidationError(
                f"There is no account named “{name}”. Ask them to create one, then invite them by "
                "that name."
            )
        self.user = user
        return name
