"""Contrast readings laid out for reading: pairings against the modes of one or two axes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from prism.model.document import Axis, Document, Mode, Pairing, shown_path
from prism.resolution.answer_tables import AnswerTables, Fixed
from prism.resolution.contrast import Reading, audit, summary
from prism.resolution.contrast_table import ContrastTable
from prism.resolution.failing_pairing import FailingPairing, Part
from prism.resolution.resolver import Resolver, Theme


@dataclass(frozen=True, slots=True)
class Column:
    """One theme as a column: the mode of the outer axis (None without one) and the inner."""

    outer: Mode | None
    inner: Mode | None
    theme: Theme


@dataclass(frozen=True, slots=True)
class MatrixRow:
    """A pairing, its readings column by column, the themes beyond them where it fails, and what it is grouped under."""

    pairing: Pairing
    words: str
    readings: tuple[Reading, ...]
    elsewhere: int
    group: str = ""

    @property
    def fails(self) -> bool:
        """Whether it falls short in a column or elsewhere."""
        return bool(self.elsewhere) or any(reading.fails for reading in self.readings)


def columns(resolver: Resolver, theme: Theme) -> list[Column]:
    """The modes of the first axis within those of the second; other axes as in ``theme``.

    Axes that no pairing depends on are skipped.
    """
    axes = _varying(resolver)
    inner = axes[0] if axes else None
    outer = axes[1] if len(axes) > 1 else None
    matrix_rows = []
    for i, mode in enumerate(outer.modes) if outer else [(0, None)]:
        for j, inner_mode in enumerate(inner.modes) if inner else [(0, None)]:
            modes = list(theme)
            if outer:
                modes[resolver.axis_index[outer.key]] = i
            if inner:
                modes[resolver.axis_index[inner.key]] = j
            matrix_rows.append(Column(mode, inner_mode, tuple(modes)))
    return matrix_rows


def _varying(resolver: Resolver) -> list[Axis]:
    document = resolver.document
    keys = set[str]()
    tokens = {
        key
        for pairing in document.pairings
        for key in (pairing.foreground, *pairing.backgrounds, pairing.page)
        if document.token(key) is not None
    }
    for key in tokens:
        if len(keys) == len(document.axes):
            break
        keys.update(resolver.influence(key))
    return [axis for axis in document.axes if axis.key in keys]


@dataclass(frozen=True, slots=True)
class Wanted:
    """Which pairings are laid out: those whose words hold a text, those that fall short or are waived, in groups of one
    ``foreground``, ``background`` or ``use``; from which place on, and how many."""

    find: str = ""
    only: str = ""
    by: str = ""
    start: int = 0
    count: int = 50


@dataclass(frozen=True, slots=True)
class Matrix:
    """Some rows of all pairings that are wanted, and how many these are."""

    rows: tuple[MatrixRow, ...]
    total: int


def rows(
    resolver: Resolver,
    table: Sequence[Column],
    failing: Mapping[str, FailingPairing],
    wanted: Wanted | None = None,
) -> Matrix:
    """Pairings with their readings, the worst first, in document order where they pass. ``failing`` says of all themes
    where each pairing falls short. Only what is shown is measured."""
    document, wanted = resolver.document, wanted or Wanted()
    shown = [(pairing, summary(document, pairing)) for pairing in document.pairings]
    fitting = [
        (pairing, words)
        for pairing, words in shown
        if wanted.find.lower() in words.lower()
        and (wanted.only != "failing" or pairing.key in failing)
        and (wanted.only != "waived" or pairing.waiver)
    ]
    fitting.sort(key=lambda row: _order(document, row[0], failing, wanted.by))
    page = fitting[wanted.start : wanted.start + wanted.count]
    themes = [column.theme for column in table]
    readings = audit(resolver, [pairing for pairing, _ in page], themes)
    matrix_rows = []
    for i, (pairing, words) in enumerate(page):
        mine = tuple(readings[i * len(themes) : (i + 1) * len(themes)])
        seen = {(reading.foreground, reading.background) for reading in mine if reading.fails}
        beyond = {
            part.reading.theme
            for part in failing.get(pairing.key, ())
            if (part.reading.foreground, part.reading.background) not in seen
        }
        group = group_of(document, pairing, wanted.by)
        matrix_rows.append(MatrixRow(pairing, words, mine, len(beyond), group))
    return Matrix(tuple(matrix_rows), len(fitting))


def group_of(document: Document, pairing: Pairing, by: str) -> str:
    """What a pairing is grouped under, in words; empty where nothing groups them."""
    keys = {"foreground": pairing.foreground, "background": pairing.backgrounds[0]}
    token = document.token(keys.get(by, ""))
    return pairing.use if by == "use" else shown_path(token.path) if token else ""


def _order(
    document: Document, pairing: Pairing, failing: Mapping[str, FailingPairing], by: str
) -> tuple[str, float]:
    """Groups by their words; in each, what misses most by share of what it needs."""
    short = failing.get(pairing.key)
    missed = short.least / pairing.required if short is not None else 1.0
    return group_of(document, pairing, by), missed


@dataclass(frozen=True, slots=True)
class AnswerRow:
    """How a pairing reads in all the themes that give it the same two colors: how many these are, and which in words."""

    reading: Reading
    themes: int
    words: str


def answers(tables: AnswerTables, pairing: Pairing) -> list[AnswerRow]:
    """The different answers of a pairing over all themes, the worst first."""
    parts_of: dict[tuple[str, str, str], list[Part]] = {}
    for part in ContrastTable(tables, [pairing]).parts(pairing.key):
        reading = part.reading
        key = (reading.foreground, reading.background, reading.missing)
        parts_of.setdefault(key, []).append(part)
    axes = tables.resolver.document.axes
    made = [
        AnswerRow(
            parts[0].reading,
            sum(part.themes for part in parts),
            modes_words(axes, [part.fixed for part in parts]),
        )
        for parts in parts_of.values()
    ]
    return sorted(made, key=lambda row: (bool(row.reading.missing), row.reading.ratio))


def modes_words(axes: Sequence[Axis], parts: Sequence[Fixed]) -> str:
    """The modes that some parts of the themes have, axis by axis, without the axes of which they have all."""
    words = []
    for place, axis in enumerate(axes):
        modes = {fixed[place] for fixed in parts}
        if -1 not in modes and len(modes) < len(axis.modes):
            words.append(" and ".join(axis.modes[mode].name for mode in sorted(modes)))
    return ", ".join(words) or "every theme"
