"""Themes and axes as they stand in addresses."""

from __future__ import annotations

from prism.analysis import Analysis
from prism.model.document import Axis
from prism.resolution.resolver import Theme

#: How the theme of all default modes is written where an empty text would mean none.
DEFAULTS = "base"


def theme_text(analysis: Analysis, theme: Theme) -> str:
    """A theme for addresses; axes in their default mode are left out."""
    axes, modes = analysis.axis_names, analysis.mode_names
    return ",".join(
        f"{axes[axis.key]}:{modes[axis.key, axis.modes[theme[i]].key]}"
        for i, axis in enumerate(analysis.document.axes)
        if axis.modes[theme[i]].key != axis.default
    )


def read_theme(analysis: Analysis, text: str) -> Theme:
    """The theme that ``theme_text`` wrote; what is unknown in it is skipped."""
    axes = {name: key for key, name in analysis.axis_names.items()}
    modes = {(axis, name): mode for (axis, mode), name in analysis.mode_names.items()}
    picks = {}
    for part in text.split(","):
        axis, _, name = part.partition(":")
        mode = modes.get((axes.get(axis, ""), name))
        if mode is not None:
            picks[axes[axis]] = mode
    return analysis.resolver.theme(picks)


def axis_named(analysis: Analysis, name: str) -> Axis | None:
    """The axis with this name in addresses, or None."""
    names = analysis.axis_names
    return next((axis for axis in analysis.document.axes if names[axis.key] == name), None)
