"""Forms of axes and modes, and of a brand more."""

from __future__ import annotations

from typing import Any

from django import forms
from django.http import QueryDict

from prism.brands.addition import NewBrand
from prism.brands.commands import AddBrand
from prism.brands.draft import CORNERS
from prism.edits import Command
from prism.errors import EditError
from prism.model.document import Document, Mode
from prism.modes import axes_view
from prism.modes.commands import AddMode
from prism.modes.intents import BY_ID, INTENTS
from prism.modes.proposal import scheme_of
from prism.modes.review import Asked
from prism.starters.plan import NamedColor, check, named, read_colors
from studio.rooms.writing import CommandForm
from studio.store import projects as store

SCHEMES = [("", ""), ("light", "light"), ("dark", "dark")]
HOW = [
    ("Proposed, and reviewed first", [(intent.id, intent.sentence) for intent in INTENTS]),
    ("Added at once", [("copy", "A copy of it"), ("empty", "Empty: it inherits everything")]),
]
#: The factor that is proposed where measures change.
FACTOR = 0.8


class ProposalForm(forms.Form):
    """A mode to be proposed from another; without an axis, a new appearance."""

    axis = forms.CharField(max_length=200, required=False)
    source = forms.CharField(max_length=200, required=False)
    name = forms.CharField(max_length=200)
    scheme = forms.ChoiceField(choices=SCHEMES, required=False)
    plain = forms.BooleanField(required=False)
    solving = forms.SlugField(max_length=40, required=False)
    intent = forms.ChoiceField(
        choices=[(intent.id, intent.sentence) for intent in INTENTS], required=False
    )
    factor = forms.FloatField(required=False, label="Lengths times")

    def asked(self, key: str, decided: tuple[tuple[str, str | None], ...] | None = None) -> Asked:
        """The proposal, for a mode of this key; with what is ``decided``, without it what the form says."""
        values = self.cleaned_data
        mode = Mode(key, values["name"], color_scheme=values["scheme"])
        solves = not values["plain"]
        known = self.decided if decided is None else decided
        intent = values["intent"] or INTENTS[0].id
        return Asked(
            values["axis"],
            values["source"],
            mode,
            known,
            solves,
            intent,
            self.hues if BY_ID[intent].asks == "hues" else (),
            self.times if BY_ID[intent].asks == "factor" else 1.0,
        )

    @property
    def hues(self) -> tuple[tuple[str, str], ...]:
        """The ramps that take the place of others, by key: ``hue-KEY`` is the one instead of KEY."""
        data: Any = self.data
        chosen = ((name.removeprefix("hue-"), data[name]) for name in data if name[:4] == "hue-")
        return tuple(sorted((old[:200], new[:200]) for old, new in chosen if old != new))[:200]

    @property
    def times(self) -> float:
        """What lengths are multiplied by."""
        given: float | None = self.cleaned_data["factor"]
        return FACTOR if given is None else given

    @property
    def extra(self) -> tuple[tuple[str, str], ...]:
        """The fields that are asked for beside, as an address keeps them."""
        asks = BY_ID[self.cleaned_data["intent"] or INTENTS[0].id].asks
        if asks == "hues":
            return tuple((f"hue-{old}", new) for old, new in self.hues)
        return (("factor", f"{self.times:g}"),) if asks == "factor" else ()

    @property
    def decided(self) -> tuple[tuple[str, str | None], ...]:
        """What was decided before: nothing."""
        return ()


class DecidedForm(ProposalForm, CommandForm):
    """A proposed mode with what was decided of its rows.

    ``was-KEY`` is the text that a row proposed, empty where it was chosen before; ``text-KEY`` what is
    typed there now; ``take`` the rows that are accepted; ``before`` what was decided when the page was
    made, as KEY for a refused row and KEY=TEXT for a chosen one.
    """

    #: Rows are looked at up to so many.
    MOST = 4000

    @property
    def before(self) -> tuple[tuple[str, str | None], ...]:
        """What was decided when the page was made."""
        parts = (text.partition("=") for text in self.texts("before")[: self.MOST])
        return tuple((key, text[:2000] if holds else None) for key, holds, text in parts)

    @property
    def decided(self) -> tuple[tuple[str, str | None], ...]:
        """The tokens that stay as was decided, by key: with a text, or None where their row is refused."""
        data: Any = self.data
        taken = set(self.texts("take"))
        decided: list[tuple[str, str | None]] = []
        for name in list(data)[: 4 * self.MOST]:
            if name.startswith("was-"):
                key = name.removeprefix("was-")
                text = data.get(f"text-{key}", "").strip()[:2000]
                if key not in taken:
                    decided.append((key, None))
                elif text != data[name]:
                    decided.append((key, text))
        return tuple(decided)


class ModeForm(CommandForm):
    """A mode to be added to an axis: how it starts, and from which."""

    axis = forms.CharField(max_length=200)
    name = forms.CharField(max_length=200, label="Name")
    source = forms.CharField(max_length=200, required=False, label="From")
    how = forms.ChoiceField(choices=HOW, label="Starts as")

    @property
    def proposes(self) -> bool:
        """Whether it is to be proposed and reviewed first."""
        return self.cleaned_data["how"] in BY_ID

    def asked(self, document: Document) -> str:
        """The proposal it asks for, as the query of an address."""
        values = self.cleaned_data
        query = QueryDict(mutable=True)
        query.update({name: values[name] for name in ("axis", "source", "name")})
        intent = BY_ID[values["how"]]
        owner = document.axis(values["axis"])
        there = {mode.key: mode.color_scheme for mode in owner.modes} if owner else {}
        scheme = intent.scheme or there.get(values["source"], "")
        if scheme == "other":
            scheme = scheme_of(document, values["name"], values["axis"], values["source"])
        if intent is not INTENTS[0]:
            query["intent"] = intent.id
        query["scheme"] = scheme
        return query.urlencode()

    def command(self) -> Command:
        values = self.cleaned_data
        source = values["source"] if values["how"] == "copy" else ""
        return AddMode(store.new_key(), values["axis"], values["name"], "", source)


class BrandForm(CommandForm):
    """A brand more: its name, colors, and what else is its own."""

    name = forms.CharField(max_length=120, label="Name", required=False)
    colors = forms.CharField(
        max_length=2000, required=False, label="Colors, the leading one first",
        widget=forms.TextInput(attrs={"placeholder": "#236b53, lamp #e8a343"}),
    )  # fmt: skip
    corners = forms.ChoiceField(choices=list(CORNERS.items()), required=False, label="Corners")
    first = forms.CharField(max_length=120, required=False, label="What is there is called")

    def __init__(self, data: Any, document: Document) -> None:
        super().__init__(data, label_suffix="", auto_id="brand-%s")
        self.own = axes_view.own_texts(document)
        for name in ("name", "colors", "first"):
            self.fields[name].widget.attrs |= {"autocomplete": "off", "spellcheck": "false"}
        for token, label in self.own:
            self.fields[f"text-{token}"] = forms.CharField(
                max_length=400, required=False, label=label
            )

    @property
    def own_fields(self) -> list[Any]:
        """The fields of typefaces and names."""
        return [self[f"text-{token}"] for token, _ in self.own]

    def new(self) -> NewBrand:
        """The brand. Raises ``PrismError`` for what is wrong with it."""
        if not self.is_valid():
            raise EditError(" ".join(str(e) for errors in self.errors.values() for e in errors))
        values = self.cleaned_data
        text = values["colors"].strip()
        colors = read_colors(text) if text else ()
        check(colors)
        texts = tuple((token, values[f"text-{token}"]) for token, _ in self.own)
        return NewBrand(
            values["name"].strip(),
            tuple((_called(color, values["name"], len(colors)), color.base) for color in colors),
            values["corners"],
            texts,
            values["first"].strip(),
        )

    def command(self) -> Command:
        return AddBrand.of(store.new_key(), self.new())


def _called(color: NamedColor, brand: str, count: int) -> str:
    """What a color is called: a single one without a name of its own, after its brand."""
    plain = named([NamedColor("", color.text)])[0].name
    unnamed = color.name == plain or color.name.startswith(f"{plain} ")
    return brand.strip().lower() if unnamed and count == 1 and brand.strip() else color.name
