"""How soon a sign of life, a file and the page to sign in come beside four slow requests; writes ``docs/alive.md``.

.venv/bin/python -m bench.alive [SECONDS] [--write]
"""

from __future__ import annotations

import random
import shutil
import sys
import threading
import time
from pathlib import Path
from statistics import median
from tempfile import mkdtemp

from bench import machine
from bench.drills import HERE, Demo
from bench.pathological.served import forms_of, sent
from bench.pathological.shapes import shapes
from bench.visitor import Visitor

TABLE = HERE / "docs" / "alive.md"
SECONDS = 40.0
#: What is asked meanwhile, again and again.
ASKED = ("/alive", "/static/ui/mark.svg", "/account/sign-in")
#: Milliseconds in which a sign of life is to come.
SOON = 20


class Asking(threading.Thread):
    """Asks for one address again and again; keeps how many milliseconds each answer took."""

    def __init__(self, port: int, path: str) -> None:
        super().__init__(daemon=True)
        self.visitor, self.path = Visitor(port, 30), path
        self.waits: list[float] = []
        self.stopping = False

    def run(self) -> None:
        while not self.stopping:
            started = time.perf_counter()
            self.visitor.send(self.path)
            self.waits.append((time.perf_counter() - started) * 1000)
            time.sleep(0.02)


def main() -> None:
    """Measure, print, and write the page."""
    seconds = float(sys.argv[1]) if len(sys.argv) > 1 and sys.argv[1].isdigit() else SECONDS
    folder = Path(mkdtemp(prefix="prism-alive-", dir="/var/tmp"))
    folder.chmod(0o755)
    demo = Demo(folder)
    took: list[float] = []
    try:
        visitor = Visitor(demo.port, 90)
        visitor.enter()
        form, name = next(
            (form, name)
            for form in forms_of(visitor)
            for name in form.names("file")
            if "palette/import/preview" in form.action
        )
        shape = next(shape for shape in shapes() if shape.name == "one used by all")
        text = shape.make(300_000, random.Random(1))
        alone = sent(visitor, form, name, text)[1]
        end = time.monotonic() + seconds

        def work() -> None:
            other = Visitor(demo.port, 90)
            other.enter()
            other.cookies = dict(visitor.cookies)
            while time.monotonic() < end:
                took.append(sent(other, form, name, text)[1])

        workers = [threading.Thread(target=work) for _ in range(4)]
        asking = [Asking(demo.port, path) for path in ASKED]
        for thread in (*workers, *asking):
            thread.start()
        for thread in workers:
            thread.join()
        for one in asking:
            one.stopping = True
            one.join()
    finally:
        demo.stop()
        shutil.rmtree(folder, ignore_errors=True)
    lines = [
        "# Signs of life beside slow requests", "",
        f"Made by `python -m bench.alive`: four people send a file that takes {alone:.1f} s alone, again and again "
        f"({len(took)} times, {median(took):.1f} s each at the median), while three others ask for what is light.", "",
        "| asked for | times | median ms | 99 of 100 | longest | over 20 ms |", "| --- | --- | --- | --- | --- | --- |",
    ]  # fmt: skip
    for one in asking:
        waits = sorted(one.waits)
        late = sum(wait > SOON for wait in waits)
        lines.append(
            f"| `{one.path}` | {len(waits)} | {median(waits):.1f} | {waits[int(len(waits) * 0.99)]:.0f} | {waits[-1]:.0f} | {late} |"
        )
    text = "\n".join([*lines, ""])
    print(text)
    if "--write" in sys.argv:
        machine.write(TABLE, text)


if __name__ == "__main__":
    main()
