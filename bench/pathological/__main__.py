"""Style sheets, files, values and texts built to take for ever, through every reader of the core.

    python -m bench.pathological [COUNT] [--write]

Each goes through in a process of its own: a sentence or an answer, within 10 s and 400 MB.
"""

from __future__ import annotations

import contextlib
import json
import os
import random
import sys
import time
import traceback
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path

from bench import machine
from bench.pathological.readers import READERS
from bench.pathological.shapes import MOST, shapes
from prism.errors import PrismError

TABLE = Path(__file__).parent.parent.parent / "docs" / "pathological.md"
COUNT = 2_000
SLOWEST, MEMORY = 10.0, 400.0
#: Seconds that a fixed loop takes on the machine that the limits are for.
_LOOP = 1.5
#: How the largest of a shape is chosen: small ones find recursion, large ones find what is quadratic.
SIZES = (30, 300, 3_000, 30_000, 300_000, MOST)


@dataclass(slots=True)
class Row:
    """What came of one reader."""

    count: int = 0
    outcomes: dict[str, int] = field(default_factory=dict)
    slowest: float = 0.0
    memory: float = 0.0
    worst: str = ""


def cases(count: int, seed: int = 26) -> Iterator[tuple[str, str, int, str]]:
    """Reader, shape, size and text: every shape for each of its readers at every size in turn."""
    rng = random.Random(f"pathological {seed}")
    wanted = [
        (shape, reader, size)
        for size in SIZES
        for shape in shapes()
        for reader in shape.readers
        if reader in READERS
    ]
    for number in range(count):
        if number and number % len(wanted) == 0:
            rng.shuffle(wanted)
        shape, reader, size = wanted[number % len(wanted)]
        yield reader, shape.name, size, shape.make(size, rng)


def load() -> None:
    """Import all that the readers import, so that it is not counted with the first of them."""
    for reader in READERS.values():
        with contextlib.suppress(PrismError):
            reader("a")


def measured(run: Callable[[], None]) -> tuple[str, float, float]:
    """The outcome, the seconds of a processor and the MB of one call, in a process of its own."""
    reading, writing = os.pipe()
    pid = os.fork()
    if not pid:
        outcome = "read"
        Path("/proc/self/clear_refs").write_text("5")
        started = time.process_time()
        try:
            run()
        except PrismError:
            outcome = "refused"
        except BaseException:
            outcome = "EXCEPTION " + traceback.format_exc()[-600:]
        took = time.process_time() - started
        memory = int(Path("/proc/self/status").read_text().partition("VmHWM:")[2].split()[0]) / 1024
        os.write(writing, json.dumps([outcome, took, memory]).encode()[:4000])
        os._exit(0)
    os.close(writing)
    deadline = time.monotonic() + 6 * SLOWEST
    while os.waitpid(pid, os.WNOHANG) == (0, 0):
        if time.monotonic() > deadline:
            os.kill(pid, 9)
            os.waitpid(pid, 0)
            break
        time.sleep(0.001)
    with os.fdopen(reading, "rb") as pipe:
        told = pipe.read()
    if not told:
        return "NO END", 6 * SLOWEST, 0.0
    outcome, took, memory = json.loads(told)
    return outcome, took, memory


def loop_seconds() -> float:
    """How long ten million steps of a loop take on this machine, just now."""
    started, total = time.process_time(), 0
    for number in range(10_000_000):
        total += number * number % 7
    return time.process_time() - started


def main() -> None:
    """Send everything through the core and write the table."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else COUNT
    load()
    slowest = SLOWEST * max(1.0, loop_seconds() / _LOOP)  # here and now
    rows: dict[str, Row] = {}
    bad = 0
    for reader, name, size, text in cases(count):
        outcome, took, memory = measured(lambda reader=reader, text=text: READERS[reader](text))  # type: ignore[misc]
        row = rows.setdefault(reader, Row())
        row.count += 1
        first = outcome.split()[0]
        row.outcomes[first] = row.outcomes.get(first, 0) + 1
        if took > row.slowest:
            row.slowest, row.worst = took, f"{name}, {len(text) / 1000:.0f} kB"
        row.memory = max(row.memory, memory)
        if took > slowest:
            slowest = max(slowest, SLOWEST * loop_seconds() / _LOOP)
        if first.isupper() or took > slowest or memory > MEMORY:
            bad += 1
            print(
                f"{reader} | {name} | {size} | {len(text)} | {took:.1f} s | {memory:.0f} MB | {outcome[-300:]}",
                flush=True,
            )
    lines = [
        f"| {reader} | {row.count} | {', '.join(f'{n}: {k}' for n, k in sorted(row.outcomes.items()))} | "
        f"{row.slowest:.1f} s ({row.worst}) | {row.memory:.0f} MB |"
        for reader, row in rows.items()
    ]  # fmt: skip
    head = [
        "# Pathological input", "",
        f"Made by `python -m bench.pathological`: {sum(row.count for row in rows.values())} style sheets, files, values and texts, nested, "
        "doubled, circular or very long, of sizes up to 8 MB, each in a process of its own. "
        f"{bad} took over {SLOWEST:.0f} s of a processor (in proportion to a machine on which ten million steps of a loop take {_LOOP} s; "
        f"{slowest:.0f} s on this one) or {MEMORY:.0f} MB, or raised anything but a sentence.", "",
        "| reader | inputs | outcome | slowest | most memory of the process |", "| --- | --- | --- | --- | --- |",
    ]  # fmt: skip
    print("\n".join([*head, *lines]))
    if "--write" in sys.argv:
        machine.write(TABLE, "\n".join([*head, *lines, ""]))


if __name__ == "__main__":
    main()
