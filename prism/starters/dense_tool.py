"""A starting point: a dense tool with charts."""

from __future__ import annotations

from dataclasses import replace

from prism.model.document import Axis, Document, Group, Mode, TellingApart
from prism.model.values import BASE, Condition
from prism.palette.building import NewKey
from prism.starters import parts

DENSITY = Axis(
    "density",
    "density",
    (Mode("roomy", "roomy", "For reading"), Mode("compact", "compact", "For many rows")),
    "roomy",
    "How much fits on a screen",
)
_RAMPS = (
    ("ink", "#6b7078", "ink"),
    ("accent", "#3a63b8", "identity"),
    ("blue", "#2f5fa8", "chart"),
    ("amber", "#b0601a", "chart"),
    ("teal", "#178079", "chart"),
    ("magenta", "#b8336a", "chart"),
)
#: The series on a light and on a dark ground. Of all ways to use each ramp twice, these steps keep
#: the smallest difference between two series largest, with and without full color vision.
_SERIES = (
    ("{blue.9}", "{blue.4}"),
    ("{amber.6}", "{amber.2}"),
    ("{teal.11}", "{teal.6}"),
    ("{magenta.7}", "{magenta.5}"),
    ("{blue.6}", "{blue.2}"),
    ("{amber.10}", "{amber.4}"),
    ("{teal.7}", "{teal.5}"),
    ("{magenta.9}", "{magenta.6}"),
)
_PAGE = """
# How this scheme is meant

A tool that people look at all day: quiet grounds, small type, color only where it says something.

- Surfaces come in five levels, from `surface.sunken` up to `surface.top`. In the dark each level
  is lighter than the one below.
- `density` switches the gaps between rows and parts.
- `chart.1` to `chart.8` are the series. By day they can be told apart with any color vision; at
  night some come close, so label them. Draw more than eight as small charts.
- Signals are for the state of things, never for series.
"""


def build(new_key: NewKey) -> Document:
    """The whole scheme, with fresh keys. Long because it is a list of what the scheme holds."""
    document = parts.start("Dense tool", (parts.APPEARANCE, DENSITY), _RAMPS, new_key)
    document = parts.scales(document, ("space", "radius", "size", "weight", "shadow"), new_key)
    meanings = {
        **parts.COMMON,
        "surface.raised": ("{white}", "{ink.9}", "What lies on a card"),
        "surface.top": ("{white}", "{ink.8}", "Menus and questions"),
        "row.selected": ("{accent.2}", "{accent.10}", "Behind chosen rows"),
        "chart.axis": ("{ink.7}", "{ink.5}", "Axes and their labels"),
        "chart.grid": ("{ink.3}", "{ink.9}", "Behind the series"),
    }
    for number, (light, dark) in enumerate(_SERIES, 1):
        meanings[f"chart.{number}"] = (light, dark, f"Series {number}")
    document = parts.mean(document, meanings, new_key)
    compact = Condition.of({"density": "compact"})
    document = parts.measure(
        document, "gap.row", "dimension", {BASE: "{space.2}", compact: "{space.1}"}, new_key
    )
    document = parts.measure(
        document, "gap.part", "dimension", {BASE: "{space.6}", compact: "{space.3}"}, new_key
    )
    document = parts.measure(document, "corner.card", "dimension", {BASE: "{radius.1}"}, new_key)
    document = parts.measure(document, "lift.card", "shadow", {BASE: "{shadow.1}"}, new_key)
    pairs = (
        *parts.COMMON_PAIRS,
        ("text.main", "surface.raised", "text"),
        ("text.main", "surface.top", "text"),
        ("text.main", "row.selected", "text"),
        ("chart.axis", "surface.card", "text"),
        *((f"chart.{place}", "surface.card", "graphic") for place in range(1, 9)),
    )
    document = parts.pair(document, pairs, new_key)
    series = [document.token_at(f"chart.{place}") for place in range(1, 9)]
    apart = TellingApart(
        new_key(), "chart series", tuple(token.key for token in series if token is not None)
    )
    return replace(
        document,
        description="A dense tool with charts, light and dark, roomy and compact.",
        groups=(*parts.GROUPS, Group("chart", "Series that must be told apart")),
        telling_apart=(apart,),
        pages=parts.page("How this scheme is meant", _PAGE, new_key),
    )
