"""Forms over a project that is about to be created."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django import forms
from django.http import QueryDict

from prism.errors import EditError, PrismError
from prism.starters import STARTERS
from prism.starters.naming import NAMINGS, read_prefix
from prism.starters.plan import PARTS, NamedColor, Plan, check, read_colors, read_file, sorted_out
from studio.store import projects as store

MAX_FILE = 24 * 1024 * 1024
_NAMES = [(naming.id, " · ".join(naming.example())) for naming in NAMINGS]


class PlanForm(forms.Form):
    """What a new project is to hold."""

    name = forms.CharField(max_length=120, required=False, label="Name")
    more = forms.CharField(max_length=4000, required=False, label="Add a color")
    start = forms.ChoiceField(
        choices=[(starter.id, starter.name) for starter in STARTERS],
        required=False,
        widget=forms.RadioSelect,
        label="Starting point",
    )
    naming = forms.ChoiceField(
        choices=_NAMES, required=False, widget=forms.RadioSelect, label="Names"
    )
    name_prefix = forms.CharField(max_length=60, required=False, label="Prefix")

    def __init__(self, data: QueryDict) -> None:
        super().__init__(data, label_suffix="")
        self.fields["name"].widget.attrs = {"autocomplete": "off", "autofocus": True}
        self.fields["name_prefix"].widget.attrs = {"autocomplete": "off", "spellcheck": "false"}

    @property
    def colors(self) -> list[NamedColor]:
        """The colors as they were sent, those without a value left out."""
        data: Any = self.data
        pairs = zip(data.getlist("color-name"), data.getlist("color-value"), strict=False)
        return [
            NamedColor(name.strip()[:200], text.strip()[:200])
            for name, text in pairs
            if text.strip()
        ]

    @property
    def parts(self) -> list[tuple[str, str, bool]]:
        """What can be left out: id, words, and whether it is in."""
        data: Any = self.data
        kept = data.getlist("with")
        return [(part, words, part in kept) for part, words in PARTS]

    @property
    def starters(self) -> list[tuple[str, str, str, bool]]:
        """The starting points: id, name, sentence, and whether it is chosen."""
        chosen = self.data.get("start") or STARTERS[0].id
        return [(s.id, s.name, s.sentence, s.id == chosen) for s in STARTERS]

    @property
    def namings(self) -> list[tuple[str, tuple[str, ...], bool]]:
        """The ways to name: id, examples, and whether it is chosen."""
        chosen = self.data.get("naming") or NAMINGS[0].id
        return [(n.id, n.example(), n.id == chosen) for n in NAMINGS]

    @property
    def example(self) -> tuple[str, ...]:
        """Examples of the chosen names."""
        return next((names for _, names, chosen in self.namings if chosen), NAMINGS[0].example())

    def plan(self, *, named: bool = False) -> Plan:
        """What was filled in. Raises ``PrismError``, naming the field, for what is wrong; without a
        name only where ``named``."""
        if not self.is_valid():
            field, errors = next(iter(self.errors.items()))
            label = self.fields[field].label if field in self.fields else ""
            raise EditError(" ".join(map(str, errors)), place=str(label or ""))
        values = self.cleaned_data
        name = values["name"].strip()
        if named and not name:
            raise EditError("A project needs a name.", fix="Type one above the colors.")
        colors = self.colors
        check(colors)
        try:
            colors += read_colors(values["more"]) if values["more"].strip() else ()
        except PrismError:
            if named:  # what is still being typed is no color yet
                raise
        plan = sorted_out(colors)
        return replace(
            plan,
            name=name,
            start=values["start"] or STARTERS[0].id,
            naming=values["naming"] or NAMINGS[0].id,
            prefix=read_prefix(values["name_prefix"]),
            without=frozenset(part for part, _, kept in self.parts if not kept),
        )

    def asked(self) -> str:
        """What was filled in, as the query of an address."""
        data: Any = self.data
        fields = QueryDict(mutable=True)
        for name in (
            "name",
            "color-name",
            "color-value",
            "more",
            "start",
            "naming",
            "name_prefix",
            "with",
        ):
            if data.getlist(name):
                fields.setlist(name, data.getlist(name))
        return fields.urlencode()


class ColorsForm(forms.Form):
    """A text or a file with colors."""

    text = forms.CharField(max_length=400_000, required=False)
    file = forms.FileField(
        required=False, allow_empty_file=True, label="Choose a picture or a file"
    )

    def colors(self) -> tuple[NamedColor, ...]:
        """The colors. Raises ``PrismError`` where there are none."""
        if not self.is_valid():
            raise EditError(" ".join(str(e) for errors in self.errors.values() for e in errors))
        file = self.cleaned_data["file"]
        if file is None:
            return read_colors(self.cleaned_data["text"])
        if file.size > MAX_FILE:
            raise EditError(
                f"{file.name} has {file.size / 1e6:.0f} MB; at most {MAX_FILE / 1e6:.0f} MB are read."
            )
        return read_file(file.read(), file.name, store.new_key)
