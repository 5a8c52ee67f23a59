"""What a change would come to, in words, before it is stored."""

from __future__ import annotations

from dataclasses import dataclass

from prism.compare.impact import Impact, impact
from prism.model.document import Document, Pairing
from prism.resolution.resolver import Resolver


@dataclass(frozen=True, slots=True)
class Consequences:
    """Sentences, the most important first; the pairings that begin and that cease to fall short,
    each with the number of themes."""

    sentences: tuple[str, ...]
    breaks: tuple[tuple[Pairing, int], ...]
    heals: tuple[tuple[Pairing, int], ...]


def consequences(resolver: Resolver, after: Document) -> Consequences:
    """The consequences of going from the resolver's document to ``after``."""
    before = resolver.document
    found = impact(before, after, known=resolver)
    return Consequences(
        tuple(_words(found, resolver.theme_count)),
        *(
            tuple(
                (pairing, count) for key, count in one.items() if (pairing := before.pairing(key))
            )
            for one in (found.breaks, found.heals)
        ),
    )


def _words(found: Impact, themes: int) -> list[str]:
    said = []
    for verb, counts in (("Breaks", found.breaks), ("Fixes", found.heals)):
        if counts:
            said.append(f"{verb} {_counted(len(counts), 'pairing')}.")
    if found.removed:
        said.append(f"Removes {_counted(len(found.removed), 'token')}.")
    if found.added:
        said.append(f"Adds {_counted(len(found.added), 'token')}.")
    if found.tokens:
        said.append(
            f"Changes {_counted(len(found.tokens), 'token')} in {found.themes} of "
            f"{_counted(themes, 'theme')}, and {_counted(len(found.pairings), 'pairing')} with them."
        )
    return said or ["Changes nothing that can be seen in any theme."]


def _counted(count: int, noun: str) -> str:
    return f"{count} {noun}{'' if count == 1 else 's'}"
