"""What the starting points are put together from: ramps, meanings, measures, pairings."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence

from prism.changes.structure import add_tokens
from prism.changes.values import add_pairing
from prism.model.document import Axis, Document, Follows, Group, Mode, Page, Token, Use
from prism.model.values import BASE, Condition, Expression
from prism.palette import building, measures, purposes
from prism.palette.building import NewKey
from prism.resolution.contrast import pairing_for

#: Light and dark value of a meaning, and what it is for; an empty dark one inherits.
Meanings = Mapping[str, tuple[str, str, str]]
#: Foreground, background, use.
Pairs = Sequence[tuple[str, str, Use]]

APPEARANCE = Axis(
    "appearance",
    "appearance",
    (Mode("light", "light", "By day", "light"), Mode("dark", "dark", "By night", "dark")),
    "light",
    "How much light there is around the screen",
    Follows("prefers-color-scheme", (("dark", "dark"),)),
)
DARK = Condition.of({"appearance": "dark"})

#: Meanings that every scheme here has; ``ink`` is its neutral ramp, ``accent`` its identity.
COMMON: Meanings = {
    "text.main": ("{ink.11}", "{ink.1}", "Headings and reading"),
    "text.muted": ("{ink.8}", "{ink.4}", "What supports the main line"),
    "text.link": ("{accent.8}", "{accent.4}", "A way to somewhere else"),
    "surface.page": ("{ink.1}", "{ink.11}", "Under everything"),
    "surface.card": ("{white}", "{ink.10}", "What lies on the page"),
    "surface.sunken": ("{ink.2}", "{black}", "Fields and wells"),
    "line.soft": ("{ink.3}", "{ink.9}", "Between rows"),
    "line.strong": ("{ink.7}", "{ink.5}", "Around what can be used"),
    "action.fill.$root": ("{accent.8}", "{accent.4}", "The one thing to do"),
    "action.fill.hover": ("{accent.9}", "{accent.3}", "Under the pointer"),
    "action.fill.pressed": ("{accent.10}", "{accent.2}", "While it is pressed"),
    "action.label": ("{white}", "{ink.11}", "On action.fill"),
    "signal.success": ("{success.7}", "{success.5}", "It went well"),
    "signal.warning": ("{warning.7}", "{warning.5}", "It needs care"),
    "signal.error": ("{error.7}", "{error.5}", "It went wrong"),
    "signal.information": ("{information.7}", "{information.5}", "Worth knowing"),
    "veil.hover": ("{veil dark.08}", "{veil light.08}", "Over what is under the pointer"),
    "veil.scrim": ("{veil dark.50}", "{veil dark.72}", "Behind a question"),
    "focus.ring": ("{accent.7}", "{accent.5}", "Around what has the focus"),
}
COMMON_PAIRS: Pairs = (
    ("text.main", "surface.page", "text"),
    ("text.main", "surface.card", "text"),
    ("text.main", "surface.sunken", "text"),
    ("text.muted", "surface.page", "text"),
    ("text.muted", "surface.card", "text"),
    ("text.link", "surface.page", "text"),
    ("text.link", "surface.card", "text"),
    ("action.label", "action.fill", "text"),
    ("action.label", "action.fill.hover", "text"),
    ("action.label", "action.fill.pressed", "text"),
    ("action.fill", "surface.page", "graphic"),
    ("line.strong", "surface.card", "control"),
    ("signal.success", "surface.card", "text"),
    ("signal.warning", "surface.card", "text"),
    ("signal.error", "surface.card", "text"),
    ("signal.information", "surface.card", "text"),
    ("focus.ring", "surface.page", "control"),
)
SIGNALS = {
    "success": "#1d8448", "warning": "#9a6b00", "error": "#c8383a", "information": "#2b6cb8",
}  # fmt: skip
SPACES = {"tight": "2", "row": "4", "part": "8"}


def start(
    name: str, axes: Sequence[Axis], ramps: Iterable[tuple[str, str, str]], new_key: NewKey
) -> Document:
    """A document with ramps (name, seed, purpose), the four signals, black, white and veils."""
    document = Document(name=name, axes=tuple(axes), purposes=purposes.STARTING)
    for ramp, seed, purpose in ramps:
        document = building.add_ramp(document, ramp, {"seed": seed}, new_key, purpose=purpose)
    for ramp, seed in SIGNALS.items():
        document = building.add_ramp(document, ramp, {"seed": seed}, new_key, purpose="signal")
    ends = [
        building.step_token(new_key(), "white", "#ffffff"),
        building.step_token(new_key(), "black", "#000000"),
    ]
    document = add_tokens(document, ends, after=building.last_raw_color(document))
    dark, light = document.token_at("black"), document.token_at("white")
    assert dark is not None
    assert light is not None
    document = building.veils(document, dark.key, (8, 16, 50, 72), "veil dark", new_key)
    document = building.veils(document, light.key, (8, 16), "veil light", new_key)
    for group in ("", "veil dark", "veil light"):
        document = purposes.assign(document, group, "ground", new_key)
    return document


def scales(document: Document, kinds: Iterable[str], new_key: NewKey) -> Document:
    """The document with the proposed scales of these kinds."""
    for name in kinds:
        kind = measures.kind_of(name)
        document = measures.add_scale(
            document, kind, kind.group, kind.base, kind.factor, kind.values, new_key
        )
    return document


def mean(document: Document, meanings: Meanings, new_key: NewKey) -> Document:
    """The document with a semantic color token for each meaning."""
    made = []
    for path, (light, dark, description) in meanings.items():
        values = [(BASE, Expression(light))]
        if dark:
            values.append((DARK, Expression(dark)))
        made.append(
            Token(new_key(), path, "color", "semantic", tuple(values), description=description)
        )
    return add_tokens(document, made)


def measure(
    document: Document, path: str, type: str, values: Mapping[Condition, str], new_key: NewKey
) -> Document:
    """The document with a semantic measure."""
    stored = tuple((condition, Expression(text)) for condition, text in values.items())
    return add_tokens(document, [Token(new_key(), path, type, "semantic", stored)])


def switch(document: Document, ramps: Mapping[str, str], axis: str, new_key: NewKey) -> Document:
    """``accent.1`` to ``accent.11``: the steps of the first ramp, and by mode of the others."""
    (first, *others) = ramps.items()
    made = []
    for step in range(1, 12):
        values = [(BASE, Expression(f"{{{first[1]}.{step}}}"))]
        for mode, ramp in others:
            values.append((Condition.of({axis: mode}), Expression(f"{{{ramp}.{step}}}")))
        made.append(Token(new_key(), f"accent.{step}", "color", "semantic", tuple(values)))
    return add_tokens(document, made)


def pair(document: Document, pairs: Pairs, new_key: NewKey) -> Document:
    """The document with these pairings, at the ratio their use requires."""
    for foreground, background, use in pairs:
        first, second = document.token_at(foreground), document.token_at(background)
        assert first is not None, foreground
        assert second is not None, background
        document = add_pairing(document, pairing_for(new_key(), first.key, (second.key,), use))
    return document


def page(title: str, body: str, new_key: NewKey) -> tuple[Page, ...]:
    """The page that says how a scheme is meant."""
    return (Page(new_key(), title, body.strip() + "\n"),)


GROUPS = (
    Group("text", "Words and figures"),
    Group("surface", "What things lie on"),
    Group("line", "What keeps parts apart"),
    Group("action", "What can be done"),
    Group("signal", "How something stands"),
    Group("veil", "What is laid over"),
)
