"""Imported modifiers that name no default."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each axis whose file named no default mode."""
    for layer in analysis.document.layers:
        if layer.axis and not layer.stated_default and analysis.document.axis(layer.axis):
            yield Finding(
                "default",
                f"{layer.name} names no default, so its first mode is used.",
                about=layer.name,
                fixes=(Fix("Name the default mode."),),
            )


CHECK = Check(
    "default",
    "No default",
    "Programs differ in what they take for the default.",
    run,
    lambda analysis: Looked(len(analysis.document.axes), "axis", "axes"),
)
