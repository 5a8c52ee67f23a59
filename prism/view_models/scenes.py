"""Scenes: what text stands on which stack of fills, read from a scene's markup.

An element says by ``data-ink`` which slot colors its text, by ``data-fill`` which slot fills
it and by ``data-edge`` which slot colors its border.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from html.parser import HTMLParser

from prism.model.document import Pairing, Token
from prism.resolution.contrast import Reading, audit
from prism.resolution.resolver import Resolver, Theme

_VOID = frozenset(
    [
        "area",
        "base",
        "br",
        "col",
        "embed",
        "hr",
        "img",
        "input",
        "link",
        "meta",
        "source",
        "track",
        "wbr",
    ]
)


@dataclass(frozen=True, slots=True)
class TextRun:
    """A text of a scene: the slot of its color and the fills under it, nearest first."""

    text: str
    ink: str
    fills: tuple[str, ...]


class _Reader(HTMLParser):
    def __init__(self) -> None:
        super().__init__(convert_charrefs=True)
        self.open: list[tuple[str, str, str]] = []
        self.runs: list[TextRun] = []
        self.slots: dict[str, None] = {}

    def handle_starttag(self, tag: str, attrs: list[tuple[str, str | None]]) -> None:
        attributes = {name: value or "" for name, value in attrs}
        for name in ("data-ink", "data-fill", "data-edge"):
            if attributes.get(name):
                self.slots[attributes[name]] = None
        ink = attributes.get("data-ink") or (self.open[-1][1] if self.open else "")
        if tag not in _VOID:
            self.open.append((tag, ink, attributes.get("data-fill", "")))

    def handle_endtag(self, tag: str) -> None:
        while self.open:
            closed, _, _ = self.open.pop()
            if closed == tag:
                break

    def handle_data(self, data: str) -> None:
        text = " ".join(data.split())
        if text and self.open and self.open[-1][0] not in ("style", "script", "title"):
            fills = tuple(fill for _, _, fill in reversed(self.open) if fill)
            self.runs.append(TextRun(text, self.open[-1][1], fills))


def read(markup: str) -> tuple[list[TextRun], list[str]]:
    """The texts of a scene, and the color slots it uses, both in order."""
    reader = _Reader()
    reader.feed(markup)
    reader.close()
    return reader.runs, list(reader.slots)


@dataclass(frozen=True, slots=True)
class RunReading:
    """How all texts of one ink on one stack read, theme by theme; None where unbound."""

    ink: str
    fills: tuple[str, ...]
    count: int
    example: str
    readings: tuple[Reading | None, ...]


def readings(
    resolver: Resolver,
    runs: Sequence[TextRun],
    bound: Mapping[str, Token],
    themes: Sequence[Theme],
) -> list[RunReading]:
    """Each distinct ink and stack of a scene, with its reading in each of ``themes``."""
    seen: dict[tuple[str, tuple[str, ...]], list[TextRun]] = {}
    for run in runs:
        seen.setdefault((run.ink, run.fills), []).append(run)
    run_readings = []
    for (ink, fills), members in seen.items():
        per_theme: tuple[Reading | None, ...] = (None,) * len(themes)
        if ink in bound and fills and all(fill in bound for fill in fills):
            pairing = Pairing("", bound[ink].key, tuple(bound[fill].key for fill in fills))
            per_theme = tuple(audit(resolver, [pairing], themes))
        run_readings.append(RunReading(ink, fills, len(members), members[0].text, per_theme))
    return run_readings
