"""The exact mapping: of all values that colors could take, those nearest to a proposal with which every
pairing passes."""

from prism.solver.cpsat import Watch
from prism.solver.explanation import Contradiction
from prism.solver.places import Place
from prism.solver.search_result import SearchResult
from prism.solver.solution import Move, Short, Solved, falling_short, restored, solve
from prism.solver.view import Wanted

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
