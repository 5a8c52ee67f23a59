"""The swatches of a strip as markup. What looks as it did before is not made again."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from urllib.parse import quote

from django.template.loader import render_to_string
from django.urls import reverse
from django.utils.safestring import SafeString, mark_safe

from prism.color.notation import NOTATIONS
from prism.model.document import shown_path
from prism.palette.sections import Head, Strip, Swatch
from studio.rooms.frame import AnyFrame
from studio.rooms.parts import Part, part_of

_KEPT = 2000
#: Swatches of a strip that stand in the page at once, those that come together where there are more, and those in a row.
MOST, SOME, COLUMNS = 220, 110, 11
#: How high a swatch is, and one with its name on a line of its own, in pixels.
_HIGH, _TALL = 38, 52
#: So many characters of a name stand beside the contrast in the narrowest swatch.
_SHORT_NAME = 5


@dataclass(frozen=True, slots=True)
class _Step:
    key: str
    href: str
    path: str
    name: str
    looks: str
    text: str
    hex: str
    on_white: str
    on_black: str
    beyond: bool
    seed: bool
    moved: bool
    current: bool


@dataclass(frozen=True, slots=True)
class _Steps:
    steps: tuple[_Step, ...]
    in_hex: bool
    named: bool
    tall: bool


def is_tall(names: Iterable[str]) -> bool:
    """Whether names of steps need a line of their own above the contrast."""
    return any(len(name) > _SHORT_NAME for name in names)


def markup(
    strip: Strip, frame: AnyFrame, notation: str, heads: Sequence[Head], current: str
) -> SafeString:
    """A strip's swatches; ``current`` is the key of the color that is open. Of very many, those far down come when
    they come into sight."""
    steps = _steps(strip, frame, notation, heads, current)
    if len(steps.steps) <= MOST:
        return _markup(steps).shown(frame.held)
    source = reverse("palette:swatches", args=[frame.project.code])
    shown_in = notation if notation != NOTATIONS[0] else None
    source += frame.address.shut(notation=shown_in, strip=strip.swatches[0].token.key)
    wanted = {current, frame.request.headers.get("X-Focus", "")}
    parts = []
    for start in range(0, len(steps.steps), SOME):
        some = _some_of(steps, start)
        part = _some(some)
        if start < MOST or part.digest in frame.held or any(s.key in wanted for s in some.steps):
            parts.append(part.shown(frame.held))
            continue
        rows = -(-len(some.steps) // COLUMNS)
        about = {
            "source": f"{source}&from={start}",
            "height": rows * (_TALL if steps.tall else _HIGH),
            "count": len(some.steps),
        }
        parts.append(mark_safe(render_to_string("palette/more.html", about)))
    return mark_safe(render_to_string("palette/large.html", {"strip": steps, "parts": parts}))


def some(
    strip: Strip, frame: AnyFrame, notation: str, heads: Sequence[Head], start: int
) -> SafeString:
    """The swatches of a large strip from one on, as ``markup`` has them."""
    return _some(_some_of(_steps(strip, frame, notation, heads, ""), start)).whole


def _steps(
    strip: Strip, frame: AnyFrame, notation: str, heads: Sequence[Head], current: str
) -> _Steps:
    rest = frame.address.shut()
    base = f"{rest}&" if rest else "?"
    steps = tuple(_step(swatch, base, current) for swatch in strip.swatches)
    named = len(steps) != len(heads)
    tall = named and is_tall(step.name for step in steps)
    return _Steps(steps, notation == NOTATIONS[0], named, tall)


def _some_of(strip: _Steps, start: int) -> _Steps:
    return replace(strip, steps=strip.steps[start : start + SOME])


@lru_cache(maxsize=_KEPT)
def _markup(strip: _Steps) -> Part:
    return part_of(render_to_string("palette/swatches.html", {"strip": strip}))


@lru_cache(maxsize=_KEPT)
def _some(strip: _Steps) -> Part:
    return part_of(render_to_string("palette/some.html", {"strip": strip}))


def _step(swatch: Swatch, base: str, current: str) -> _Step:
    clear = " checker" if swatch.ink == "clear" else ""
    return _Step(
        key=swatch.token.key,
        href=f"{base}swatch={quote(swatch.token.key)}",
        path=shown_path(swatch.token.path),
        name=swatch.name,
        looks=f" {swatch.ink}-text{clear}{' beyond' if swatch.beyond else ''}",
        text=swatch.text,
        hex=swatch.answer.hex,
        on_white=swatch.on_white,
        on_black=swatch.on_black,
        beyond=swatch.beyond,
        seed=swatch.seed,
        moved=swatch.moved,
        current=swatch.token.key == current,
    )
