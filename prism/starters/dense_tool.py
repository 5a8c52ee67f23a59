"""A starting point: a dense tool with charts."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from prism.changes.axes import add_axis
from prism.changes.structure import add_tokens
from prism.model.document import Axis, Document, Group, Mode, TellingApart, Token
from prism.model.values import BASE, Condition, Expression
from prism.palette.ramp_edits import NewKey
from prism.starters import scheme
from prism.starters.meanings import Meaning
from prism.starters.naming import naming
from prism.starters.plan import Plan

DENSITY = Axis(
    "density",
    "density",
    (Mode("roomy", "roomy", "For reading"), Mode("compact", "compact", "For many rows")),
    "roomy",
    "How much fits on a screen",
)
_COMPACT = Condition.of({"density": "compact"})
_RAMPS = {"blue": "#2f5fa8", "amber": "#b0601a", "teal": "#178079", "magenta": "#b8336a"}
#: The series by day and by night. Of all ways to use each ramp twice at 3:1 on the page, these steps
#: keep the smallest CIEDE2000 difference between two series largest, with and without full color
#: vision: 9.7 by day and 8.3 by night.
_SERIES = (
    ("{blue.8}", "{blue.3}"),
    ("{amber.8}", "{amber.3}"),
    ("{teal.7}", "{teal.4}"),
    ("{magenta.7}", "{magenta.6}"),
    ("{blue.10}", "{blue.5}"),
    ("{amber.11}", "{amber.5}"),
    ("{teal.9}", "{teal.6}"),
    ("{magenta.10}", "{magenta.1}"),
)
_GAPS = {"gap.cell": ("{space.2}", "{space.1}"), "gap.panel": ("{space.6}", "{space.3}")}
_PAGE = """
A tool that people look at all day: quiet surfaces, small type, color only where it says something.

- `density` switches the gaps between cells and panels.
- The eight series of charts can be told apart without full color vision too, but some come close, so
  label them. Draw more than eight as small charts.
- Status colors are for the state of things, never for series.
"""


def build(plan: Plan, new_key: NewKey) -> Document:
    """The whole scheme, with fresh keys."""
    series = [
        Meaning(f"chart.{number}", "chart", light, dark, f"Series {number}")
        for number, (light, dark) in enumerate(_SERIES, 1)
    ]
    lines = [
        Meaning("chart.axis", "text quiet", "{N.9}", "{N.3}", "Axes and their labels"),
        Meaning("chart.grid", "line soft", "{N.3}", "{N.8}", "Behind the series"),
    ]
    colors = plan.colors or (scheme.DEFAULT,)
    named = {name: name for name in _RAMPS}
    for color in colors:
        for name, seed in _RAMPS.items():
            if color.base == seed and not scheme.is_taken(color.name):
                named[name] = color.name  # the brand has that very ramp
            elif color.name == name:
                named[name] = f"chart {name}"
    own = {
        named[name]: seed
        for name, seed in _RAMPS.items()
        if named[name] not in {c.name for c in colors}
    }
    document = scheme.build(plan, new_key, ramps=own, more=(*_renamed(series, named), *lines))
    if plan.has("measures"):
        document = add_axis(document, DENSITY)
        document = add_tokens(
            document,
            [
                Token(
                    new_key(), path, "dimension", "semantic",
                    ((BASE, Expression(roomy)), (_COMPACT, Expression(compact))),
                )
                for path, (roomy, compact) in _GAPS.items()
            ],
        )  # fmt: skip
    names = naming(plan.naming)
    paths = [names.path(meaning.path, plan.prefix) for meaning in series]
    keys = tuple(token.key for token in document.tokens if token.path in paths)
    document = replace(
        document,
        groups=(*document.groups, Group(names.path("chart", plan.prefix), "Series of charts")),
        telling_apart=(
            *document.telling_apart,
            TellingApart(new_key(), "chart series", keys, "a label on each"),
        ),
    )
    about = "A dense tool with charts, light and dark, roomy and compact."
    return scheme.described(document, about, _PAGE, new_key)


def _renamed(series: list[Meaning], named: Mapping[str, str]) -> list[Meaning]:
    """The series on ramps of other names."""

    def turned(value: str) -> str:
        ramp, _, step = value.strip("{}").rpartition(".")
        return f"{{{named[ramp]}.{step}}}"

    return [replace(m, light=turned(m.light), dark=turned(m.dark)) for m in series]
