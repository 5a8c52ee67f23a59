"""Solving a proposed mode as a long task."""

from __future__ import annotations

from prism.modes.review import review
from studio.rooms.tokens.axes.asked_mode import asked_of, prepared
from studio.store.tasks import Result
from studio.work.kinds import StoppedError, Work, long_task
from studio.work.searching import Searching

PROPOSE = "propose-mode"


@long_task(PROPOSE, "Solving the mode")
def solve_mode(work: Work) -> Result:
    """What the review needs to find nothing again."""
    analysis, asked = prepared(work.analysis, asked_of(work.fields))
    work.tell(0, "looking at what each color could be.")
    made = review(analysis.document, asked, Searching(work).watch())
    if work.stopped() and not made.solved.moves:
        raise StoppedError
    return Result(made.search)
