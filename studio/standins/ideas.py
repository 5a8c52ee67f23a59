"""Where ideas come from. A real service would implement ``prism.palette.ideas.IdeaSource``."""

from __future__ import annotations

from prism.palette.ideas import IdeaSource
from studio.standins.word_ideas import WordIdeas

_STAND_IN = WordIdeas()


def source() -> IdeaSource:
    """The source of ideas in use: the stand-in that ships with the application."""
    return _STAND_IN
