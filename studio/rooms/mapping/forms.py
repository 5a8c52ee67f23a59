"""What comes in for many cells at once."""

import json

from django import forms

from studio.numbers import whole


class CellsForm(forms.Form):
    """Cells by token and mode: rows that are ticked, or a range of the sheet as JSON lists."""

    revision = forms.IntegerField(min_value=0)
    act = forms.CharField(max_length=40, required=False)
    text = forms.CharField(max_length=1_000_000, required=False, strip=False)
    replacement = forms.CharField(max_length=300, required=False)
    ramp = forms.CharField(max_length=200, required=False)
    source = forms.CharField(max_length=200, required=False)
    target = forms.CharField(max_length=200, required=False)
    after = forms.CharField(max_length=600, required=False)

    def tokens(self):
        """Keys of the tokens meant, in order."""
        return _list(self.data.get("tokens", "")) or self.data.getlist("pick")[:20_000]

    def modes(self):
        """Keys of the modes meant, in order."""
        return _list(self.data.get("modes", "")) or self.data.getlist("mode")[:400]


def _list(text):
    try:
        found = json.loads(text[:2_000_000]) if text else []
    except (ValueError, RecursionError):
        return []
    return [one for one in found if isinstance(one, str)] if isinstance(found, list) else []


class GroupForm(forms.Form):
    """A group and its new path."""

    revision = forms.IntegerField(min_value=0)
    group = forms.CharField(max_length=600)
    path = forms.CharField(max_length=600)


class TierForm(forms.Form):
    """Groups whose tokens are to be of a tier."""

    revision = forms.IntegerField(min_value=0)
    tier = forms.CharField(max_length=20)

    def groups(self):
        """Paths of the groups meant."""
        return self.data.getlist("group")[:2000]


class MarkForm(forms.Form):
    """A mark of the ladder set on another step."""

    revision = forms.IntegerField(min_value=0)
    token = forms.CharField(max_length=200)
    mode = forms.CharField(max_length=200, required=False)
    step = forms.CharField(max_length=200)


class LinksForm(forms.Form):
    """Links that were accepted, by their places in the review."""

    revision = forms.IntegerField(min_value=0)

    def accepted(self):
        """Places of the accepted links."""
        return {whole(one) for one in self.data.getlist("take")[:20_000]} - {None}
