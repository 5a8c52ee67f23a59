"""Thirty readers and five writers in one project of 2,000 tokens, for a minute.

.venv/bin/python -m bench.load            runs ./dev demo and writes docs/benchmarks-load.md
.venv/bin/python -m bench.load PORT       against a server that runs already; prints only
"""

from __future__ import annotations

import shutil
import statistics
import sys
import threading
import time
from pathlib import Path
from tempfile import mkdtemp

from bench import machine
from bench.drills import HERE, Demo
from bench.visitor import Visitor

TABLE = HERE / "docs" / "benchmarks-load.md"
_SECONDS = 60
_READERS, _WRITERS = 30, 5
_ROOMS = ("palette/", "tokens/", "stage/", "checks/", "exchange/", "tokens/axes/")


def import_project(port: int) -> str:
    """Make a project of 2,000 tokens over the application; its code."""
    from bench.sizes import document
    from prism.formats import plain

    visitor = Visitor(port, 60)
    visitor.enter()
    edge = "----np"
    parts = {"into": "new", "name": "Load", "csrfmiddlewaretoken": visitor.cookies["csrftoken"]}
    body = "".join(
        f'--{edge}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{text}\r\n'
        for name, text in parts.items()
    )
    body += (
        f'--{edge}\r\nContent-Disposition: form-data; name="files"; filename="load.json"\r\n'
        f"Content-Type: application/json\r\n\r\n{plain.write_json(document(2_000))}\r\n--{edge}--\r\n"
    )
    status, headers, text = visitor.send(
        f"/p/{visitor.code}/exchange/import", body.encode(), f"multipart/form-data; boundary={edge}"
    )
    if status != 302:
        raise SystemExit(f"The project could not be made: {status} {text[:300]}")
    return headers["Location"].split("/")[2]


class Person(threading.Thread):
    """Looks at rooms in turn, or stores values, with a second between; keeps every waiting time."""

    def __init__(self, port: int, code: str, number: int, writes: bool, until: float) -> None:
        super().__init__(daemon=True)
        self.visitor = Visitor(port, 30)
        self.code, self.number, self.writes, self.until = code, number, writes, until
        self.waits: list[float] = []
        self.errors: list[str] = []

    def run(self) -> None:
        time.sleep(self.number / (_READERS + _WRITERS))
        turn = self.number
        while time.monotonic() < self.until:
            turn += 1
            started = time.monotonic()
            try:
                status = self.store(turn) if self.writes else self.look(turn)
                if status not in (200, 302):
                    self.errors.append(str(status))
            except OSError as error:
                self.errors.append(repr(error))
            self.waits.append(time.monotonic() - started)
            time.sleep(1)

    def look(self, turn: int) -> int:
        self.visitor.code = self.code
        return self.visitor.look(_ROOMS[turn % len(_ROOMS)])[0]

    def store(self, turn: int) -> int:
        if not self.visitor.code:
            self.visitor.enter(self.code)
        token = self.visitor.keys[self.number - _READERS]
        return self.visitor.store(token, f"#{turn % 4096:03x}{self.number:03x}")[1]


def run(port: int) -> str:
    """A minute of work: a row of the table."""
    code = import_project(port)
    until = time.monotonic() + _SECONDS
    people = [
        Person(port, code, number, number >= _READERS, until)
        for number in range(_READERS + _WRITERS)
    ]
    for one in people:
        one.start()
    for one in people:
        one.join(timeout=_SECONDS + 60)
    found = []
    for writes in (False, True):
        waits = sorted(
            wait for person in people if person.writes is writes for wait in person.waits
        )
        late = waits[int(len(waits) * 0.95)]
        found.append(f"{len(waits)} | {statistics.median(waits):.2f} s | {late:.2f} s")
    errors = [error for person in people for error in person.errors]
    return f"| {found[0]} | {found[1]} | {len(errors)} {' '.join(sorted(set(errors)))[:80]}|"


def main() -> None:
    """Run it and write the table."""
    if len(sys.argv) > 1:
        print(run(int(sys.argv[1])))
        return
    folder = Path(mkdtemp(prefix="prism-load-", dir="/var/tmp"))
    folder.chmod(0o755)
    demo = Demo(folder)
    try:
        row = run(demo.port)
    finally:
        demo.stop()
        print("".join((folder / "demo.log").read_text()[-6000:]))
        shutil.rmtree(folder, ignore_errors=True)
    print(row)
    head = [
        "# Load", "", f"Made by `.venv/bin/python -m bench.load`: {_READERS} readers look at the rooms in turn and "
        f"{_WRITERS} writers store values in a project of 2,000 tokens in six modes, each with a second "
        f"between, for {_SECONDS} seconds, all on this machine of two cores. At most 1.5 s for 95 of 100.", "",
        "| looks | median | 95th of 100 | writes | median | 95th of 100 | errors |",
        "| --- | --- | --- | --- | --- | --- | --- |", row, "",
    ]  # fmt: skip
    machine.write(TABLE, "\n".join(head))


if __name__ == "__main__":
    main()
