"""The demo project: Quillhaven Crossings, one trip planner dressed for three carriers.

Everything here is made up. The ramps are anchored: the same step of any two ramps meets the
same contrast on white.
"""

from __future__ import annotations

from prism.checks.contrast import pairing_for
from prism.palette import building, purposes, ramps, recipes
from prism.tokens.model import (
    BASE,
    Axis,
    Composite,
    Condition,
    Document,
    Expression,
    Follows,
    Group,
    Mode,
    Pairing,
    Ramp,
    Token,
    Use,
    Value,
)

#: Seed and purpose of each ramp.
RAMPS = {
    "ink": ("#6a7877", "ink"),
    "spruce": ("#236b53", "identity"),
    "lamp": ("#e8a343", "identity"),
    "brine": ("#1ea1bb", "identity"),
    "coral": ("#f06a52", "identity"),
    "heather": ("#7e62d2", "identity"),
    "gorse": ("#bab61f", "identity"),
    "go": ("#0f873f", "signal"),
    "wait": ("#be8b00", "signal"),
    "stop": ("#d73a3c", "signal"),
}

AXES = (
    Axis(
        "appearance",
        "appearance",
        (
            Mode("light", "light", "By day", "light"),
            Mode("dark", "dark", "By night", "dark"),
            Mode("dim", "dim", "Cabins after ten", "dark"),
        ),
        "light",
        "How much light there is around the screen",
        Follows("prefers-color-scheme", (("dark", "dark"),)),
    ),
    Axis(
        "brand",
        "brand",
        (
            Mode("tarnmoor", "Tarnmoor", "Tarnmoor Night Rail: deep, quiet, a warm lamp"),
            Mode("osprelle", "Osprelle", "Osprelle Ferries: clear, salty, coral"),
            Mode("vexley", "Vexley", "Vexley Harbor Trams: brisk, graphic, gorse"),
        ),
        "tarnmoor",
        "The carrier whose journey it is",
    ),
    Axis(
        "density",
        "density",
        (Mode("roomy", "roomy"), Mode("compact", "compact")),
        "roomy",
        "How much fits on a screen",
    ),
)

DARK = {"appearance": "dark"}
DIM = {"appearance": "dim"}
OSPRELLE = {"brand": "osprelle"}
VEXLEY = {"brand": "vexley"}
COMPACT = {"density": "compact"}

# path: light, dark, dim (None inherits light), description
SEMANTIC: dict[str, tuple[str, str | None, str | None, str]] = {
    "text.main": ("{ink.11}", "{ink.1}", "{ink.3}", "Headings, times, names of places"),
    "text.muted": ("{ink.8}", "{ink.4}", "{ink.5}", "What supports the main line"),
    "text.faint": ("{ink.6}", "{ink.7}", None, "Hints and empty fields"),
    "text.link": ("{accent.8}", "{accent.4}", "{accent.5}", "A way to somewhere else"),
    "text.inverse": ("{ink.1}", "{ink.11}", "{ink.11}", "On surfaces of the other kind"),
    "surface.page": ("{ink.1}", "{ink.11}", "{black}", "Under everything"),
    "surface.card": ("{white}", "{ink.10}", "{ink.11}", "What lies on the page"),
    "surface.raised": ("{white}", "{ink.9}", "{ink.10}", "What lies on a card"),
    "surface.sunken": ("{ink.2}", "{black}", "{black}", "Fields and wells"),
    "surface.inverse": ("{ink.11}", "{ink.2}", "{ink.4}", "Short notes over the page"),
    "line.soft": ("{ink.3}", "{ink.9}", "{ink.10}", "Between rows"),
    "line.strong": ("{ink.7}", "{ink.5}", "{ink.7}", "Around what can be used"),
    "action.fill": ("{accent.8}", "{accent.4}", "{accent.5}", "The one thing to do"),
    "action.label": ("{white}", "{accent.11}", None, "On action.fill"),
    "action.fill.hover": ("{accent.9}", "{accent.3}", "{accent.4}", "Under the pointer"),
    "action.fill.pressed": ("{accent.10}", "{accent.2}", "{accent.3}", "While it is pressed"),
    "action.fill.disabled": ("{ink.3}", "{ink.9}", "{ink.9}", "Not to be used now"),
    "action.label.disabled": ("{ink.6}", "{ink.7}", "{ink.7}", "Not to be used now"),
    "action.line": ("{accent.7}", "{accent.5}", None, "Around a quieter action"),
    "action.quiet": ("{accent.2}", "{accent.10}", "{accent.10}", "Behind what is chosen"),
    "signal.go": ("{go.7}", "{go.5}", "{go.5}", "On time, boarding"),
    "signal.wait": ("{wait.7}", "{wait.5}", "{wait.5}", "Late"),
    "signal.stop": ("{stop.7}", "{stop.5}", "{stop.5}", "Cancelled, wrong"),
    "signal.note": ("{brine.7}", "{brine.5}", "{brine.5}", "Changed, new"),
    "signal.surface.go": ("{go.1}", "{go.11}", "{go.11}", "Behind good news"),
    "signal.surface.wait": ("{wait.1}", "{wait.11}", "{wait.11}", "Behind a delay"),
    "signal.surface.stop": ("{stop.1}", "{stop.11}", "{stop.11}", "Behind a failure"),
    "signal.surface.note": ("{brine.1}", "{brine.11}", "{brine.11}", "Behind a notice"),
    "signal.hold": ("#8a5a00", None, None, "A literal that no ramp stands behind"),
    "veil.hover": ("{veil.ink.08}", "{veil.paper.10}", "{veil.paper.08}", "Under the pointer"),
    "veil.pressed": ("{veil.ink.16}", "{veil.paper.16}", "{veil.paper.16}", "Pressed or chosen"),
    "veil.scrim": ("{veil.ink.50}", "{veil.ink.72}", "{veil.ink.72}", "Behind a question"),
    "focus.ring": ("{lamp.6}", "{lamp.4}", "{lamp.5}", "Around what has the focus"),
    "highlight.label": ("{ink.11}", "{ink.11}", "{ink.11}", "On highlight.fill"),
}
HIGHLIGHT = {"": "{lamp.5}", "osprelle": "{coral.5}", "vexley": "{gorse.5}"}
COMPONENT: dict[str, str] = {
    "button.fill": "{action.fill}",
    "button.label": "{action.label}",
    "button.line": "{action.line}",
    "board.row.line": "{line.soft}",
    "board.time": "{text.main}",
    "board.via": "{text.muted}",
    "board.late": "{signal.wait}",
    "board.gone": "{signal.stop}",
    "ticket.surface": "{surface.raised}",
    "ticket.edge": "{line.soft}",
    "ticket.flag": "{highlight.fill}",
    "ticket.flag.label": "{highlight.label}",
}
PAIRINGS: tuple[tuple[str, str, Use, bool], ...] = (
    ("text.main", "surface.page", "text", True),
    ("text.main", "surface.card", "text", True),
    ("text.main", "surface.raised", "text", True),
    ("text.main", "surface.sunken", "text", False),
    ("text.muted", "surface.page", "text", False),
    ("text.muted", "surface.card", "text", False),
    ("text.muted", "surface.sunken", "text", False),
    ("text.faint", "surface.card", "text", False),
    ("text.link", "surface.page", "text", False),
    ("text.link", "surface.card", "text", False),
    ("text.inverse", "surface.inverse", "text", False),
    ("action.label", "action.fill", "text", False),
    ("action.label", "action.fill.hover", "text", False),
    ("action.label.disabled", "action.fill.disabled", "inactive", False),
    ("action.fill", "surface.page", "graphic", False),
    ("action.line", "surface.page", "control", False),
    ("line.strong", "surface.card", "control", False),
    ("line.soft", "surface.card", "decoration", False),
    ("signal.go", "surface.card", "text", False),
    ("signal.wait", "surface.card", "text", False),
    ("signal.stop", "surface.card", "text", False),
    ("signal.note", "surface.card", "text", False),
    ("signal.go", "signal.surface.go", "text", False),
    ("signal.stop", "signal.surface.stop", "text", False),
    ("highlight.label", "highlight.fill", "text", False),
    ("focus.ring", "surface.page", "control", False),
)
STACKED: tuple[tuple[str, tuple[str, ...], str], ...] = (
    ("text.main", ("veil.hover", "surface.card"), "Rows under the pointer"),
    ("text.muted", ("veil.hover", "surface.card"), "Rows under the pointer"),
    ("text.main", ("veil.pressed", "surface.raised"), "The note on a ticket"),
)


def document() -> Document:
    """The demo project's document; the same at every call."""
    steps, found = _ramps()
    singles = _raw()
    tokens = [*steps, *singles, *_measures(), *_meaning(), *_components()]
    tokens = [_rooted(token, tokens) for token in tokens]
    return Document(
        name="Quillhaven Crossings",
        description="Night trains, ferries and harbor trams: one trip planner, three carriers.",
        axes=AXES,
        groups=(
            Group("text", "Words and figures"),
            Group("surface", "What things lie on, from the page up"),
            Group("signal", "How a departure stands"),
            Group("accent", "The carrier’s own color, step by step"),
        ),
        tokens=tuple(tokens),
        purposes=purposes.STARTING,
        ramps=(*found, *_groups(singles)),
        pairings=_pairings(tokens),
    )


def _token(
    path: str, type: str, tier: str, *values: tuple[dict[str, str], str | Value], **more: str
) -> Token:
    stored = tuple(
        (
            Condition.of(when) if when else BASE,
            Expression(value) if isinstance(value, str) else value,
        )
        for when, value in values
    )
    return Token(path, path, type, tier, stored, **more)  # type: ignore[arg-type]


def _rooted(token: Token, tokens: list[Token]) -> Token:
    """A token whose path is a group too stands at the group's root."""
    if any(other.path.startswith(token.path + ".") for other in tokens):
        return Token(
            token.key,
            f"{token.path}.$root",
            token.type,
            token.tier,
            token.values,
            token.description,
        )
    return token


def _ramps() -> tuple[list[Token], list[Ramp]]:
    """The steps of every ramp, made by its recipe, and the ramps."""
    tokens, found = [], []
    for name, (seed, purpose) in RAMPS.items():
        fields = recipes.complete({"seed": seed})
        steps = ramps.make(recipes.read(fields))
        texts = building.step_texts(steps, seed)
        made = [
            _token(f"{name}.{step}", "color", "raw", ({}, text))
            for step, text in enumerate(texts, 1)
        ]
        tokens += made
        found.append(Ramp(name, name, tuple(one.key for one in made), purpose, fields))
    return tokens, found


def _raw() -> list[Token]:
    tokens = [
        _token("white", "color", "raw", ({}, "#ffffff")),
        _token("black", "color", "raw", ({}, "#000000")),
    ]
    for share in ("08", "16", "50", "72"):
        tokens.append(_token(f"veil.ink.{share}", "color", "raw", ({}, f"rgb(0 0 0 / 0.{share})")))
    for share in ("08", "10", "16"):
        tokens.append(
            _token(f"veil.paper.{share}", "color", "raw", ({}, f"rgb(255 255 255 / 0.{share})"))
        )
    return tokens


def _groups(singles: list[Token]) -> list[Ramp]:
    """Black, white and the veils, group by group, as they are."""
    members: dict[str, list[str]] = {}
    for token in singles:
        members.setdefault(token.group, []).append(token.key)
    return [Ramp(name or "single", name, tuple(keys), "ground") for name, keys in members.items()]


def _measures() -> list[Token]:
    tokens = [
        _token(f"measure.{size}", "dimension", "raw", ({}, f"{size}px"))
        for size in (0, 2, 4, 6, 8, 12, 16, 20, 24, 32)
    ]
    tokens += [
        _token(
            "space.row", "dimension", "semantic", ({}, "{measure.8}"), (COMPACT, "{measure.4}"),
            description="Between the lines of a list",
        ),
        _token("space.part", "dimension", "semantic", ({}, "{measure.16}"), (COMPACT, "{measure.8}")),
        _token(
            "radius.card", "dimension", "semantic",
            ({}, "{measure.6}"), (OSPRELLE, "{measure.16}"), (VEXLEY, "{measure.0}"),
        ),
        _token(
            "radius.control", "dimension", "semantic",
            ({}, "{measure.4}"), (OSPRELLE, "{measure.12}"), (VEXLEY, "{measure.0}"),
        ),
        _token(
            "shadow.card", "shadow", "semantic",
            ({}, _shadow("{veil.ink.08}")), (DARK, _shadow("{veil.ink.50}")),
        ),
    ]  # fmt: skip
    return tokens


def _shadow(color: str) -> Value:
    parts = {"color": color, "offsetX": "0px", "offsetY": "1px", "blur": "4px", "spread": "0px"}
    return Composite(tuple((name, Expression(text)) for name, text in parts.items()))


def _meaning() -> list[Token]:
    tokens = [
        _token(
            f"accent.{step}", "color", "semantic",
            ({}, f"{{spruce.{step}}}"), (OSPRELLE, f"{{brine.{step}}}"),
            (VEXLEY, f"{{heather.{step}}}"),
        )
        for step in range(1, 12)
    ]  # fmt: skip
    for path, (light, dark, dim, description) in SEMANTIC.items():
        values = [({}, light), (DARK, dark), (DIM, dim)]
        stated = [(when, value) for when, value in values if value is not None]
        tokens.append(_token(path, "color", "semantic", *stated, description=description))
    tokens.append(
        _token(
            "highlight.fill", "color", "semantic",
            ({}, HIGHLIGHT[""]), (OSPRELLE, HIGHLIGHT["osprelle"]), (VEXLEY, HIGHLIGHT["vexley"]),
            (DIM | VEXLEY, "{gorse.6}"), description="The carrier’s second color",
        )
    )  # fmt: skip
    return tokens


def _components() -> list[Token]:
    return [_token(path, "color", "component", ({}, target)) for path, target in COMPONENT.items()]


def _pairings(tokens: list[Token]) -> tuple[Pairing, ...]:
    keys = {token.key for token in tokens}
    found = []
    for foreground, background, use, enhanced in PAIRINGS:
        assert {foreground, background} <= keys, (foreground, background)
        found.append(
            pairing_for(
                f"{foreground}/{background}", foreground, (background,), use, enhanced=enhanced
            )
        )
    for foreground, stack, reason in STACKED:
        key = "/".join((foreground, *stack))
        found.append(pairing_for(key, foreground, stack, "text", reason=reason))
    return tuple(found)
