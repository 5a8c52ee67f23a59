"""The demo project: Quillhaven Crossings, one trip planner dressed for three carriers.

Everything here is made up. What is wrong in it on purpose is listed in ``demo/FLAWS.md``.
"""

from __future__ import annotations

from dataclasses import replace
from functools import cache

from demo.quillhaven import copy, raw, tables
from demo.quillhaven.axes import (
    AXES,
    CANCELLED,
    COMPACT,
    DARK,
    DELAYED,
    NOTICE,
    OSPRELLE,
    RUNNING,
    TARNMOOR,
    VEXLEY,
)
from demo.quillhaven.building import shadow, token
from prism.model.document import Document, Group, Mute, Pairing, TellingApart, Token
from prism.palette import purposes
from prism.resolution.contrast import pairing_for


@cache
def document() -> Document:
    """The demo project's document, made once; no edit changes it."""
    steps, ramps = raw.steps()
    singles = raw.singles()
    tokens = [
        *steps, *singles, *raw.measures(),
        *_colors(), *_shapes(), *_components(), *_words(),
    ]  # fmt: skip
    tokens = [_rooted(one, tokens) for one in tokens]
    return Document(
        name="Quillhaven Crossings",
        description="Night trains, ferries and harbor trams: one trip planner, three carriers.",
        axes=AXES,
        groups=(
            Group("text", "Words and figures"),
            Group("surface", "What things lie on, from the page up"),
            Group("action", "What can be done: fill, label and line in every state"),
            Group("signal", "How a departure stands"),
            Group("status", "The signal of this departure; turns with the status axis"),
            Group("accent", "The carrier’s own color, step by step"),
            Group("copy", "Words of the interface"),
        ),
        tokens=tuple(tokens),
        purposes=purposes.STARTING,
        ramps=(*ramps, *raw.groups_of(singles)),
        pairings=_pairings(tokens),
        telling_apart=(TellingApart("signals", "Signals", tables.SIGNALS),),
        mutes=_mutes(),
    )


def _mutes() -> tuple[Mute, ...]:
    """What the checks find beside the flaws, each with the reason why it is meant."""
    return tuple(
        Mute(f"mute-{number}", check, tokens, about, reason, "Maren")
        for number, (check, tokens, about, reason) in enumerate(tables.ACCEPTED)
    )


def _rooted(one: Token, tokens: list[Token]) -> Token:
    """A token whose path is a group too stands at the group's root."""
    if any(other.path.startswith(one.path + ".") for other in tokens):
        return replace(one, path=f"{one.path}.$root")
    return one


def _colors() -> list[Token]:
    tokens = []
    for path, (light, dark, dim, description) in tables.SEMANTIC.items():
        values = list(zip(tables.APPEARANCES, (light, dark, dim), strict=True))
        if path in tables.RAISED_CONTRAST:
            day, night = tables.RAISED_CONTRAST[path]
            values += zip(tables.RAISED_APPEARANCES, (day, night, night), strict=True)
        stated = [(when, value) for when, value in values if value is not None]
        tokens.append(token(path, "color", "semantic", *stated, description=description))
    for path, (description, cases) in tables.BY_BRAND.items():
        tokens.append(token(path, "color", "semantic", *cases, description=description))
    for path, (*cells, description) in tables.BY_STATUS.items():
        by_status = zip((RUNNING, DELAYED, CANCELLED, NOTICE), cells, strict=True)
        tokens.append(token(path, "color", "semantic", *by_status, description=description))
    brands = ((TARNMOOR, "spruce"), (OSPRELLE, "brine"), (VEXLEY, "heather"))
    for step in range(1, 12):
        own = [(when, f"{{{ramp}.{step}}}") for when, ramp in brands]
        tokens.append(token(f"accent.{step}", "color", "semantic", *own))
    return tokens


def _shapes() -> list[Token]:
    dimensions = {
        "space.row": ("Between the lines of a list", (({}, 8), (COMPACT, 4))),
        "space.part": ("Between the parts of a page", (({}, 16), (COMPACT, 8))),
        "space.page": ("Around a page", (({}, 32), (COMPACT, 16))),
        "space.control": ("Inside a control", (({}, 12), (COMPACT, 8))),
        "radius.card": ("", (({}, 6), (OSPRELLE, 16), (VEXLEY, 0))),
        "radius.control": ("", (({}, 4), (OSPRELLE, 12), (VEXLEY, 0))),
    }
    tokens = [
        token(
            path, "dimension", "semantic",
            *((when, f"{{measure.{size}}}") for when, size in cases), description=description,
        )
        for path, (description, cases) in dimensions.items()
    ]  # fmt: skip
    return [
        *tokens,
        token("type.body", "dimension", "semantic", ({}, "{size.16}"), (COMPACT, "{size.14}")),
        token("type.small", "dimension", "semantic", ({}, "{size.14}"), (COMPACT, "{size.12}")),
        token("type.head", "dimension", "semantic", ({}, "{size.26}"), (COMPACT, "{size.20}")),
        token("edge.line", "dimension", "semantic", ({}, "{stroke.1}")),
        token("edge.focus", "dimension", "semantic", ({}, "{stroke.2}")),
        token(
            "shadow.card", "shadow", "semantic",
            ({}, shadow("{veil.ink.08}")), (DARK, shadow("{veil.ink.50}")),
        ),
        token("shadow.floating", "shadow", "semantic", ({}, "{lift.3}"), (DARK, "{lift.4}")),
        token("shadow.modal", "shadow", "semantic", ({}, "{lift.4}"), (DARK, "{lift.5}")),
    ]  # fmt: skip


def _components() -> list[Token]:
    return [
        *(
            token(path, "color", "component", ({}, target))
            for path, target in tables.COMPONENT.items()
        ),
        token("button.radius", "dimension", "component", ({}, "{radius.control}")),
        token("ticket.radius", "dimension", "component", ({}, "{radius.card}")),
    ]


def _words() -> list[Token]:
    tokens = [
        token(path, "string", "semantic", ({}, english), (copy.IN_PORTUGUESE, portuguese))
        for path, (english, portuguese) in copy.STRINGS.items()
    ]
    said = [(when, english) for when, english, _ in copy.STATUS]
    said += [(when | copy.IN_PORTUGUESE, portuguese) for when, _, portuguese in copy.STATUS]
    tokens.append(token("copy.status", "string", "semantic", *said))
    for path, (values, description) in copy.SHOWN.items():
        tokens.append(token(path, "boolean", "semantic", *values, description=description))
    return tokens


def _pairings(tokens: list[Token]) -> tuple[Pairing, ...]:
    keys = {one.key for one in tokens}
    pairings = []
    for foreground, background, use, enhanced in tables.PAIRINGS:
        assert {foreground, background} <= keys, (foreground, background)
        pairings.append(
            pairing_for(
                f"{foreground}/{background}", foreground, (background,), use, enhanced=enhanced
            )
        )
    for foreground, stack, reason in tables.STACKED:
        key = "/".join((foreground, *stack))
        pairings.append(pairing_for(key, foreground, stack, "text", reason=reason))
    return tuple(pairings)
