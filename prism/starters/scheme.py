"""A whole scheme from a few colors: ramps, semantic colors in light and dark, rules and measures."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import replace

from prism.brands import fills
from prism.brands.fills import Fill, Swatch
from prism.changes.structure import add_tokens
from prism.color import space
from prism.expressions.types import font_family
from prism.measures import scales
from prism.model.document import (
    Axis,
    Document,
    Follows,
    Group,
    Mode,
    Page,
    Rule,
    TellingApart,
    Token,
)
from prism.model.values import BASE, Condition, Expression
from prism.palette import purposes, ramp_edits, ramps
from prism.palette.ramp_edits import NewKey
from prism.roles import rules
from prism.starters import meanings, status_colors
from prism.starters.meanings import Meaning
from prism.starters.naming import Naming, naming
from prism.starters.plan import NEUTRAL_CHROMA, STATUS_COLORS, STATUSES, NamedColor, Plan

LIGHT_AND_DARK = (
    Mode("light", "light", "By day", "light"),
    Mode("dark", "dark", "By night", "dark"),
)
_DARK = Condition.of({"appearance": "dark"})
#: What stands for the brand where nobody named a color.
DEFAULT = NamedColor("brand", "#2f5fa8")
#: Names that semantic tokens take; a color that is called so gets another name.
_TAKEN = frozenset(
    (
        *("surface", "text", "line", "focus", "field", "action", "overlay", "status", "chart"),
        *("gap", "corner", "lift", "color", "bg", "fg", "border", "background", "accent"),
        *("white", "black", "space", "radius", "size", "weight", "shadow", "duration", *STATUSES),
    )
)
_SCALES = ("space", "radius", "size", "weight", "duration", "shadow")
_GAPS = {"tight": "2", "control": "3", "row": "4", "part": "8", "page": "12"}
#: Sizes of type by what they are for, as steps of their scale.
_SIZES = {"small": -1, "body": 0, "head": 2}
_FONT = "system-ui, sans-serif"
_GROUPS = {
    "text": "Words and figures",
    "surface": "What things lie on",
    "line": "What keeps parts apart",
    "action": "What can be done",
    "status": "How something stands",
    "overlay": "What is laid over",
}


class _Builder:
    """The document while it is made, with the ramps that meanings speak of."""

    def __init__(self, plan: Plan, new_key: NewKey, beside: Sequence[NamedColor] = ()) -> None:
        self.plan, self.new_key, self.beside = plan, new_key, beside
        self.naming: Naming = naming(plan.naming)
        modes = LIGHT_AND_DARK if plan.has("dark") else LIGHT_AND_DARK[:1]
        follows = Follows("prefers-color-scheme", (("dark", "dark"),)) if len(modes) > 1 else None
        about = "How much light there is around the screen"
        self.axis = Axis("appearance", "appearance", modes, "light", about, follows)
        self.document = Document(name=plan.name, axes=(self.axis,), purposes=purposes.STARTING)
        self.colors = plan.colors or (DEFAULT,)
        taken = set(_TAKEN)
        self.neutral = _free(plan.neutral.name if plan.neutral else "neutral", taken)
        self.brands = [_free(color.name, taken) for color in self.colors]
        self.keys: dict[str, str] = {}

    # Raw colors

    def add_ramp(self, name: str, base: str, purpose: str) -> None:
        self.document = ramp_edits.add_ramp(
            self.document, name, {"seed": base}, self.new_key, purpose=purpose
        )

    def add_palette(self, extra: Mapping[str, str]) -> None:
        """The ramps: brands, neutral, statuses, and ``extra`` ones of charts; black and white."""
        for name, color in zip(self.brands, self.colors, strict=True):
            self.add_ramp(name, color.base, "identity")
        neutral = self.plan.neutral.base if self.plan.neutral else self._tinted_neutral()
        self.add_ramp(self.neutral, neutral, "ink")
        if self.plan.has("statuses"):
            stated = dict(self.plan.statuses)
            for status in STATUSES:
                own = stated.get(status)
                base = (
                    own.base
                    if own
                    else status_colors.away_from(STATUS_COLORS[status], self._all_brands)
                )
                self.add_ramp(status, base, "signal")
        for name, base in extra.items():
            self.add_ramp(name, base, "chart")
        ends = [
            ramp_edits.step_token(self.new_key(), "white", "#ffffff"),
            ramp_edits.step_token(self.new_key(), "black", "#000000"),
        ]
        after = ramp_edits.last_raw_color(self.document)
        self.document = add_tokens(self.document, ends, after=after)
        grounds = [""]
        if self.plan.has("overlays"):
            for end, group, shares in (
                (ends[1], "overlay dark", (8, 16, 50, 72)),
                (ends[0], "overlay light", (8, 12)),
            ):
                self.document = ramp_edits.veils(
                    self.document, end.key, shares, group, self.new_key
                )
                grounds.append(group)
        for group in grounds:
            self.document = purposes.assign(self.document, group, "ground", self.new_key)

    @property
    def _all_brands(self) -> list[space.Color]:
        return [color.color for color in (*self.colors, *self.beside)]

    def _tinted_neutral(self) -> str:
        """A middle gray with a trace of the leading color."""
        _, chroma, hue = ramps.oklch(self.colors[0].color)
        tint = 0.012 if chroma >= NEUTRAL_CHROMA else 0.0
        return space.hex_text(space.fit(space.Color("oklch", (0.55, tint, hue)), "srgb"))

    # Semantic colors

    def mean(self, wanted: Iterable[Meaning], status: str = "") -> None:
        """Add a semantic color for each meaning."""
        made = []
        for meaning in wanted:
            light, dark = (
                meanings.with_ramps(value, N=self.neutral, B=self.brands[0], S=status)
                for value in (meaning.light, meaning.dark)
            )
            values = [(BASE, Expression(light))]
            if self.plan.has("dark") and dark != light:
                values.append((_DARK, Expression(dark)))
            key = self.keys[meaning.path] = self.new_key()
            made.append(
                Token(
                    key,
                    self.naming.path(meaning.path, self.plan.prefix),
                    "color",
                    "semantic",
                    tuple(values),
                    description=self._spelled(meaning.description),
                    role=meaning.role,
                    belongs_to=self.keys.get(meaning.belongs_to, ""),
                )
            )
        self.document = add_tokens(self.document, made)

    def _spelled(self, description: str) -> str:
        """A description with the names of other tokens as this project has them."""
        words = (
            self.naming.path(word, self.plan.prefix)
            if word.count(".") and word[-1] != "."
            else word
            for word in description.split()
        )
        return " ".join(words)

    def mean_fill(self, group: str, role: str, ramp: str) -> None:
        """Add a fill in the color of a ramp, its states and its label."""
        light = self._fill(ramp, dark=False)
        page = self._at(f"{self.neutral}.1").color
        dark = self._fill(
            ramp, dark=True, as_strong=fills.strength(self._at(light.rest[1:-1]), page)
        )
        start = f"{group}.fill"
        says = {
            "$root": "The one thing to do" if group == "action" else f"What shows {ramp}",
            "hover": "Under the pointer",
            "pressed": "While it is pressed",
        }
        if group == "action":
            says["selected"] = "While it is chosen"
        for state, description in says.items():
            part = {"$root": "rest", "selected": "pressed"}.get(state, state)
            self.mean(
                [
                    Meaning(
                        f"{start}.{state}",
                        role if state == "$root" else f"{role} {state}",
                        getattr(light, part),
                        getattr(dark, part),
                        description,
                        "" if state == "$root" else f"{start}.$root",
                    )
                ]
            )
        label = "$root" if group == "action" else ""
        path = f"{group}.label.{label}" if label else f"{group}.label"
        self.mean(
            [Meaning(path, "label", light.label, dark.label, f"On {start}", f"{start}.$root")]
        )

    def _fill(self, name: str, *, dark: bool, as_strong: float | None = None) -> Fill:
        ramp = next(ramp for ramp in self.document.ramps if ramp.name == name)
        keys = [*ramp.steps, *([ramp.base] if ramp.base else [])]
        swatches = {key: self._swatch(key) for key in keys}
        color = dict(zip(self.brands, self.colors, strict=True))[name].color
        base = swatches.get(ramp.base) or next(
            swatch for swatch in swatches.values() if _same(swatch.color, color)
        )
        labels = [self._at(path) for path in ("white", f"{self.neutral}.11", "black")]
        grounds = (f"{self.neutral}.11", f"{self.neutral}.10") if dark else (f"{self.neutral}.1",)
        return fills.choose(
            base,
            [swatches[key] for key in ramp.steps],
            labels,
            [self._at(path).color for path in grounds],
            stands_out=dark,
            as_strong=as_strong,
        )

    def _at(self, path: str) -> Swatch:
        token = self.document.token_at(path)
        assert token is not None, path
        return self._swatch(token.key)

    def _swatch(self, key: str) -> Swatch:
        token = self.document.token(key)
        assert token is not None
        value = token.value()
        assert isinstance(value, Expression)
        return Swatch(f"{{{token.path}}}", space.parse_function(value.text))

    # The rest

    def tell_statuses_apart(self) -> None:
        """A set of the fills of the statuses; what they mean is written beside them."""
        fills = tuple(self.keys[f"status.{status}.fill"] for status in STATUSES)
        apart = TellingApart(self.new_key(), "statuses", fills, "an icon and a word")
        self.document = replace(self.document, telling_apart=(apart,))

    def measure(self, path: str, type: str, values: Mapping[Condition, str]) -> None:
        """Add a semantic measure."""
        stored = tuple((condition, Expression(text)) for condition, text in values.items())
        self.document = add_tokens(
            self.document, [Token(self.new_key(), path, type, "semantic", stored)]
        )

    def add_measures(self) -> None:
        """The scales, and what is measured by them."""
        for name in _SCALES:
            kind = scales.kind_of(name)
            self.document = scales.add_scale(
                self.document, kind, kind.group, kind.base, kind.factor, kind.values, self.new_key
            )
        for name, step in _GAPS.items():
            self.measure(f"gap.{name}", "dimension", {BASE: f"{{space.{step}}}"})
        self.measure("corner.card", "dimension", {BASE: "{radius.2}"})
        self.measure("corner.control", "dimension", {BASE: "{radius.1}"})
        self.measure("lift.card", "shadow", {BASE: "{shadow.1}"})
        kind = scales.kind_of("size")
        steps = [int(exponent) for exponent in kind.values.split()]
        sizes = [t for t in self.document.tokens if t.group == kind.group and t.tier == "raw"]
        by_step = dict(zip(steps, sizes[-len(steps) :], strict=True))
        for name, exponent in _SIZES.items():
            self.measure(f"type.{name}", "dimension", {BASE: f"{{{by_step[exponent].path}}}"})
        font = Token(
            self.new_key(),
            "font.body",
            "fontFamily",
            "semantic",
            ((BASE, font_family.read_css(_FONT)),),
        )
        self.document = add_tokens(self.document, [font])


def is_taken(name: str) -> bool:
    """Whether a ramp cannot have this name."""
    return name.lower() in _TAKEN


def _free(name: str, taken: set[str]) -> str:
    """A name that is not taken, and is from now on."""
    wanted, number = name, 1
    while name.lower() in taken:
        number += 1
        name = f"{wanted} color" if number == 2 else f"{wanted} {number}"
    taken.add(name.lower())
    return name


def described(document: Document, about: str, page: str, new_key: NewKey) -> Document:
    """The document with what it is, and a page on how it is meant."""
    title = "How this scheme is meant"
    body = f"# {title}\n\n{page.strip()}\n"
    return replace(document, description=about, pages=(Page(new_key(), title, body),))


def _same(color: space.Color, other: space.Color) -> bool:
    return space.rgba8(color)[:3] == space.rgba8(space.fit(other, "srgb"))[:3]


def build(
    plan: Plan,
    new_key: NewKey,
    *,
    ramps: Mapping[str, str] | None = None,
    more: Iterable[Meaning] = (),
    beside: Sequence[NamedColor] = (),
) -> Document:
    """The document of a plan, its leading color on actions and the others on accents.

    ``ramps`` are further ramps by name, for charts, ``more`` further meanings, and ``beside`` the colors of
    brands that come later.
    """
    builder = _Builder(plan, new_key, beside)
    builder.add_palette(ramps or {})
    builder.mean(meanings.SURFACES)
    builder.mean(meanings.TEXTS)
    builder.mean(meanings.LINES)
    builder.mean(meanings.FIELDS)
    builder.mean_fill("action", "fill action", builder.brands[0])
    builder.mean((*meanings.QUIET, *meanings.DISABLED))
    for place, name in enumerate(builder.brands[1:]):
        builder.mean_fill("accent" if place == 0 else f"accent {place + 1}", "fill accent", name)
    if plan.has("statuses"):
        for status in STATUSES:
            builder.mean(meanings.of_status(status), status)
        builder.tell_statuses_apart()
    if plan.has("overlays"):
        builder.mean(meanings.OVERLAYS)
    builder.mean(more)
    if plan.has("measures"):
        builder.add_measures()
    groups = tuple(
        Group(builder.naming.path(group, plan.prefix), description)
        for group, description in _GROUPS.items()
    )
    kept = tuple(Rule(rule, rule) for rule in rules.BY_ID)
    return replace(builder.document, groups=groups, rules=kept)
