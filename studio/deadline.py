"""The longest that one request may work, after which its thread is free again."""

from __future__ import annotations

import ctypes
import logging
import os
import signal
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager

_LOG = logging.getLogger("studio.errors")
#: Seconds that a request may work; seconds until it is asked again to end; and until its process is ended, as
#: code that is not Python's cannot be asked.
LONGEST, AGAIN, LAST = 45.0, 5.0, 30.0
_LOOKS = 0.25


class DeadlineError(Exception):
    """A request that worked for too long."""

    def __init__(self) -> None:
        super().__init__(f"This took longer than {LONGEST:.0f} seconds and was stopped.")


def _raise_in(thread: int, error: type[BaseException] | None) -> None:
    """Raise an error in another thread at its next step of Python; None takes back one not raised yet."""
    raised = ctypes.py_object(error) if error is not None else None
    ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(thread), raised)


def _end_process() -> None:
    os.kill(os.getpid(), signal.SIGKILL)


class Deadlines:
    """Watches over the requests that work in this process."""

    def __init__(
        self,
        longest: float = LONGEST,
        again: float = AGAIN,
        last: float = LAST,
        end: Callable[[], None] = _end_process,
    ) -> None:
        self.longest, self.again, self.last, self.end = longest, again, last, end
        self._lock = threading.Lock()
        #: When a thread has to be done, and how often it was told.
        self._working: dict[int, tuple[float, int]] = {}
        self._watcher: threading.Thread | None = None

    @contextmanager
    def watched(self) -> Iterator[None]:
        """Raise ``DeadlineError`` in this thread where it is not done in time."""
        thread = threading.get_ident()
        with self._lock:
            self._working[thread] = time.monotonic() + self.longest, 0
            if self._watcher is None or not self._watcher.is_alive():
                self._watcher = threading.Thread(target=self._watch, daemon=True)
                self._watcher.start()
        try:
            yield
        finally:
            self._done(thread)

    def _done(self, thread: int) -> None:
        while True:
            try:
                with self._lock:
                    self._working.pop(thread, None)
                    _raise_in(thread, None)
                return
            except DeadlineError:
                continue  # it came in the moment in which the request was done

    def _watch(self) -> None:
        while True:
            time.sleep(_LOOKS)
            now = time.monotonic()
            with self._lock:
                for thread, (end, told) in list(self._working.items()):
                    if now > end + self.last:
                        _LOG.error("A request could not be stopped; its process ends.")
                        self.end()
                    elif now > end + told * self.again:
                        self._working[thread] = end, told + 1
                        _raise_in(thread, DeadlineError)
