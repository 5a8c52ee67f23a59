"""Forms over whole projects."""

from __future__ import annotations

from django import forms
from django.contrib.auth import get_user_model

from studio.projects.plans import ColorsForm as ColorsForm
from studio.store.models import Membership


class NameForm(forms.Form):
    """A project's name."""

    name = forms.CharField(
        max_length=120, error_messages={"required": "A project needs a name."}, label="Name"
    )


class MemberForm(forms.Form):
    """A person by account name, and a role."""

    username = forms.CharField(max_length=150, label="Account name")
    role = forms.ChoiceField(
        choices=Membership.Role.choices, initial=Membership.Role.EDITOR, label="as"
    )

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
