"""A search of the solver as a long task: told in words, and ended when somebody asks to stop."""

from __future__ import annotations

import threading
from collections.abc import Callable

from prism.solver import Watch
from studio.work.kinds import Work

#: Deterministic seconds of a search that nobody waits for, and seconds of a clock on whatever machine.
_PATIENCE, _AT_MOST = 20.0, 240.0
#: Seconds between two looks at whether somebody asked to stop.
_LOOKS = 0.2


class Searching:
    """The watch over the searches of one task."""

    def __init__(self, work: Work) -> None:
        self._work = work
        self._phase = ""
        self._answers = 0
        self._over: threading.Event | None = None

    def watch(self) -> Watch:
        """What the solver tells and asks."""
        return Watch(
            _PATIENCE,
            _AT_MOST,
            stopped=self._work.stopped,
            progress=self._progress,
            phase=self._begin,
            searching=self._searching,
        )

    def _begin(self, phase: str) -> None:
        self._phase = f"{phase}: " if phase else ""
        self._answers = 0
        self._work.tell(0, f"{self._phase}looking at what each color could be.")

    def _progress(self, cost: int, bound: int) -> None:
        self._answers += 1
        share = max(bound, 0) / cost if cost else 1.0
        words = f"{self._phase}{self._answers} answer{'s' if self._answers > 1 else ''} found"
        near = (
            f"; the nearest there can be is at most {1 - share:.0%} nearer" if share > 0.2 else ""
        )
        self._work.tell(share, f"{words}{near}.")

    def _searching(self, stop: Callable[[], None] | None) -> None:
        """End the search that has begun as soon as somebody asks to stop; None where it is over."""
        if self._over is not None:
            self._over.set()
        self._over = None
        if stop is None:
            return
        over = self._over = threading.Event()

        def look() -> None:
            while not over.wait(_LOOKS):
                if self._work.stopped():
                    stop()
                    return

        threading.Thread(target=look, daemon=True).start()
