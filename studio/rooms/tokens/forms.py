"""What comes in from the sheet."""

from django import forms


class CellForm(forms.Form):
    """A value typed into a cell, where it holds, and the revision it was typed against.

    ``condition`` is ``chosen`` for the modes chosen axis by axis, or ``cell`` for where a value typed
    into the cell of ``mode`` holds. ``clear`` takes the stored value away, ``keep`` lets it stand,
    ``typed`` says that it was typed into the sheet and not beside it.
    """

    token = forms.CharField(max_length=200)
    condition = forms.CharField(max_length=2000)
    value = forms.CharField(max_length=4000, required=False, strip=False)
    revision = forms.IntegerField(min_value=0)
    clear = forms.BooleanField(required=False)
    keep = forms.BooleanField(required=False)
    typed = forms.BooleanField(required=False)
    mode = forms.CharField(max_length=200, required=False)

    def picks(self):
        """The modes chosen axis by axis, as pairs, where the condition says ``chosen``."""
        return {
            name.removeprefix("at-"): value
            for name, value in self.data.items()
            if name.startswith("at-") and value
        }


class DescribeForm(forms.Form):
    """What is said of a token beside its values."""

    revision = forms.IntegerField(min_value=0)
    token = forms.CharField(max_length=200)
    path = forms.CharField(max_length=600)
    description = forms.CharField(max_length=8000, required=False)
    uses = forms.CharField(max_length=1000, required=False)
    export_name = forms.CharField(max_length=300, required=False)
    private = forms.BooleanField(required=False)
    is_deprecated = forms.BooleanField(required=False)
    deprecated = forms.CharField(max_length=1000, required=False)
