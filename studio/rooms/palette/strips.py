"""The swatches of a strip as markup. What looks as it did before is not made again."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from urllib.parse import quote

from django.template.loader import render_to_string

from prism.model.document import shown_path
from prism.palette.sections import Head, Strip, Swatch
from studio.rooms.frame import AnyFrame

_KEPT = 2000
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
) -> str:
    """The markup of a strip's swatches; ``current`` is the key of the color that is open."""
    rest = frame.query(swatch=None, ramp=None, view=None)
    base = f"{rest}&" if rest else "?"
    steps = tuple(_step(swatch, base, current) for swatch in strip.swatches)
    named = len(steps) != len(heads)
    tall = named and is_tall(step.name for step in steps)
    return _markup(_Steps(steps, notation == "hex", named, tall))


@lru_cache(maxsize=_KEPT)
def _markup(strip: _Steps) -> str:
    return render_to_string("palette/swatches.html", {"strip": strip})


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
