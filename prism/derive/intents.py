"""What a proposed mode is to be: where its rows start, and how much contrast it asks for."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from prism.derive import modes
from prism.derive.mapping import is_rung
from prism.derive.tuning import Row
from prism.errors import EditError
from prism.expressions.syntax import reference_of
from prism.model.document import Document, Pairing
from prism.model.values import Expression
from prism.palette.course import oklch
from prism.resolution.current import resolver_of
from prism.roles.guess import guess

#: Chroma of a quieter color, as a share of what it was. Common practice, no source.
_QUIET = 0.6
#: What level AAA asks for in place of AA: WCAG 2.2, 1.4.6; controls and graphics by as much more.
_RAISED = {3.0: 4.5, 4.5: 7.0}
_LOUD = {
    "fill": ("action", "accent"),
    "status": ("text", "fill", "line", "tint"),
    "text": ("link",),
}


@dataclass(frozen=True, slots=True)
class Intent:
    """An intent: its id and sentence, the rows it starts with, and what its pairings need."""

    id: str
    sentence: str
    rows: Callable[[Document, str, str, str, str], list[Row]]
    needs: Callable[[Sequence[Pairing]], tuple[Pairing, ...]] = tuple


def _copied(document: Document, axis: str, source: str, key: str, scheme: str) -> list[Row]:
    owner = document.axis(axis)
    if owner is None or all(mode.key != source for mode in owner.modes):
        raise EditError("The mode to start from is no longer there.")
    return []


def _quieter(document: Document, axis: str, source: str, key: str, scheme: str) -> list[Row]:
    """Colors of brands and meanings with less chroma, lightness and hue as they are."""
    _copied(document, axis, source, key, scheme)
    resolver = resolver_of(document)
    theme = resolver.theme({axis: source})
    rows = []
    for key_of, known in guess(document, resolver).items():
        token, won = document.token(key_of), resolver.winner(key_of, theme)
        color = resolver.resolve(key_of, theme).color
        if known.role.detail not in _LOUD.get(known.role.kind, ()) or token is None or won is None:
            continue
        if color is None or not isinstance(won[1], Expression) or oklch(color)[1] < 0.01:
            continue
        target = document.token_at(reference_of(won[1].text))
        if target is not None and target.tier != "raw" and not is_rung(document, target):
            continue  # it follows another, which gets quieter itself
        value = Expression(f"oklch(from {won[1].text} l calc(c * {_QUIET:g}) h)")
        rows.append(Row(token, won[1], value, "quieter", f"chroma at {_QUIET:.0%}"))
    return rows


def _raised(pairs: Sequence[Pairing]) -> tuple[Pairing, ...]:
    """Pairings that need what level AAA asks for, where they need what level AA does."""
    return tuple(
        replace(pairing, required=_RAISED.get(pairing.required, pairing.required))
        for pairing in pairs
    )


INTENTS: tuple[Intent, ...] = (
    Intent("counterpart", "Light or dark: mirrored and tuned", modes.propose),
    Intent("raise", "More contrast: texts reach 7, controls 4.5", _copied, _raised),
    Intent("quieter", "Quieter: brand and status colors with less chroma", _quieter),
)
BY_ID = {intent.id: intent for intent in INTENTS}
