"""Ideas from the source in use."""

from __future__ import annotations

from prism.errors import EditError
from prism.palette.ideas import Idea
from studio.rooms.palette.ideas.address import IdeasAddress
from studio.standins.ideas import source


def idea_of(address: IdeasAddress) -> Idea:
    """The idea that an address names. Raises ``EditError`` where it cannot be found again."""
    for idea in source().ideas(address.brief):
        if idea.key == address.idea:
            return idea
    raise EditError("That idea cannot be found again.", fix="Ask for ideas again.")
