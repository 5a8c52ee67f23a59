"""The columns of the sheet: those before the modes, and the axis whose modes follow; the ladder has the same axis."""

from __future__ import annotations

from typing import Protocol

from prism.analysis import Analysis
from prism.model.document import Axis
from studio.rooms.themes import axis_named

#: What stands before the modes in the sheet of tokens; the sheets of the palette have names alone.
BEFORE_MODES = ("names", "roles")


def span(axis: Axis | None, *, in_palette: bool) -> int:
    """How many columns the sheet has."""
    return (1 if in_palette else len(BEFORE_MODES)) + (len(axis.modes) if axis else 1)


class WithColumns(Protocol):
    """An address that names the axis of the columns."""

    @property
    def columns(self) -> str: ...


class InColumns(Protocol):
    """A frame with such an address."""

    @property
    def analysis(self) -> Analysis: ...

    @property
    def address(self) -> WithColumns: ...


def axis_of(frame: InColumns) -> Axis | None:
    """The axis that the address names, or the first."""
    axes = frame.analysis.document.axes
    return axis_named(frame.analysis, frame.address.columns) or (axes[0] if axes else None)


def mode_names_of(analysis: Analysis, axis: Axis | None) -> dict[str, str]:
    """Names of an axis's modes in addresses, by key."""
    names = analysis.mode_names
    return {mode.key: names[axis.key, mode.key] for mode in axis.modes} if axis else {}
