"""The theme bar: the axes with their modes, each with a sample of three colors."""

from __future__ import annotations

from dataclasses import dataclass

from prism.model.document import Axis, Mode
from prism.resolution.resolver import Theme
from studio.rooms.frame import AnyFrame
from studio.rooms.themes import theme_text

#: The width that modes may take side by side, in pixels; the axes beyond it are folded.
OPEN_WIDTH = 620
#: Slots that a sample shows.
SAMPLED = ("page", "ink", "action")


@dataclass(frozen=True, slots=True)
class BarMode:
    """A mode on the bar: the address that looks at it, its sample as hex colors, and the attribute that puts a page
    into it, ``data-appearance=dark``."""

    mode: Mode
    current: bool
    url: str
    sample: tuple[str, ...]
    sets: str


@dataclass(frozen=True, slots=True)
class BarAxis:
    """An axis on the bar; ``open`` where its modes stand side by side."""

    axis: Axis
    modes: tuple[BarMode, ...]
    open: bool


def theme_bar(frame: AnyFrame) -> list[BarAxis]:
    """The axes of a document in the theme of a frame; as many open as fit, and the first."""
    bar = []
    used = 0
    for i, axis in enumerate(frame.document.axes):
        used += _width(axis)
        bar.append(BarAxis(axis, _modes(frame, i), used <= OPEN_WIDTH or i == 0))
    return bar


def _width(axis: Axis) -> int:
    return 30 + max(sum(42 + 7 * len(mode.name) for mode in axis.modes), 7 * len(axis.name))


def _modes(frame: AnyFrame, place: int) -> tuple[BarMode, ...]:
    modes = []
    for position, mode in enumerate(frame.document.axes[place].modes):
        theme = (*frame.theme[:place], position, *frame.theme[place + 1 :])
        url = frame.address.shut(theme=theme_text(frame.analysis, theme)) or "?"
        current = position == frame.theme[place]
        axis = frame.document.axes[place].key
        names = frame.analysis.axis_names[axis], frame.analysis.mode_names[axis, mode.key]
        sets = "data-{}={}".format(*names)
        modes.append(BarMode(mode, current, url, _sample(frame, theme), sets))
    return tuple(modes)


def _sample(frame: AnyFrame, theme: Theme) -> tuple[str, ...]:
    keys = [frame.analysis.guessed.get(slot, "") for slot in SAMPLED]
    colors = tuple(frame.resolver.resolve(key, theme).hex[:7] if key else "" for key in keys)
    return colors if any(colors) else ()
