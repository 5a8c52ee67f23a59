"""What comes in from the sheet."""

from django import forms


class CellForm(forms.Form):
    """A value typed into a cell, where it holds, and the revision it was typed against."""

    token = forms.CharField(max_length=200)
    condition = forms.CharField(max_length=2000)
    value = forms.CharField(max_length=4000, required=False, strip=False)
    revision = forms.IntegerField(min_value=0)
    clear = forms.BooleanField(required=False)
