"""Colors that mean different things, are told apart in some themes, and are one color in others.

Looked at are a thing and its hover, sunken and raised surfaces and the page, texts of different weight in one group, and what
one part of different statuses is painted with; only where it is sure what both are for. Two colors that are one
everywhere are left alone: somebody may have meant that.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.color.difference import delta_e_2000, lab
from prism.color.space import Color, rgba
from prism.commands.names import counted
from prism.model.document import Document, shown_path
from prism.model.names import condition_words
from prism.model.values import Condition
from prism.resolution.answer_tables import Fixed, common
from prism.roles import different

#: Parts of the space of themes that are named at most.
_NAMED = 2


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each two such colors, with the themes in which they are one."""
    for family, first, second in analysis.once(_different).pairs:
        parts, apart = _themes(analysis, first.key, second.key)
        if not parts or not apart:
            continue
        merged = sum(map(analysis.answers.share, parts))
        one, other = shown_path(first.path), shown_path(second.path)
        yield Finding(
            "merged",
            f"{one} and {other} are one color {_where(analysis.document, parts, merged)}, and two in {apart:,} more.",
            first.key,
            themes=merged,
            severity="warning" if family in different.NEVER_ONE else "note",
            others=(second.key,),
            fixes=(Fix("Give one of them a color of its own there."),),
        )


def _where(document: Document, parts: Sequence[Fixed], count: int) -> str:
    """The modes of a few parts of the space of themes, with how many themes that are."""
    themes = counted(count, "theme")
    if len(parts) > _NAMED:
        return f"in {themes}"
    conditions = [
        Condition.of(
            {
                axis.key: axis.modes[mode].key
                for axis, mode in zip(document.axes, part, strict=True)
                if mode >= 0
            }
        )
        for part in parts
    ]
    return (
        f"for {' and for '.join(condition_words(document, one) for one in conditions)} ({themes})"
    )


def _themes(analysis: Analysis, first: str, second: str) -> tuple[list[Fixed], int]:
    """The parts of the space of themes in which two colors are one, and in how many themes they are told apart."""
    tables = analysis.answers
    both = [
        (shared, answer, other)
        for fixed, answer in tables.of(first)
        for other_fixed, other in tables.of(second)
        if answer.color is not None
        and other.color is not None
        and (shared := common(fixed, other_fixed)) is not None
    ]
    merged = [shared for shared, answer, other in both if answer.hex == other.hex]
    if not merged:
        return [], 0
    apart = sum(
        tables.share(shared)
        for shared, answer, other in both
        if answer.hex != other.hex and _distance(answer.color, other.color) >= different.TOLD_APART
    )
    return merged, apart


def _distance(one: Color | None, other: Color | None) -> float:
    """CIEDE2000 between two opaque colors; 0 where one is missing or translucent, as then what lies under it decides."""
    if one is None or other is None:
        return 0.0
    first, second = rgba(one), rgba(other)
    if first[3] < 1 or second[3] < 1:
        return 0.0
    return float(delta_e_2000(lab(first[:3]), lab(second[:3])))


def _different(analysis: Analysis) -> different.Different:
    return different.pairs(analysis.document, analysis.roles)


def _looked(analysis: Analysis) -> Looked:
    found = analysis.once(_different)
    left = [f"{counted(found.unsure, 'color')} whose role is not sure"] if found.unsure else []
    if found.more:
        left.append(f"pairs beyond the first {different.MOST:,}")
    return Looked(
        len(found.pairs),
        "pair of colors that differ in meaning",
        "pairs of colors that differ in meaning",
        " and ".join(left),
    )


CHECK = Check(
    "merged",
    "Merged",
    "Two things that look the same in one mode cannot be told apart there.",
    run,
    _looked,
    "balance",
)
