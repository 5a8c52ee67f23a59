"""The rows that a proposed mode starts with, by what it is to be: dimmer, lower in contrast, quieter, in other hues,
or with other measures."""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from dataclasses import replace

from prism.color import space
from prism.color.contrast import lightness
from prism.errors import EditError
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import reference_to, shown_path_or_root
from prism.expressions.values import references, rewrite
from prism.model.document import Document, Mode, Ramp, Token
from prism.model.values import BASE, Expression, Value
from prism.modes import proposal
from prism.modes.draft import Row
from prism.modes.source import Start
from prism.palette.course import oklch
from prism.palette.mapping import is_rung, ladder_of
from prism.resolution.resolver import Resolver, Theme
from prism.roles.grounds import Guess

#: Chroma of a quieter color, as a share of what it was. Common practice, no source.
QUIET = 0.6
#: The page of a dim mode has this L*, where the palette has it. Common practice, no source.
DIM = 20.0
#: Colors of a dim mode without a ladder are lifted by this much of OKLCH lightness.
_LIFT = 0.09
#: Factors that measures may take.
LEAST, MOST = 0.25, 4.0
_LOUD = {
    "fill": ("action", "accent"),
    "status": ("text", "fill", "line", "tint"),
    "text": ("link",),
}
#: Kinds of roles that are there for reading and for seeing where something ends.
_READ = ("text", "line")
#: The steps of a ladder by key, and a place among them.
Ladder = tuple[tuple[str, ...], int]


def counterpart(start: Start) -> list[Row]:
    """A light or dark counterpart: mirrored and tuned."""
    return proposal.propose(start.document, start.axis, start.source, start.key, start.scheme)


def copied(start: Start) -> list[Row]:
    """Nothing but what the solver moves."""
    start.check()
    return []


def quieter(start: Start) -> list[Row]:
    """Colors of brands and meanings with less chroma, lightness and hue as they are."""
    start.check()
    resolver, theme = start.resolver, start.theme
    rows = []
    for key, known in start.guesses.items():
        token, won = start.document.token(key), resolver.winner(key, theme)
        color = resolver.resolve(key, theme).color
        if known.role.detail not in _LOUD.get(known.role.kind, ()) or token is None or won is None:
            continue
        if color is None or not isinstance(won[1], Expression) or oklch(color)[1] < 0.01:
            continue
        target = start.document.token_at(reference_of(won[1].text))
        if target is not None and target.tier != "raw" and not is_rung(start.document, target):
            continue  # it follows another, which gets quieter itself
        value = Expression(f"oklch(from {won[1].text} l calc(c * {QUIET:g}) h)")
        rows.append(Row(token, won[1], value, "quieter", f"chroma at {QUIET:.0%}"))
    return rows


def lower(start: Start) -> list[Row]:
    """Texts and lines one step nearer to the page."""
    start.check()
    rows: dict[str, Row] = {}
    copy = _tried(start, rows)
    _draw_nearer(start, rows, copy, _light(copy, _page(start.guesses), start.new_theme(copy)))
    return list(rows.values())


def dim(start: Start) -> list[Row]:
    """Dark, with the page and what lies on it lifted, and texts and lines one step nearer to it."""
    start.check()
    page = _page(start.guesses)
    is_dark = _light(start.resolver, page, start.theme) < 50
    rows = {} if is_dark else {row.token.key: row for row in counterpart(start)}
    dark = _tried(start, rows)
    steps = _steps_to_dim(start, dark, page)
    for key, known in start.guesses.items():
        if known.role.kind in ("page", "surface") and known.role.detail != "inverse":
            _move(start, rows, dark, key, lambda ladder: _lighter(dark, ladder, steps), "lifted")
    dimmed = _tried(start, rows)
    ground = _light(dimmed, page, start.new_theme(dimmed))
    _draw_nearer(start, rows, dimmed, ground)
    return list(rows.values())


def other_hues(start: Start) -> list[Row]:
    """Steps of some ramps in place of the same steps of others."""
    start.check()
    document = start.document
    ramps = {ramp.key: ramp for ramp in document.ramps}
    instead: dict[str, str] = {}
    for old, new in start.hues:
        if old not in ramps or new not in ramps:
            raise EditError("One of the ramps is no longer there.", fix="Choose the hues again.")
        instead |= _steps_instead(document, ramps[old], ramps[new])
    words = ", ".join(f"{ramps[old].name} becomes {ramps[new].name}" for old, new in start.hues)
    rows = []
    for token in document.tokens:
        if token.type == "color" and token.path not in instead:
            row = _row(start, token, lambda value: _renamed(value, instead))
            if row is not None:
                rows.append(replace(row, reason="other hue", words=words))
    return rows


def scaled(start: Start) -> list[Row]:
    """Lengths of the meaning tiers times a factor, to whole pixels where they are at least two."""
    start.check()
    factor = start.factor
    if not math.isfinite(factor) or not LEAST <= factor <= MOST:
        raise EditError(f"The factor is no number from {LEAST:g} to {MOST:g}.")
    rows = []
    for token in start.document.tokens:
        if token.type == "dimension" and token.tier != "raw":
            row = _row(start, token, lambda value: _times(start, value, factor))
            if row is not None:
                rows.append(replace(row, reason="scaled", words=f"times {factor:g}"))
    return rows


def hues_of(start: Start) -> list[Ramp]:
    """The ramps with a hue that stand in the values of a mode, in the order of the document."""
    used = {
        path
        for token in start.document.tokens
        if token.type == "color"
        for _, value in start.values(token)
        for path in references(value, "color")
    }
    steps = {ramp.key: list(map(start.document.token, ramp.steps)) for ramp in whole_ramps(start)}
    return [
        ramp
        for ramp in whole_ramps(start)
        if any(token is not None and token.path in used for token in steps[ramp.key])
    ]


def whole_ramps(start: Start) -> list[Ramp]:
    """The ramps that can take each other's place: named, of at least three opaque steps."""
    resolver, theme = start.resolver, start.resolver.default_theme

    def is_opaque(key: str) -> bool:
        color = resolver.resolve(key, theme).color
        return color is not None and color.alpha >= 1

    return [
        ramp
        for ramp in start.document.ramps
        if ramp.name and len(ramp.steps) >= 3 and all(map(is_opaque, ramp.steps))
    ]


def _row(start: Start, token: Token, turned: Callable[[Value], Value | None]) -> Row | None:
    """A row of what a token's values become, where any becomes something else."""
    won = start.resolver.winner(token.key, start.theme)
    if won is None:
        return None
    proposed, others = won[1], []
    for rest, value in start.values(token):
        new = turned(value)
        if new is None or new == value:
            continue
        if rest == BASE:
            proposed = new
        else:
            others.append((start.here(rest), new))
    if proposed == won[1] and not others:
        return None
    return Row(token, won[1], proposed, "chosen", "", tuple(others))


def _steps_instead(document: Document, old: Ramp, new: Ramp) -> dict[str, str]:
    """The paths of the steps of a ramp, and of those that take their place: as far along the other ramp."""
    paths = {}
    last_old, last_new = len(old.steps) - 1, len(new.steps) - 1
    for place, key in enumerate(old.steps):
        target = new.steps[round(place / max(last_old, 1) * last_new)]
        before, after = document.token(key), document.token(target)
        if before is not None and after is not None and old.key != new.key:
            paths[before.path] = shown_path_or_root(document, after)
    return paths


def _renamed(value: Value, instead: dict[str, str]) -> Value | None:
    named = [path for path in references(value, "color") if path in instead]
    return rewrite(value, "color", {path: instead[path] for path in named}) if named else None


def _times(start: Start, value: Value, factor: float) -> Value | None:
    """A length times a factor; a reference to another token of the meaning tiers follows that."""
    if not isinstance(value, Expression):
        return None
    target = start.document.token_at(reference_of(value.text))
    if target is not None and target.tier != "raw":
        return None
    return Expression(f"round({value.text} * {factor:g}, 1px)")


def _page(guesses: dict[str, Guess]) -> str:
    return next((key for key, known in guesses.items() if known.role.kind == "page"), "")


def _light(resolver: Resolver, key: str, theme: Theme) -> float:
    """The L* of a token, 100 where it has no color."""
    color = resolver.resolve(key, theme).color if key else None
    return 100.0 if color is None else float(lightness(space.rgba(color)[:3]))


def _tried(start: Start, rows: Mapping[str, Row]) -> Resolver:
    """The resolver of the document with the mode as it is so far."""
    mode = Mode(start.key, start.key)
    made = proposal.with_rows(
        start.document, start.axis, mode, start.source, rows.values(), tried=True
    )
    return Resolver(made, start.resolver)


def _steps_to_dim(start: Start, dark: Resolver, page: str) -> int:
    """How many steps lighter the page comes nearest to a dim one, at least one."""
    won = dark.winner(page, start.new_theme(dark)) if page else None
    ladder = ladder_of(dark.document, won[1]) if won else None
    if ladder is None:
        return 1
    theme = dark.default_theme
    lights = [_light(dark, step, theme) for step in ladder[0]]
    sign = 1 if lights[-1] > lights[0] else -1
    reached = {
        steps: abs(lights[ladder[1] + sign * steps] - DIM)
        for steps in (1, 2, 3)
        if 0 <= ladder[1] + sign * steps < len(lights)
    }
    return min(reached, key=lambda steps: reached[steps], default=1)


def _lighter(resolver: Resolver, ladder: Ladder, steps: int) -> int:
    """The place on a ladder so many steps lighter."""
    keys, place = ladder
    theme = resolver.default_theme
    sign = 1 if _light(resolver, keys[-1], theme) > _light(resolver, keys[0], theme) else -1
    return place + sign * steps


def _draw_nearer(start: Start, rows: dict[str, Row], now: Resolver, ground: float) -> None:
    """Put texts and lines one step nearer to the L* of what they lie on."""
    sign = 1 if ground > 50 else -1
    for key, known in start.guesses.items():
        if known.role.kind in _READ and known.role.detail not in ("inverse", "link"):
            _move(start, rows, now, key, lambda ladder: _lighter(now, ladder, sign), "nearer")


def _move(
    start: Start,
    rows: dict[str, Row],
    now: Resolver,
    key: str,
    to: Callable[[Ladder], int],
    words: str,
) -> None:
    """Put a token on another place of its ladder; one that stands on none is lifted where that is asked."""
    document = start.document
    token, won = document.token(key), now.winner(key, start.new_theme(now))
    before = start.resolver.winner(key, start.theme)
    if token is None or won is None or before is None or not isinstance(won[1], Expression):
        return
    target = document.token_at(reference_of(won[1].text))
    if target is not None and target.tier != "raw" and not is_rung(document, target):
        return  # it follows another, which is moved itself
    ladder = ladder_of(document, won[1])
    value: Value | None = None
    if ladder is not None:
        place = min(max(to(ladder), 0), len(ladder[0]) - 1)
        step = document.token(ladder[0][place])
        value = None if step is None else reference_to(document, step)
        why = f"{words}, step {ladder[1] + 1} of {len(ladder[0])} becomes {place + 1}"
    elif words == "lifted":
        value = Expression(f"oklch(from {won[1].text} calc(l + {_LIFT:g}) c h)")
        why = "lifted"
    if value is not None and value != won[1]:
        others = rows[key].others if key in rows else ()
        rows[key] = Row(token, before[1], value, "dimmed", why, others)
