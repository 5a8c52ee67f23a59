"""The exact mapping: of all values that colors could take, those nearest to a proposal with which every
pairing passes."""

from prism.derive.solving.cpsat import Watch
from prism.derive.solving.places import Place
from prism.derive.solving.solved import (
    Contradiction,
    Move,
    Short,
    Solved,
    Wanted,
    falling_short,
    solve,
)

__all__ = [
    "Contradiction",
    "Move",
    "Place",
    "Short",
    "Solved",
    "Wanted",
    "Watch",
    "falling_short",
    "solve",
]
