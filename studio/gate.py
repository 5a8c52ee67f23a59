"""The gate before the application: whole requests only, and a few at a time."""

from __future__ import annotations

import shutil
import sys
import tempfile
from threading import BoundedSemaphore
from typing import Any

from studio import memory
from studio.deadline import DeadlineError, Deadlines

#: What one request may send, in bytes: 24 MB of files and what their form takes.
MAX_BODY = 25 * 1024 * 1024
_DISCARDED = 4 * MAX_BODY
_IN_MEMORY = 1024 * 1024
#: How many requests work at a time in a process.
AT_ONCE = 2

_STOPPED = b"This took too long and was stopped. Load the page again to see what was stored.\n"

Environ = dict[str, Any]


def length_of(environ: Environ) -> int:
    """How many bytes the body of a request is said to have."""
    text = environ.get("CONTENT_LENGTH") or "0"
    return int(text) if text.isascii() and text.isdigit() else 0


class WholeRequests:
    """A WSGI application that reads each body whole before ``application`` sees the request.

    A slow sender so holds a thread that has nothing else to do, and none of the few that work. A body over
    ``MAX_BODY`` is never kept: the application refuses it by its length.
    """

    def __init__(self, application: Any) -> None:
        self.application = application

    def __call__(self, environ: Environ, start_response: Any) -> Any:
        length = length_of(environ)
        source = environ["wsgi.input"]
        with tempfile.SpooledTemporaryFile(max_size=_IN_MEMORY) as body:
            if length > MAX_BODY:
                _discard(source, min(length, _DISCARDED))
            elif length:
                shutil.copyfileobj(_Limited(source, length), body)
                body.seek(0)
            environ["wsgi.input"] = body
            return self.application(environ, start_response)


class Work:
    """A WSGI application that lets a few requests work at a time, each for so long, and gives memory back."""

    def __init__(
        self, application: Any, at_once: int = AT_ONCE, deadlines: Deadlines | None = None
    ) -> None:
        self.application = application
        self.deadlines = deadlines or Deadlines()
        self.slots = BoundedSemaphore(at_once)

    def __call__(self, environ: Environ, start_response: Any) -> list[bytes]:
        try:
            with self.slots, self.deadlines.watched():
                return self._answered(environ, start_response)
        except DeadlineError:
            headers = [("Content-Type", "text/plain; charset=utf-8")]
            start_response("503 Service Unavailable", headers, sys.exc_info())
            return [_STOPPED]
        finally:
            memory.give_back()

    def _answered(self, environ: Environ, start_response: Any) -> list[bytes]:
        response = self.application(environ, start_response)
        try:
            return [b"".join(response)]
        finally:
            if hasattr(response, "close"):
                response.close()


class _Limited:
    """At most so many bytes of a source."""

    def __init__(self, source: Any, left: int) -> None:
        self.source, self.left = source, left

    def read(self, size: int = -1, /) -> bytes:
        data: bytes = self.source.read(min(size, self.left))
        self.left -= len(data)
        return data


def _discard(source: Any, left: int) -> None:
    """Read on without keeping anything, so that the sender comes to hear the answer."""
    while left > 0 and (data := source.read(min(left, 65536))):
        left -= len(data)
