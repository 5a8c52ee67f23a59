"""What comes in for axes and modes."""

from django import forms


class ActForm(forms.Form):
    """One act on an axis or a mode."""

    revision = forms.IntegerField(min_value=0)
    act = forms.CharField(max_length=40)
    axis = forms.CharField(max_length=200, required=False)
    mode = forms.CharField(max_length=200, required=False)
    name = forms.CharField(max_length=200, required=False)
    text = forms.CharField(max_length=1000, required=False)
    source = forms.CharField(max_length=200, required=False)


class ProposalForm(forms.Form):
    """A mode to be proposed from another."""

    axis = forms.CharField(max_length=200)
    source = forms.CharField(max_length=200)
    name = forms.CharField(max_length=200)
    scheme = forms.ChoiceField(
        choices=[("", ""), ("light", "light"), ("dark", "dark")], required=False
    )


class TakeForm(ProposalForm):
    """A mode as it was proposed, and the rows that were accepted."""

    revision = forms.IntegerField(min_value=0)

    def accepted(self):
        """Keys of the tokens whose proposed value is taken."""
        return set(self.data.getlist("take")[:20_000])
