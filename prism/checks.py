"""Every check of every capability, and what they find in a document."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import replace
from itertools import chain

from prism.analysis import Analysis
from prism.capabilities import CAPABILITIES
from prism.check import SECTIONS, Check, Finding, Section
from prism.resolution.resolver import Resolver

#: Every check, in the order their findings are listed.
CHECKS: tuple[Check, ...] = tuple(check for part in CAPABILITIES for check in part.checks)
BY_ID = {check.id: check for check in CHECKS}

__all__ = [
    "BY_ID",
    "CHECKS",
    "SECTIONS",
    "ByToken",
    "Check",
    "Finding",
    "Section",
    "by_token",
    "findings",
    "ids",
    "run",
]


#: What checks that look at each token by itself found, by check and token key; nothing is left out.
ByToken = Mapping[str, Mapping[str, Sequence[Finding]]]


def by_token(
    analysis: Analysis, known: ByToken | None = None, reached: Collection[str] = ()
) -> ByToken:
    """What the checks find that look at each token by itself. ``known`` is what they found in an earlier document; it
    holds for all tokens but those ``reached``, by key, by what changed since."""
    kept: dict[str, dict[str, Sequence[Finding]]] = {}
    for check in CHECKS:
        if check.of is None:
            continue
        before = known[check.id] if known is not None else {}
        kept[check.id] = {
            token.key: before[token.key]
            if token.key in before and token.key not in reached
            else tuple(check.of(analysis, token))
            for token in analysis.document.tokens
        }
    return kept


def findings(analysis: Analysis) -> list[Finding]:
    """What all checks find, with what was accepted; asked for by ``Analysis.once``."""
    return run(analysis, known=analysis.once(found_of_tokens))


def found_of_tokens(analysis: Analysis) -> ByToken:
    """What is found of each token by itself; after an edit, of those it reaches alone."""
    known: ByToken | None = analysis.previous(found_of_tokens)
    before: Resolver | None = analysis.previous("resolver")
    reached = analysis.resolver.reached_since(before) if before is not None else None
    if known is None or reached is None or before is None:
        return by_token(analysis)
    same = before.document.gamut == analysis.document.gamut
    return by_token(analysis, known if same else None, reached)


def run(analysis: Analysis, *ids: str, known: ByToken | None = None) -> list[Finding]:
    """What the checks find, in the order of ``CHECKS``, with what was accepted; only those of ``ids`` where any
    are given. ``known`` is what was found of each token by itself."""
    known = known or {}
    return list(
        _accepted(
            analysis,
            (
                finding
                for check in CHECKS
                if not ids or check.id in ids
                for finding in (
                    chain.from_iterable(known[check.id].values())
                    if check.id in known
                    else check.run(analysis)
                )
            ),
        )
    )


def _accepted(analysis: Analysis, findings: Iterator[Finding]) -> Iterator[Finding]:
    """The findings; those that were muted say so."""
    mutes = {(mute.check, mute.tokens, mute.about): mute for mute in analysis.document.mutes}
    if not mutes:
        yield from findings
        return
    for finding in findings:
        mute = mutes.get(finding.identity)
        if mute is not None:
            finding = replace(finding, accepted=mute.reason, accepted_by=mute.by, until="")
        yield finding


def ids(section: Section) -> tuple[str, ...]:
    """The ids of the checks of a section, in order."""
    return tuple(check.id for check in CHECKS if check.section == section)
