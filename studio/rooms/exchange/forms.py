"""Forms of the exchange: files."""

from __future__ import annotations

from typing import Any

from django import forms

MAX_UPLOAD = 24 * 1024 * 1024
#: What counts where a table has two values for one name.
DUPLICATES = [
    ("", "refuse them"),
    ("first", "the first counts"),
    ("last", "the last counts"),
    ("number", "keep both, the later one numbered"),
]


class ManyFilesInput(forms.ClearableFileInput):
    """An input for several files."""

    allow_multiple_selected = True


class ManyFilesField(forms.FileField):
    """One or more files as a list."""

    widget = ManyFilesInput

    def clean(self, data: Any, initial: Any = None) -> Any:
        files = data if isinstance(data, list | tuple) else [data]
        if files in ([None], []):
            return []
        return [super(ManyFilesField, self).clean(file, initial) for file in files]


class ImportForm(forms.Form):
    """Token files, several at once or one archive, and what to do with them."""

    files = ManyFilesField(  # type: ignore[assignment]
        required=False,
        error_messages={"empty": "The file is empty."},
        label="Choose files, or drop them here",
    )
    text = forms.CharField(
        label="or paste text: a style sheet, JSON, a table, a list of colors",
        max_length=4_000_000,
        required=False,
        strip=False,
        widget=forms.Textarea(attrs={"rows": 5, "spellcheck": "false"}),
    )
    into = forms.ChoiceField(
        choices=[("new", "a new project"), ("here", "this project, in place of its tokens")],
        initial="new",
    )
    duplicates = forms.ChoiceField(choices=DUPLICATES, required=False, label="Duplicates")
    name = forms.CharField(max_length=120, required=False)
    revision = forms.IntegerField(min_value=0, required=False)

    def clean(self) -> dict[str, Any]:
        values = super().clean() or {}
        if not self.errors and not values.get("files") and not values.get("text", "").strip():
            raise forms.ValidationError(
                "There is nothing to import. Choose token files, one .zip of them or a style sheet, or "
                "paste text."
            )
        return values

    def clean_files(self) -> Any:
        files = self.cleaned_data["files"]
        total = sum(file.size for file in files)
        if total > MAX_UPLOAD:
            raise forms.ValidationError(
                f"{files[0].name}: the upload has {total / 1e6:.0f} MB; at most "
                f"{MAX_UPLOAD / 1e6:.0f} MB are read. Nothing was stored."
            )
        return files
