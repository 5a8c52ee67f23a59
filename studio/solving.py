"""What a page asks of the solver: at once where it is soon done, and as a long task where it is not.

Nothing is solved for a person who may only look: what they see is what stands.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect

from prism.errors import PrismError
from prism.solver import Watch
from studio.rooms.frame import AnyFrame
from studio.rooms.writing import Refuse
from studio.store.models import LongTask
from studio.store.tasks import State
from studio.work.tasks import ask, of_page
from studio.work.views import shown

#: Pairings, and pairings that fall short, that are solved while somebody waits for the page.
MOST_PAIRINGS, MOST_FAILING = 700, 40


def is_long(pairings: int, failing: int = 0) -> bool:
    """Whether there is too much to solve while somebody waits."""
    return pairings > MOST_PAIRINGS or failing > MOST_FAILING


@dataclass(frozen=True, slots=True)
class Patience:
    """How long searches take while somebody waits: deterministic seconds that are spent on each, seconds of a clock
    that each takes at most on whatever machine, and seconds after which no other begins, where there are several."""

    each: float
    longest: float
    together: float | None = None

    def watch(self) -> Watch:
        """The watch over searches that begin now."""
        if self.together is None:
            return Watch(self.each, seconds=self.longest)
        end = time.monotonic() + self.together
        return Watch(self.each, seconds=self.longest, stopped=lambda: time.monotonic() > end)


class Solving:
    """What a page asks, and the long task that its address names."""

    def __init__(self, frame: AnyFrame, kind: str, code: str) -> None:
        self.task: LongTask | None = of_page(frame, kind, code)

    @property
    def found(self) -> str:
        """What the task found, as text; empty where it found nothing, or none is named."""
        return self.task.text if self.task is not None else ""

    @property
    def problem(self) -> str:
        """Why the task gave nothing; empty where it did, or none is named."""
        over = self.task is not None and self.task.state in (State.FAILED, State.STOPPED)
        return self.task.words if over and self.task is not None else ""

    @property
    def panel(self) -> dict[str, Any] | None:
        """The task as its panel shows it."""
        return shown(self.task) if self.task is not None else None


def begin(
    frame: AnyFrame,
    kind: str,
    fields: Mapping[str, Any],
    refuse: Refuse,
    to: Callable[[str], str],
    data: bytes = b"",
) -> HttpResponse:
    """Ask for a long task and go to the page that tells of it, or say why there is none."""
    try:
        task = ask(frame.project, kind, frame.loaded.revision, fields, frame.person, data)
    except PrismError as error:
        return refuse(str(error), 422)
    return redirect(to(task.code))
