"""Pairings that fall short of the contrast they need."""

from __future__ import annotations

from collections.abc import Iterator

from prism.checks.check import Analyzed, Check, Finding
from prism.color.contrast import truncate_ratio
from prism.resolution.contrast import summary


def run(analysis: Analyzed) -> Iterator[Finding]:
    """A finding for each pairing that falls short in some theme, with its worst reading."""
    for key, parts in analysis.failing.items():
        pairing = analysis.document.pairing(key)
        if pairing is None:
            continue
        worst = min((part.reading for part in parts), key=lambda reading: reading.ratio)
        yield Finding(
            "contrast",
            f"{summary(analysis.document, pairing)} reads {worst.shown}, and needs "
            f"{truncate_ratio(pairing.required)}.",
            pairing.foreground,
            themes=sum(part.themes for part in parts),
            severity="wrong",
            fixes=("Choose a darker or lighter step, or another background.",),
        )


CHECK = Check("contrast", "Contrast", "Not everybody can read text with too little contrast.", run)
