"""The demo project: Quillhaven Crossings, one trip planner dressed for three carriers.

Everything here is made up. The ramps are anchored: the same step of any two ramps meets the
same contrast on white.
"""

from __future__ import annotations

from prism.checks.contrast import pairing_for
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
    Token,
    Use,
    Value,
)

RAMPS = {
    "ink": "f4f9f9 e8f2f1 d6e3e1 c0cecd a4b4b3 879795 6a7877 556260 414b4a 2d3534 1d2121",
    "spruce": "e4fef3 cefae7 b2edd5 94d9be 73c0a3 53a286 348268 236b53 185240 113a2d 10241d",
    "lamp": "fff9df ffefca ffdb9f ffbf6c e8a343 ca8511 a76700 8a5200 6d3e00 4d2c00 2f1d04",
    "brine": "ddffff bffbff 9cedff 76d9f0 4ebfd8 1ea1bb 008098 00687d 005062 003945 06242b",
    "coral": "fff7f2 ffece5 ffd8cc ffbbab ff947d f06a52 ca4b36 a93825 85291a 5e1d12 391610",
    "heather": "faf7ff f2eeff e3dcff d0c3ff b9a3ff 9c81f7 7e62d2 674db1 503b8b 382963 231c3b",
    "gorse": "fafbd1 f4f4ac e6e583 d3d057 bab61f 9d9800 7d7800 656100 4e4b00 373500 232200",
    "go": "e5ffea c4fecf a4f2b4 83df98 5ec579 39a75b 0f873f 006e2e 005521 003c17 0a2612",
    "wait": "fff9d5 fff0b4 ffdd87 f4c55b dca928 be8b00 9a6d00 7e5800 624300 472e00 2c1e00",
    "stop": "fff7f4 ffece8 ffd7d2 ffbab3 ff938a ff5b58 d73a3c b5262b 8f1a1f 651415 3d1211",
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
    tokens = [*_raw(), *_measures(), *_meaning(), *_components()]
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


def _raw() -> list[Token]:
    tokens = [
        _token(f"{ramp}.{step}", "color", "raw", ({}, f"#{value}"))
        for ramp, steps in RAMPS.items()
        for step, value in enumerate(steps.split(), 1)
    ]
    tokens += [
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
