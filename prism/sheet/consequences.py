"""What a change would come to, in words, before it is stored."""

from __future__ import annotations

from dataclasses import dataclass

from prism.analysis import Analysis
from prism.compare.impact import Impact, impact
from prism.model.document import Document, Pairing
from prism.roles import rules


@dataclass(frozen=True, slots=True)
class Consequences:
    """Sentences, the most important first; the pairings that begin and that cease to fall short,
    each with the number of themes."""

    sentences: tuple[str, ...]
    breaks: tuple[tuple[Pairing, int], ...]
    heals: tuple[tuple[Pairing, int], ...]


def consequences(analysis: Analysis, after: Document) -> Consequences:
    """The consequences of going from a document to ``after``, over the pairings of its rules too."""
    resolver, before = analysis.paired_resolver, analysis.paired
    consequences = impact(before, rules.joined(after, analysis.by_rule), known=resolver)
    return Consequences(
        tuple(_words(consequences, resolver.theme_count)),
        *(
            tuple(
                (pairing, count)
                for key, count in counts.items()
                if (pairing := before.pairing(key))
            )
            for counts in (consequences.breaks, consequences.heals)
        ),
    )


def _words(change: Impact, themes: int) -> list[str]:
    sentences = []
    for verb, counts in (("Breaks", change.breaks), ("Fixes", change.heals)):
        if counts:
            sentences.append(f"{verb} {_counted(len(counts), 'pairing')}.")
    if change.removed:
        sentences.append(f"Removes {_counted(len(change.removed), 'token')}.")
    if change.added:
        sentences.append(f"Adds {_counted(len(change.added), 'token')}.")
    if change.tokens:
        sentences.append(
            f"Changes {_counted(len(change.tokens), 'token')} in {change.themes} of "
            f"{_counted(themes, 'theme')}, and {_counted(len(change.pairings), 'pairing')} with them."
        )
    return sentences or ["Changes nothing that can be seen in any theme."]


def _counted(count: int, noun: str) -> str:
    return f"{count} {noun}{'' if count == 1 else 's'}"
