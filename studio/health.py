"""Signs of life, before anything else looks at a request: a balancer asks over plain HTTP, by address."""

from __future__ import annotations

import threading
from collections.abc import Callable
from typing import Any

from django.db import Error, connection

Environ = dict[str, Any]
#: Seconds that the database has to answer in.
PATIENCE = 1.5
_ANSWERS = {
    "alive": ("200 OK", b"alive\n"),
    "ready": ("200 OK", b"ready\n"),
    "no database": ("503 Service Unavailable", b"no database\n"),
}


class Database:
    """Whether the database answers, asked by one thread at a time, however many want to know."""

    def __init__(self, ask: Callable[[], None] | None = None) -> None:
        self._ask = ask or select_one
        self._lock = threading.Lock()
        self._asking: tuple[threading.Thread, list[bool]] | None = None

    def answers(self, patience: float = PATIENCE) -> bool:
        """Whether the database answers within some seconds."""
        with self._lock:
            if self._asking is None or not self._asking[0].is_alive():
                told: list[bool] = []
                thread = threading.Thread(target=self._look, args=(told,), daemon=True)
                self._asking = thread, told
                thread.start()
            thread, told = self._asking
        thread.join(patience)
        return told == [True]

    def _look(self, told: list[bool]) -> None:
        try:
            self._ask()
        except (Error, OSError):
            told.append(False)
        else:
            told.append(True)


def select_one() -> None:
    """Ask the database the least there is to ask. Raises ``django.db.Error`` where it does not answer."""
    try:
        with connection.cursor() as cursor:
            cursor.execute("select 1")
    finally:
        connection.close()


class Health:
    """A WSGI application that answers ``/alive`` and ``/ready`` itself and hands on all else.

    No other work, no host name, no redirect to HTTPS and no session stands before these two.
    """

    def __init__(self, application: Any, database: Database | None = None) -> None:
        self.application = application
        self.database = database or Database()

    def __call__(self, environ: Environ, start_response: Any) -> Any:
        path, method = environ.get("PATH_INFO"), environ.get("REQUEST_METHOD")
        if path not in ("/alive", "/ready") or method not in ("GET", "HEAD"):
            return self.application(environ, start_response)
        answer = path[1:]
        if answer == "ready" and not self.database.answers():
            answer = "no database"
        status, body = _ANSWERS[answer]
        start_response(
            status,
            [
                ("Content-Type", "text/plain; charset=utf-8"),
                ("Content-Length", str(len(body))),
                ("Cache-Control", "no-store"),
            ],
        )
        return [b"" if method == "HEAD" else body]
