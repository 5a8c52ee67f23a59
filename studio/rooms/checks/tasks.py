"""Fixing everything that falls short as a long task."""

from __future__ import annotations

from prism.view_models import fixing
from studio.store.tasks import Result
from studio.work.kinds import StoppedError, Work, long_task
from studio.work.searching import Searching

FIX_ALL = "fix-all"


@long_task(FIX_ALL, "Solving what falls short")
def solve_all(work: Work) -> Result:
    """What the review needs to find nothing again."""
    work.tell(0, "looking at what each color could be.")
    held = frozenset(work.fields["held"])
    result = fixing.searched(work.analysis, held, Searching(work).watch())
    if not result:
        raise StoppedError
    return Result(result)
