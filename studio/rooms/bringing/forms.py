"""What comes in: text with colors, files, pictures, and what is to be done with each color."""

from django import forms

from prism.color import space
from prism.palette.importing import ACTIONS, Choice, Use
from prism.palette.text_colors import MAX_FOUND, MAX_TEXT

MAX_FILE = 24 * 1024 * 1024
KINDS = ("color", "ramp", "token")


def _small_enough(file):
    if file and file.size > MAX_FILE:
        raise forms.ValidationError(
            f"{file.name}: {file.size / 1e6:.0f} MB came, and at most {MAX_FILE / 1e6:.0f} MB are "
            "read. Nothing was stored."
        )
    return file


class TextForm(forms.Form):
    """Text or a file that holds colors."""

    text = forms.CharField(max_length=MAX_TEXT, required=False, strip=False)
    file = forms.FileField(required=False, allow_empty_file=True)

    def clean_file(self):
        return _small_enough(self.cleaned_data["file"])

    def clean(self):
        said = super().clean()
        if not self.errors and not said.get("text", "").strip() and not said.get("file"):
            raise forms.ValidationError("Nothing came. Paste some text, or choose a file.")
        return said


class PlaceForm(forms.Form):
    """The colors that were looked at, each with what is to be done with it."""

    revision = forms.IntegerField(min_value=0)
    count = forms.IntegerField(min_value=1, max_value=MAX_FOUND)
    group = forms.CharField(max_length=200, required=False)
    purpose = forms.CharField(max_length=200, required=False)

    def choices(self):
        """The chosen colors, in order."""
        found = []
        for number in range(self.cleaned_data["count"]):
            if self.data.get(f"take-{number}"):
                action = self.data.get(f"action-{number}", "add")
                found.append(
                    Choice(
                        self.data.get(f"path-{number}", "")[:300].strip(),
                        self.data.get(f"text-{number}", "")[:400],
                        action if action in ACTIONS else "add",
                    )
                )
        return found


class PictureForm(forms.Form):
    """A picture, and how many colors to look for."""

    file = forms.FileField(
        allow_empty_file=True,
        error_messages={"required": "No picture came. Choose one, drop it, or paste it."},
    )
    count = forms.IntegerField(
        min_value=5,
        max_value=12,
        error_messages={
            "min_value": "A picture gives 5 to 12 colors.",
            "max_value": "A picture gives 5 to 12 colors.",
        },
    )

    def clean_file(self):
        return _small_enough(self.cleaned_data["file"])


class AssignForm(forms.Form):
    """Where the colors of a picture go."""

    revision = forms.IntegerField(min_value=0)
    picture = forms.SlugField(max_length=40)

    def uses(self, clusters):
        """A use for each color that is not left out."""
        found = []
        for number, cluster in enumerate(clusters):
            kind = self.data.get(f"kind-{number}", "")
            target = self.data.get(f"target-{number}", "")[:300].strip()
            if kind in KINDS:
                found.append(Use(space.parse(cluster["hex"]), kind, target))
        return found
