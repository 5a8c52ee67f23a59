"""Colors that must be told apart, and cannot be by everybody.

What looks alike and what is close is said in ``prism.resolution.telling``.
"""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.commands.names import token_name
from prism.model.document import TellingApart
from prism.vision.distances import Apart, every_two, readings, worst


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each two tokens of a set that look alike, or are close, to somebody in some theme; and
    one for each set whose colors are told apart by hue alone."""
    for members in analysis.document.telling_apart:
        short: dict[tuple[str, str], list[Apart]] = {}
        gray = set[tuple[str, str]]()
        for reading in readings(analysis.answers, every_two(members.tokens)):
            if reading.verdict != "apart":
                pair = (reading.first, reading.second)
                if reading.vision.id == "gray":
                    gray.add(pair)
                else:
                    short.setdefault(pair, []).append(reading)
        for several in short.values():
            yield _finding(analysis, members, several)
        if gray:
            yield _without_color(members, len(gray))


def _finding(analysis: Analysis, members: TellingApart, several: list[Apart]) -> Finding:
    """What is found of two tokens: how they look to those who tell them apart least."""
    least = min(worst(several), key=lambda reading: reading.order)
    names = [token_name(analysis.document, key) for key in (least.first, least.second)]
    alike = least.verdict == "look alike"
    themes = sum(map(analysis.answers.share, {reading.fixed for reading in several}))
    return Finding(
        "vision",
        f"{names[0]} and {names[1]} {'look alike' if alike else 'are close'} "
        f"{least.vision.words}: {least.difference:.1f} apart.",
        least.first,
        members.name,
        themes,
        "warning" if alike else "note",
        (
            Fix("Move one of them apart in lightness."),
            Fix("Say what else they differ by: an icon, a word."),
        ),
        others=(least.second,),
        about=members.key,
        part=members.key,
        accepted=_besides(members),
    )


def _without_color(members: TellingApart, count: int) -> Finding:
    """What is found of a set whose colors differ by hue alone."""
    total = len(every_two(members.tokens))
    return Finding(
        "vision",
        f"{members.name}: without color {count} of {total} pairs cannot be told apart.",
        where=members.name,
        severity="note",
        fixes=(Fix("Say what else they differ by: an icon, a word."),),
        others=members.tokens,
        about=f"{members.key} gray",
        part=members.key,
        accepted=_besides(members),
    )


def _besides(members: TellingApart) -> str:
    return f"They also differ by {members.besides}." if members.besides else ""


def _sets(analysis: Analysis) -> Looked:
    count = len(analysis.document.telling_apart)
    return Looked(count, "set of colors to tell apart", "sets of colors to tell apart")


CHECK = Check(
    "vision", "Vision", "Some eyes see alike what others tell apart.", run, _sets, "vision"
)
