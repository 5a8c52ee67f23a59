"""What comes in with a scheme of names."""

from django import forms

MOST_PARTS = 8


class SchemeForm(forms.Form):
    """A scheme: its name and lines of parts with their words."""

    revision = forms.IntegerField(min_value=0)
    scheme = forms.CharField(max_length=200, required=False)
    name = forms.CharField(max_length=120, required=False)

    def lines(self):
        """Name and words of each part, in order."""
        return [
            (self.data.get(f"part-{n}", "")[:60], self.data.get(f"words-{n}", "")[:2000])
            for n in range(MOST_PARTS)
        ]


class NamesForm(forms.Form):
    """The names of a scheme that are wanted."""

    revision = forms.IntegerField(min_value=0)
    scheme = forms.CharField(max_length=200)

    def chosen(self):
        """Paths of the names that are not struck."""
        return set(self.data.getlist("take")[:5000])
