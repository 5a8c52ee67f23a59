"""The process that works, beside the one that listens.

A thread of Python waits for the others of its process. So a process that listens keeps to what is light, and hands
all else to a process of its own, its engine: signs of life, files and signing in never wait for a document.
"""

from __future__ import annotations

import ctypes
import io
import logging
import os
import queue
import signal
import sys
import threading
from collections.abc import Callable, Iterable
from multiprocessing import Pipe
from multiprocessing.connection import Connection
from typing import Any

from studio.gate import AT_ONCE, Environ

_LOG = logging.getLogger("studio.errors")
#: Where addresses begin that need no document.
LIGHT = ("/static/", "/account/")
_PLAIN = (str, int, bool, tuple)
_PLAIN_TEXT = [("Content-Type", "text/plain; charset=utf-8")]
_ENDED = (
    b"The application ended while it worked on this. Load the page again to see what was stored.\n"
)
_PR_SET_PDEATHSIG = 1
#: How much an engine gives way to the process that listens, which has little to do and must do it at once.
_NICE = 2


def _end_worker() -> None:
    os.kill(os.getpid(), signal.SIGTERM)


class ByPath:
    """A WSGI application that gives light requests to one application and the rest to another."""

    def __init__(self, light: Any, rest: Any) -> None:
        self.light, self.rest = light, rest

    def __call__(self, environ: Environ, start_response: Any) -> Any:
        light = str(environ.get("PATH_INFO", "")).startswith(LIGHT)
        return (self.light if light else self.rest)(environ, start_response)


class Engine:
    """A WSGI application that is run by a process of its own once ``start`` was called, and here until then.

    ``ended`` is called when that process is gone: it ends this one, so that another pair takes its place.
    """

    def __init__(
        self, application: Any, at_once: int = AT_ONCE, ended: Callable[[], None] = _end_worker
    ) -> None:
        self.application, self.at_once, self.ended = application, at_once, ended
        self.pid = 0
        self._lines: queue.Queue[Connection] = queue.Queue()

    def start(self, unneeded: Iterable[int] = ()) -> None:
        """Begin the process; it closes the ``unneeded`` file descriptors. No thread may run yet."""
        pairs = [Pipe() for _ in range(self.at_once)]
        parent = os.getpid()
        self.pid = os.fork()
        if not self.pid:
            for near, _ in pairs:
                near.close()
            self._serve([far for _, far in pairs], parent, unneeded)
        for near, far in pairs:
            far.close()
            self._lines.put(near)
        threading.Thread(target=self._watch, args=(self.pid,), daemon=True).start()

    def __call__(self, environ: Environ, start_response: Any) -> Any:
        if not self.pid:
            return self.application(environ, start_response)
        plain = {key: value for key, value in environ.items() if isinstance(value, _PLAIN)}
        body = environ["wsgi.input"].read()
        line = self._lines.get()
        try:
            line.send((plain, body))
            status, headers, answer = line.recv()
        except (EOFError, OSError):
            status, headers, answer = "503 Service Unavailable", _PLAIN_TEXT, _ENDED
        finally:
            self._lines.put(line)
        start_response(status, headers)
        return [answer]

    def _watch(self, pid: int) -> None:
        os.waitpid(pid, 0)
        self.ended()

    def _serve(self, lines: list[Connection], parent: int, unneeded: Iterable[int]) -> None:
        """Answer until the process that listens is gone; does not return."""
        try:
            for number in (signal.SIGTERM, signal.SIGQUIT, signal.SIGABRT, signal.SIGCHLD):
                signal.signal(number, signal.SIG_DFL)
            for number in (signal.SIGINT, signal.SIGHUP, signal.SIGUSR1, signal.SIGUSR2):
                signal.signal(number, signal.SIG_IGN)
            ctypes.CDLL(None).prctl(_PR_SET_PDEATHSIG, signal.SIGKILL)
            if os.getppid() == parent:
                for descriptor in unneeded:
                    os.close(descriptor)
                os.nice(_NICE)
                threads = [threading.Thread(target=self._answer, args=(line,)) for line in lines]
                for thread in threads:
                    thread.start()
                for thread in threads:
                    thread.join()
        finally:
            os._exit(0)

    def _answer(self, line: Connection) -> None:
        while True:
            try:
                environ, body = line.recv()
                line.send(answered(self.application, environ, body))
            except (EOFError, OSError):
                return


def answered(
    application: Any, environ: Environ, body: bytes
) -> tuple[str, list[tuple[str, str]], bytes]:
    """Status, headers and body of the answer of an application that closes what it answers, as ``Work`` does."""
    head: list[Any] = []

    def start_response(status: str, headers: list[tuple[str, str]], exc_info: Any = None) -> None:
        head[:] = [status, headers]

    environ = environ | {"wsgi.input": io.BytesIO(body), "wsgi.errors": sys.stderr}
    try:
        answer = b"".join(application(environ, start_response))
    except Exception:
        _LOG.exception("A request failed.")
        return "500 Internal Server Error", _PLAIN_TEXT, b"Something went wrong.\n"
    return head[0], head[1], answer
