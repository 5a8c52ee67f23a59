"""A document with its slots and demands, as it is solved."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from prism.model.document import Document, Pairing
from prism.model.values import Condition, Value
from prism.resolution.answer_tables import AnswerTables
from prism.resolution.current import resolver_of
from prism.roles.grounds import Guess
from prism.solver.demands import Asked, Demands
from prism.solver.places import Place, Places
from prism.solver.problem import Problem


@dataclass(frozen=True, slots=True)
class Wanted:
    """What to solve for: ``pairs`` and the roles of tokens, in themes of the modes ``within`` by axis,
    ``like`` those they are made from; ``held`` are tokens, by key, and places that stay; ``new_colors``
    says whether colors between the steps of the palette may be made. ``aside`` are the places of pairings that need
    not pass where they fall short, and get no worse; ``levels`` says whether levels that do not rise are to."""

    pairs: Sequence[Pairing]
    guesses: Mapping[str, Guess]
    within: Mapping[str, str] = field(default_factory=dict)
    like: Mapping[str, str] = field(default_factory=dict)
    held: frozenset[str | Place] = frozenset()
    new_colors: bool = False
    aside: frozenset[int] = frozenset()
    levels: bool = False


class View:
    """A document with its slots and demands."""

    def __init__(self, document: Document, wanted: Wanted) -> None:
        self.document = document
        self.wanted = wanted
        self.resolver = resolver_of(document)
        surfaces = [
            k for k, known in wanted.guesses.items() if known.role.kind in ("page", "surface")
        ]
        self.places = Places(self.resolver, wanted.within, wanted.held, wanted.new_colors, surfaces)
        asked = Asked(
            wanted.pairs,
            wanted.guesses,
            wanted.within,
            wanted.like,
            wanted.aside,
            wanted.levels or bool(wanted.like),
        )
        self.demands = Demands(asked, self.places, AnswerTables(self.resolver))
        self.problem: Problem = self.demands.problem()

    def settings(self, choice: Sequence[int]) -> list[tuple[str, Condition, Value]]:
        """The values that a choice stores."""
        return [
            (slot.place.token, slot.place.condition, slot.values[taken])
            for slot, taken in zip(self.places.slots, choice, strict=True)
            if taken
        ]
