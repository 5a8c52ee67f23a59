"""How fast this machine is, by fixed pieces of work, so that figures of other machines can be compared."""

from __future__ import annotations

import json
import subprocess
import time
from functools import cache
from pathlib import Path

import numpy as np

#: Seconds that the loop takes on the machine for which times are asked.
USUAL = 1.5
_MEASURED = "Measured at commit"


@cache
def loop() -> float:
    """Seconds of ten million steps of a loop, of processor time."""
    started = time.process_time()
    total = 0
    for number in range(10_000_000):
        total += number * number % 7
    return time.process_time() - started


@cache
def parsing() -> float:
    """Seconds in which 4 MB of JSON are read ten times."""
    text = json.dumps([{"name": f"token.{number}", "value": number} for number in range(100_000)])
    started = time.process_time()
    for _ in range(10):
        json.loads(text)
    return time.process_time() - started


@cache
def arrays() -> float:
    """Seconds in which a million colors are raised to a power ten times."""
    colors = np.linspace(0, 1, 3_000_000)
    started = time.process_time()
    for _ in range(10):
        np.power(colors, 2.4)
    return time.process_time() - started


def factor() -> float:
    """How much slower this machine is than the one for which times are asked."""
    return loop() / USUAL


def commit() -> str:
    """The commit that is measured, with a mark where files differ from it."""
    said = subprocess.run(
        ["git", "describe", "--always", "--dirty", "--abbrev=7"],
        cwd=Path(__file__).parent, capture_output=True, text=True, check=False,
    )  # fmt: skip
    return said.stdout.strip() or "unknown"


def write(page: Path, text: str) -> None:
    """Write a page of figures, with the machine and the commit they were measured on below them."""
    kept = [line for line in text.rstrip("\n").split("\n") if not line.startswith(_MEASURED)]
    while kept and not kept[-1]:
        kept.pop()
    page.write_text("\n".join([*kept, "", f"{_MEASURED} {commit()}. {words()}", ""]))


def words() -> str:
    """The machine in a sentence."""
    return (
        f"Here ten million steps of a loop take {loop():.1f} s, reading 40 MB of JSON {parsing():.1f} s and thirty million "
        f"powers {arrays():.1f} s; on a machine on which the loop takes {USUAL} s, divide times by {factor():.2f}."
    )
