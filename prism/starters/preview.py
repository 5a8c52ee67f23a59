"""What a new project would hold, as its preview shows it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.brands import addition
from prism.color import space
from prism.color.contrast import ink_on
from prism.model.document import Pairing, Ramp
from prism.resolution.contrast import Reading, audit, summary
from prism.resolution.resolver import Theme


@dataclass(frozen=True, slots=True)
class Step:
    """A step of a strip; ``ink`` tells what is written on it."""

    hex: str
    ink: str
    is_base: bool


@dataclass(frozen=True, slots=True)
class Strip:
    """A ramp: its steps, and its base color, which may stand beside them."""

    name: str
    steps: tuple[Step, ...]
    base: str
    beside: bool


@dataclass(frozen=True, slots=True)
class Look:
    """A theme that is shown on an interface, and its modes in words."""

    words: str
    theme: Theme


@dataclass(frozen=True, slots=True)
class Read:
    """A pairing and how it reads in each mode."""

    words: str
    readings: tuple[Reading, ...]

    @property
    def margin(self) -> float:
        """How far above what it needs its lowest ratio lies, as a factor."""
        return min((r.ratio / r.required for r in self.readings if r.required), default=99.0)

    @property
    def least(self) -> Reading:
        """The lowest reading."""
        return min(self.readings, key=lambda reading: reading.ratio)


@dataclass(frozen=True, slots=True)
class Shown:
    """All that the preview shows of a document."""

    strips: tuple[Strip, ...]
    tokens: int
    modes: int
    pairings: tuple[Read, ...]

    @property
    def failing(self) -> int:
        """How many pairings fall short in some mode."""
        return sum(any(reading.fails for reading in read.readings) for read in self.pairings)

    @property
    def tightest(self) -> Read | None:
        """The pairing that has least to spare."""
        return self.pairings[0] if self.pairings else None


def shown(analysis: Analysis) -> Shown:
    """The preview of a document, its pairings with the tightest first, in every theme."""
    document, resolver = analysis.document, analysis.resolver
    themes = list(resolver.themes())
    pairings: tuple[Pairing, ...] = analysis.paired.pairings
    readings = audit(analysis.paired_resolver, pairings, themes)
    width = len(themes)
    reads = [
        Read(summary(document, pairing), tuple(readings[i * width : (i + 1) * width]))
        for i, pairing in enumerate(pairings)
    ]
    return Shown(
        tuple(_strips(analysis)),
        len(document.tokens),
        sum(len(axis.modes) for axis in document.axes),
        tuple(sorted(reads, key=lambda read: read.margin)),
    )


#: Brands that are shown side by side at most.
_MOST_BRANDS = 3


def looks(analysis: Analysis) -> list[Look]:
    """The themes to show: every appearance, of the first brands where there are several."""
    document, resolver = analysis.document, analysis.resolver
    if not document.tokens:
        return []
    brand = addition.axis_of(document)
    firsts = [mode.key for mode in brand.modes[:_MOST_BRANDS]] if brand else [""]
    shown = []
    for key in firsts:
        for mode in document.axes[0].modes:
            picks = {document.axes[0].key: mode.key} | ({brand.key: key} if brand else {})
            words = [mode.name, *(m.name for m in (brand.modes if brand else ()) if m.key == key)]
            shown.append(Look(", ".join(words), resolver.theme(picks)))
    return shown


def _strips(analysis: Analysis) -> Iterator[Strip]:
    for ramp in analysis.document.ramps:
        if ramp.parameters:
            yield _strip(analysis, ramp)


def _strip(analysis: Analysis, ramp: Ramp) -> Strip:
    resolver = analysis.resolver
    theme = resolver.default_theme
    text = dict(ramp.parameters)["seed"]
    base = space.hex_text(space.fit(space.parse_function(text), "srgb"))
    steps = []
    for key in ramp.steps:
        answer = resolver.resolve(key, theme)
        token = analysis.document.token(key)
        value = token.value() if token is not None else None
        if answer.color is not None:
            is_base = not ramp.base and getattr(value, "text", "") == text
            steps.append(Step(answer.hex, ink_on(answer.color), is_base))
    return Strip(ramp.name, tuple(steps), base, bool(ramp.base))
