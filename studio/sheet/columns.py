"""The axis whose modes are the columns of the sheet and of the ladder."""

from __future__ import annotations

from typing import Protocol

from prism.analysis import Analysis
from prism.model.document import Axis
from studio.rooms.themes import axis_named


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
