"""Pairings that fall short of the contrast they need."""

from __future__ import annotations

from collections.abc import Iterator

from prism.analysis import Analysis
from prism.check import Check, Finding, Fix, Looked
from prism.color.contrast import truncate_ratio
from prism.commands.names import counted
from prism.contrast.presumed import presumed, why
from prism.contrast.unplaced import unplaced
from prism.model.document import Document, Pairing, shown_path
from prism.resolution.contrast import summary
from prism.resolution.failing_pairing import FailingPairing

_SAY = Fix("Say what the colors are for, or that the two never meet.")
_FIXES = (Fix("Choose a darker or lighter step, or another background."),)


def run(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each pairing that falls short in some theme, with its worst reading."""
    yield from analysis.once(falling_short).values()
    yield from _not_judged(analysis)


def falling_short(analysis: Analysis) -> dict[str, Finding]:
    """What is found of each pairing that falls short, by its key; asked for by ``Analysis.once``."""
    known: dict[str, Finding] = analysis.previous(falling_short) or {}
    before: dict[str, FailingPairing] = analysis.previous("failing") or {}
    shortfalls = {}
    in_doubt = analysis.once(presumed)
    for key, short in analysis.failing.items():
        pairing = analysis.paired.pairing(key)
        doubt = (
            why(analysis.document, pairing, analysis.roles) if pairing and key in in_doubt else ""
        )
        if (
            key in known
            and before.get(key) is short
            and not doubt
            and known[key].severity == "error"
        ):
            shortfalls[key] = known[key]
        elif pairing is not None:
            shortfalls[key] = _finding(analysis.paired, pairing, short, doubt)
    return shortfalls


def _finding(paired: Document, pairing: Pairing, short: FailingPairing, doubt: str) -> Finding:
    """What is found of a pairing that falls short in some theme, by its worst reading; ``doubt`` says why it is only
    presumed, empty where it is known."""
    return Finding(
        "contrast",
        f"{summary(paired, pairing)}: {truncate_ratio(short.least)}:1, needs "
        f"{pairing.required:g}:1{f'; {doubt}' if doubt else ''}.",
        pairing.foreground,
        themes=short.themes,
        severity="warning" if doubt else "error",
        fixes=(_SAY, *_FIXES) if doubt else _FIXES,
        others=pairing.backgrounds,
        about=pairing.use,
        part=pairing.key,
        accepted=pairing.waiver,
        accepted_by=pairing.waived_by,
        until=pairing.waived_until,
    )


def _not_judged(analysis: Analysis) -> Iterator[Finding]:
    """A finding for each color of a pairing that some theme has no value of."""
    told = set[str]()
    for pairing in analysis.paired.pairings:
        for key in (pairing.foreground, *pairing.backgrounds):
            token = analysis.document.token(key)
            if key in told or token is None:
                continue
            told.add(key)
            if analysis.answers.lacks_color(key):
                rows = analysis.answers.of(key)
                parts = [fixed for fixed, answer in rows if answer.color is None]
                on_page = any(answer.on_page for _, answer in rows)
                yield Finding(
                    "contrast",
                    f"{shown_path(token.path)} {'depends on its page' if on_page else 'has no color'}, so "
                    f"{summary(analysis.paired, pairing)} cannot be judged there.",
                    key,
                    themes=sum(map(analysis.answers.share, parts)),
                    severity="error",
                    fixes=(Fix("Give it a color in every theme."),),
                    about="no color",
                    part=pairing.key,
                )


def _pairings(analysis: Analysis) -> Looked:
    left, doubted = len(analysis.once(unplaced)), len(analysis.once(presumed))
    words = counted(left, "color") + " in no known pairing" if left else ""
    aside = f", {doubted} of them presumed" if doubted else ""
    count = len(analysis.paired.pairings)
    return Looked(count, f"pairing{aside}", f"pairings{aside}", words)


CHECK = Check(
    "contrast",
    "Contrast",
    "Not everybody can read text with too little contrast.",
    run,
    _pairings,
    "contrast",
)
