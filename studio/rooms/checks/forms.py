"""What comes in from the checks."""

from django import forms

from prism.resolution.contrast import REQUIRED


class PairingForm(forms.Form):
    """A new pairing: tokens by path, and a use."""

    foreground = forms.CharField(max_length=600, label="Foreground")
    background = forms.CharField(max_length=600, label="on background")
    page = forms.CharField(max_length=600, label="over page", required=False)
    use = forms.ChoiceField(choices=[(use, use) for use in REQUIRED], label="as")
    enhanced = forms.BooleanField(required=False, label="enhanced (7 and 4.5)")
    reason = forms.CharField(max_length=300, required=False)
    revision = forms.IntegerField(min_value=0, widget=forms.HiddenInput)
