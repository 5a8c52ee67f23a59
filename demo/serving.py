"""The application on a free port of loopback, for pictures and for counting."""

from __future__ import annotations

import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def served() -> Iterator[str]:
    """Serve the application of this environment; its address."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    server = subprocess.Popen(
        [
            sys.executable,
            "-m",
            "gunicorn",
            "studio.wsgi",
            "--bind",
            f"127.0.0.1:{port}",
            "--no-control-socket",
            "--log-level",
            "warning",
        ]
    )
    try:
        base = f"http://127.0.0.1:{port}"
        _wait(f"{base}/alive")
        yield base
    finally:
        server.terminate()
        server.wait(timeout=20)


def _wait(url: str) -> None:
    for _ in range(100):
        try:
            with urllib.request.urlopen(url, timeout=2):  # noqa: S310 - loopback
                return
        except OSError:
            time.sleep(0.1)
    raise SystemExit("The server does not answer.")
