"""What comes in from measures and copy: values, single tokens, scales."""

from django import forms

MEASURE_TYPES = (
    "dimension",
    "number",
    "duration",
    "fontWeight",
    "fontFamily",
    "cubicBezier",
    "strokeStyle",
)
COPY_TYPES = ("string", "boolean")


class ValueForm(forms.Form):
    """A value for a token, in a mode of an axis or everywhere."""

    revision = forms.IntegerField(min_value=0)
    token = forms.CharField(max_length=200)
    value = forms.CharField(max_length=4000, strip=False)
    mode = forms.CharField(max_length=200, required=False)


class AddForm(forms.Form):
    """A single token."""

    revision = forms.IntegerField(min_value=0)
    path = forms.CharField(max_length=300)
    type = forms.ChoiceField(choices=[(one, one) for one in MEASURE_TYPES + COPY_TYPES])
    value = forms.CharField(max_length=2000, strip=False)


class ScaleForm(forms.Form):
    """A scale on a base and a factor."""

    revision = forms.IntegerField(min_value=0)
    kind = forms.CharField(max_length=40)
    group = forms.CharField(max_length=200)
    base = forms.CharField(max_length=60, required=False)
    factor = forms.CharField(max_length=60, required=False)
    values = forms.CharField(max_length=400)
    names = forms.CharField(max_length=400, required=False)
