"""Surfaces of rising level that do not lift off each other."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.elevation.lift import Elevation, Standing
from prism.model.document import shown_path

_FALLING = (Fix("Take a lighter step: what rises gets lighter in the dark."),)
_CLOSE = (
    Fix("Take a step that lies further off."),
    Fix("Put a line or a shadow between the two."),
)


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each two neighboring levels that are too close, or fall in the dark, in some theme.

    By day a line or a shadow parts them too, where there is one; at night a line that belongs to the upper one.
    """
    levels = Elevation(analysis.document, analysis.answers, analysis.roles)
    for under, over in levels.neighbors():
        wrong = [standing for standing in levels.standings(under, over) if standing.fault]
        falling = [standing for standing in wrong if standing.fault == "falling"]
        if wrong:
            yield Finding(
                "elevation",
                _words(analysis, under, over, falling, wrong),
                over,
                themes=sum(analysis.answers.share(s.fixed) for s in falling or wrong),
                others=(under,),
                fixes=_FALLING if falling else _CLOSE,
            )


def _words(
    analysis: Analysis, under: str, over: str, falling: list[Standing], wrong: list[Standing]
) -> str:
    upper, lower = (_path(analysis, key) for key in (over, under))
    if falling:
        return f"{upper} is darker than {lower}, which lies below it."
    least = min(standing.gap for standing in wrong)
    return f"{upper} hardly lifts off {lower}: {least:.1f} L* apart."


def _path(analysis: Analysis, key: str) -> str:
    token = analysis.document.token(key)
    return shown_path(token.path) if token else key


def _levels(analysis: Analysis) -> Looked:
    heights = Elevation(analysis.document, analysis.answers, analysis.roles).heights
    return Looked(sum(map(len, heights.values())), "level of surfaces", "levels of surfaces")


CHECK = Check(
    "elevation",
    "Elevation",
    "A card that does not lift off its page cannot be seen in use.",
    run,
    _levels,
    "balance",
)
