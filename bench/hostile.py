"""Damaged files through the views: no server error, nothing slow, nothing that takes much memory.

./dev with-database -m bench.hostile [COUNT]
"""

from __future__ import annotations

import random
import sys
import time
from pathlib import Path
from typing import Any

from bench import machine

TABLE = Path(__file__).parent.parent / "docs" / "hostile.md"
_COUNT, _PICTURES = 2_000, 300
_SLOWEST, _MEMORY = 10.0, 400.0


def peak() -> float:
    """The most memory of this process since it was asked last, in MB."""
    status = Path("/proc/self/status").read_text()
    Path("/proc/self/clear_refs").write_text("5")
    return int(status.partition("VmHWM:")[2].split()[0]) / 1024


def send(client: Any, room: str, kind: str, name: str, data: bytes) -> int:
    """Send a file to the views that read it; the worst status."""
    from django.core.files.uploadedfile import SimpleUploadedFile

    if kind == "picture":
        said = {"file": SimpleUploadedFile(name, data), "count": "8"}
        return int(client.post(f"{room}palette/import/picture/read", said).status_code)
    said = {"files": SimpleUploadedFile(name, data), "into": "new", "revision": "0"}
    worst = int(client.post(f"{room}exchange/import", said).status_code)
    if kind != "zip":
        colors = {"file": SimpleUploadedFile(name, data), "text": ""}
        worst = max(worst, int(client.post(f"{room}palette/import/preview", colors).status_code))
    return worst


def run(client: Any, room: str, count: int, pictures: int) -> list[str]:
    """A row for each format."""
    from bench.mutations import sources
    from studio.store.models import Project

    rows = []
    for kind, make in sources().items():
        rng = random.Random(f"hostile {kind}")
        statuses: dict[int, int] = {}
        slowest = memory = 0.0
        peak()
        for number in range(pictures if kind == "picture" else count):
            name, data = make(rng)
            started = time.perf_counter()
            status = send(client, room, kind, name, data)
            slowest = max(slowest, time.perf_counter() - started)
            memory = max(memory, peak())
            statuses[status] = statuses.get(status, 0) + 1
            if status >= 500:
                Path(f"var/hostile-{kind}-{number}").write_bytes(data)
            Project.objects.filter(name__gt="", pk__gt=1).delete()
        told = ", ".join(f"{status}: {times}" for status, times in sorted(statuses.items()))
        rows.append(
            f"| {kind} | {sum(statuses.values())} | {told} | {slowest:.1f} s | {memory:.0f} MB |"
        )
        print(rows[-1], flush=True)
        if max(statuses) >= 500 or slowest > _SLOWEST or memory > _MEMORY:
            print("^ not as it has to be", flush=True)
    return rows


def main() -> None:
    """Send everything and write the table."""
    import logging

    from django.contrib.auth import get_user_model
    from django.core.management import call_command
    from django.test import Client

    from prism.model.document import Document
    from studio import wsgi
    from studio.store import projects as store

    assert wsgi.application
    logging.disable(logging.CRITICAL)
    call_command("migrate", verbosity=0)
    user = get_user_model().objects.create_user("hostile")
    project = store.create(user, Document(name="Target"))
    client = Client(raise_request_exception="--raise" in sys.argv)
    client.force_login(user)
    count = int(sys.argv[1]) if len(sys.argv) > 1 else _COUNT
    rows = run(client, f"/p/{project.code}/", count, min(count, _PICTURES))
    head = [
        "# Hostile files", "", "Made by `./dev with-database -m bench.hostile`: files of every format, damaged by a seed, "
        "through the views that read them.", "",
        "| format | files | answers | slowest | most memory of the process |", "| --- | --- | --- | --- | --- |",
    ]  # fmt: skip
    machine.write(TABLE, "\n".join([*head, *rows, ""]))


if __name__ == "__main__":
    main()
