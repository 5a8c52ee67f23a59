"""What a search found, apart from the document it was made in: written down, and put in again without searching."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass

from prism.compare.rows import condition_from, condition_text
from prism.errors import PrismError
from prism.expressions.values import decode, encode
from prism.model.document import Pairing
from prism.solver.explanation import Contradiction
from prism.solver.places import Place
from prism.solver.solution import Move

#: The version of how it is written down.
VERSION = 1


@dataclass(frozen=True, slots=True)
class SearchResult:
    """The moves of a search, what cannot pass together, and whether nothing nearer passes."""

    moves: tuple[Move, ...]
    contradictions: tuple[Contradiction, ...]
    proven: bool

    def text(self, pairs: Sequence[Pairing]) -> str:
        """As JSON text; ``pairs`` are the pairings that were solved for, by whose places contradictions
        are named."""
        places = {id(pairing): place for place, pairing in enumerate(pairs)}
        return json.dumps(
            {
                "version": VERSION,
                "moves": [
                    {
                        "token": move.place.token,
                        "condition": condition_text(move.place.condition),
                        "before": encode(move.before),
                        "after": encode(move.after),
                        "why": move.why,
                    }
                    for move in self.moves
                ],
                "contradictions": [
                    {
                        "pairings": [places[id(p)] for p in contradiction.pairings],
                        "free": list(contradiction.free),
                    }
                    for contradiction in self.contradictions
                ],
                "proven": self.proven,
            },
            ensure_ascii=False,
        )


def read(text: str, pairs: Sequence[Pairing]) -> SearchResult:
    """What ``SearchResult.text`` wrote for the same document and the same question. Raises ``PrismError`` for
    any other text."""
    try:
        kept = json.loads(text)
        if kept["version"] != VERSION:
            raise ValueError
        moves = tuple(
            Move(
                Place(move["token"], condition_from(move["condition"])),
                decode(move["before"]),
                decode(move["after"]),
                move["why"],
            )
            for move in kept["moves"]
        )
        contradictions = tuple(
            Contradiction(
                tuple(pairs[place] for place in contradiction["pairings"]),
                tuple(contradiction["free"]),
            )
            for contradiction in kept["contradictions"]
        )
        return SearchResult(moves, contradictions, bool(kept["proven"]))
    except (ValueError, TypeError, KeyError, IndexError, RecursionError):
        raise PrismError(
            "What was found before does not belong to this page.", fix="Solve it again."
        ) from None
