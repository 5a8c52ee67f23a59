"""What a proposed mode is to be: where its rows start, and how much contrast it asks for."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

from prism.model.document import Pairing
from prism.modes import starting_rows
from prism.modes.draft import Row
from prism.modes.source import Start

#: What level AAA asks for in place of AA: WCAG 2.2, 1.4.6; controls and graphics by as much more.
_RAISED = {3.0: 4.5, 4.5: 7.0}


@dataclass(frozen=True, slots=True)
class Intent:
    """An intent: its id and sentence, the rows it starts with, and what its pairings need; ``asks`` is what
    has to be chosen beside: ``hues``, a ``factor``, or nothing; ``solves`` whether it changes colors. ``scheme`` is the color scheme it makes,
    empty for that of the mode it is made from, and ``other`` for the other one."""

    id: str
    sentence: str
    rows: Callable[[Start], list[Row]]
    needs: Callable[[Sequence[Pairing]], tuple[Pairing, ...]] = tuple
    asks: str = ""
    solves: bool = True
    scheme: str = ""


def _raised(pairs: Sequence[Pairing]) -> tuple[Pairing, ...]:
    """Pairings that need what level AAA asks for, where they need what level AA does."""
    return tuple(
        replace(pairing, required=_RAISED.get(pairing.required, pairing.required))
        for pairing in pairs
    )


INTENTS: tuple[Intent, ...] = (
    Intent(
        "counterpart",
        "Light or dark: mirrored and tuned",
        starting_rows.counterpart,
        scheme="other",
    ),
    Intent("dim", "Dim: dark, with less contrast", starting_rows.dim, scheme="dark"),
    Intent("raise", "More contrast: texts reach 7, controls 4.5", starting_rows.copied, _raised),
    Intent("lower", "Less contrast: texts and lines nearer to the page", starting_rows.lower),
    Intent(
        "quieter",
        "Quieter: brand and status colors with less chroma",
        starting_rows.quieter,
    ),
    Intent(
        "hues",
        "Other hues: like this mode, as for another brand",
        starting_rows.other_hues,
        asks="hues",
    ),
    Intent(
        "scaled",
        "Other measures: lengths times a factor, as for density or large type",
        starting_rows.scaled,
        asks="factor",
        solves=False,
    ),
)
BY_ID = {intent.id: intent for intent in INTENTS}
