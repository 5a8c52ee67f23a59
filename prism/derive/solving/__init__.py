"""The exact mapping: of all values that colors could take, those nearest to a proposal with which every
pairing passes."""

from prism.derive.solving.cpsat import Watch
from prism.derive.solving.explaining import Contradiction
from prism.derive.solving.places import Place
from prism.derive.solving.search_result import SearchResult
from prism.derive.solving.solved import Move, Short, Solved, falling_short, restored, solve
from prism.derive.solving.view import Wanted

__all__ = [
    "Contradiction",
    "Move",
    "Place",
    "SearchResult",
    "Short",
    "Solved",
    "Wanted",
    "Watch",
    "falling_short",
    "restored",
    "solve",
]
