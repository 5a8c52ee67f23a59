"""What comes in from the palette: recipes, colors, points, small acts."""

from django import forms

from prism.color.notation import NOTATIONS
from prism.palette.recipes import DEFAULTS

METHODS = (
    ("anchored", "anchored: each step meets a contrast"),
    ("even", "even: equal lightness steps"),
)
GAMUTS = (("srgb", "sRGB"), ("display-p3", "Display P3"))


class WriteForm(forms.Form):
    """Anything that is stored says against which revision."""

    revision = forms.IntegerField(min_value=0)


class RampForm(WriteForm):
    """A recipe as text, the name of a new ramp or the key of one that is there."""

    ramp = forms.CharField(max_length=200, required=False)
    name = forms.CharField(max_length=200, required=False)
    names = forms.CharField(max_length=1000, required=False)
    purpose = forms.CharField(max_length=200, required=False)

    def fields_of_recipe(self):
        """The recipe's fields, as they were sent; a box that is not ticked sends nothing."""
        found = {name: self.data.get(name, "")[:2000] for name in DEFAULTS}
        found["keep-seed"] = "yes" if self.data.get("keep-seed") == "yes" else "no"
        return found


class ColorForm(WriteForm):
    """A value for a raw color."""

    token = forms.CharField(max_length=200)
    value = forms.CharField(max_length=2000)


class PointForm(WriteForm):
    """A step moved to a lightness and a chroma."""

    token = forms.CharField(max_length=200)
    lightness = forms.FloatField(min_value=0, max_value=1)
    chroma = forms.FloatField(min_value=0, max_value=0.5)
    hue = forms.FloatField()


class ActForm(WriteForm):
    """One of the small acts: its name, what it is done to, and what was typed for it."""

    act = forms.CharField(max_length=40)
    on = forms.CharField(max_length=600, required=False)
    text = forms.CharField(max_length=1000, required=False)
    to = forms.CharField(max_length=200, required=False)


def notation(text):
    """The notation an address asks for, hex without one."""
    return text if text in NOTATIONS else "hex"
