"""Damaged files through the core: a sentence or a document, never an exception, never the machine.

python -m bench.fuzz [FILES] [ZIPS]
"""

from __future__ import annotations

import itertools
import random
import resource
import sys
import time
import traceback
from collections.abc import Callable, Mapping
from pathlib import Path

from bench import machine
from bench.mutations import mutated, sources
from prism.errors import PrismError
from prism.formats import archive, css_in_place, files
from prism.resolution.current import resolver_of

TABLE = Path(__file__).parent.parent / "docs" / "fuzz.md"
_FILES, _ZIPS = 20_000, 5_000
#: Style sheets that are damaged too: everything a sheet can be made of.
SHEET = b"""
@import "a.css"; @layer base, theme; @property --r { syntax: '<color>'; inherits: true; initial-value: red }
:root { color-scheme: light dark; --h: 210; --rgb: 13, 110, 253; --a: rgba(var(--rgb), .5);
  --b: hsl(var(--h) 50% 40%); --c: light-dark(#fff, var(--b)); --d: color-mix(in oklch, var(--a), red 20%);
  --e: calc(var(--h) * 1px); --f: initial; --g: var(--none, var(--a)); &[data-x=y] { --a: #222 } }
[data-theme="dark"], .dark:not(.light) { --a: #eee; --rgb: 1, 2, 3 }
@media not (prefers-color-scheme: light) { :root:where(:not([data-theme])) { --a: #eee } }
@supports (color: oklch(0 0 0)) { @layer theme { html body { --b: oklch(from var(--c) l c calc(h + 20)) !important } } }
"""


def through(read: Mapping[str, bytes]) -> str:
    """Read files, resolve all of it in its first theme and write it; what came of it."""
    numbers = itertools.count()
    try:
        document = files.read(read, lambda: f"k{next(numbers)}").document
        resolver = resolver_of(document)
        for token in document.tokens:
            resolver.resolve(token.key, resolver.default_theme)
        css_in_place.write(document)
        files.write(document, "css", resolver.default_theme)
    except PrismError:
        return "refused"
    return "read"


def of_file(
    make: Callable[[random.Random], tuple[str, bytes]],
) -> Callable[[random.Random], Mapping[str, bytes]]:
    """Damaged files by name."""
    return lambda rng: dict([make(rng)])


def of_zip(
    make: Callable[[random.Random], tuple[str, bytes]],
) -> Callable[[random.Random], Mapping[str, bytes]]:
    """The files in a damaged archive."""

    def unpacked(rng: random.Random) -> Mapping[str, bytes]:
        name, data = make(rng)
        return archive.read(data, name)[0]

    return unpacked


def run(kind: str, make: Callable[[random.Random], Mapping[str, bytes]], count: int) -> str:
    """A row of the table; what failed is kept under ``var``."""
    rng = random.Random(f"fuzz {kind}")
    outcomes: dict[str, int] = {}
    slowest, worst = 0.0, b""
    for number in range(count):
        started = time.perf_counter()
        read: Mapping[str, bytes] = {}
        try:
            read = make(rng)
            outcome = through(read)
        except PrismError:
            outcome = "refused"
        except Exception:
            outcome = "EXCEPTION"
            Path("var").mkdir(exist_ok=True)
            Path(f"var/fuzz-{kind}-{number}").write_bytes(b"".join(read.values()))
            traceback.print_exc()
        took = time.perf_counter() - started
        if took > slowest:
            slowest, worst = took, b"".join(read.values())
        outcomes[outcome] = outcomes.get(outcome, 0) + 1
    memory = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    told = ", ".join(f"{name} {times}" for name, times in sorted(outcomes.items()))
    row = f"| {kind} | {count} | {told} | {slowest:.2f} s ({len(worst) // 1024} kB) | {memory:.0f} MB |"
    print(row, flush=True)
    return row


def main() -> None:
    """Damage everything and write the table."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else _FILES
    zips = int(sys.argv[2]) if len(sys.argv) > 2 else _ZIPS
    makers = {kind: make for kind, make in sources().items() if kind != "picture"}
    makers["sheet"] = lambda rng: ("x.css", mutated(SHEET, rng))
    plain = [kind for kind in makers if kind != "zip"]
    rows = [run(kind, of_file(makers[kind]), count // len(plain)) for kind in plain]
    rows.append(run("zip", of_zip(makers["zip"]), zips))
    head = [
        "# Damaged files through the core", "",
        "Made by `python -m bench.fuzz`: files of every format and archives, damaged by a seed, read, "
        "resolved and written. The memory is the most that the process had taken by then.", "",
        "| format | files | outcome | slowest | memory |", "| --- | --- | --- | --- | --- |",
    ]  # fmt: skip
    machine.write(TABLE, "\n".join([*head, *rows, ""]))


if __name__ == "__main__":
    main()
