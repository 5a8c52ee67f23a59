"""The values that tokens hold, and the conditions they hold under."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Expression:
    """The author's text of one value: a literal in CSS syntax or a ``{path}`` reference."""

    text: str


@dataclass(frozen=True, slots=True)
class Composite:
    """Ordered named parts, each a value of its own."""

    parts: tuple[tuple[str, Value], ...]


@dataclass(frozen=True, slots=True)
class Listing:
    """An ordered list of values: font families, curve points, layered shadows, stops."""

    items: tuple[Value, ...]


@dataclass(frozen=True, slots=True)
class Absent:
    """No value at all, under a condition where another would hold: ``initial`` in CSS."""


ABSENT = Absent()

Value = Expression | Composite | Listing | Absent


@dataclass(frozen=True, slots=True)
class Condition:
    """Modes on one or several axes, as pairs of axis key and mode key sorted by axis key.

    The empty condition stands for the base value.
    """

    picks: tuple[tuple[str, str], ...] = ()

    @classmethod
    def of(cls, picks: dict[str, str]) -> Condition:
        """The condition that holds where each axis has the mode named."""
        return cls(tuple(sorted(picks.items())))

    def mode_on(self, axis: str) -> str | None:
        """The mode named for ``axis``, or None."""
        return dict(self.picks).get(axis)


BASE = Condition()
