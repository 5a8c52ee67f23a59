"""What comes in: files."""

from django import forms

MAX_UPLOAD = 24 * 1024 * 1024


class ManyFilesInput(forms.ClearableFileInput):
    allow_multiple_selected = True


class ManyFilesField(forms.FileField):
    """One or more files as a list."""

    widget = ManyFilesInput

    def clean(self, data, initial=None):
        files = data if isinstance(data, list | tuple) else [data]
        return [super(ManyFilesField, self).clean(one, initial) for one in files]


class BringForm(forms.Form):
    """Design Tokens files, several at once or one archive, and what to do with them."""

    files = ManyFilesField(
        label="Files",
        error_messages={
            "required": "No file came. Choose token files, one .zip of them, or a style sheet.",
            "empty": "The file is empty.",
        },
    )
    into = forms.ChoiceField(
        choices=[("new", "a new project"), ("here", "this project, in place of its tokens")],
        initial="new",
    )
    name = forms.CharField(max_length=120, required=False)
    revision = forms.IntegerField(min_value=0, required=False)

    def clean_files(self):
        files = self.cleaned_data["files"]
        total = sum(file.size for file in files)
        if total > MAX_UPLOAD:
            raise forms.ValidationError(
                f"{files[0].name}: {total / 1e6:.0f} MB came, and at most "
                f"{MAX_UPLOAD / 1e6:.0f} MB are read. Nothing was stored."
            )
        return files
