"""Whether work grows in proportion to the tokens: every format in and out, and one stored cell.

Writes ``docs/benchmarks-sizes.md``. The part with a database wants an empty one in DATABASE_URL.
"""

from __future__ import annotations

import itertools
import random
import sys
import time
from collections.abc import Callable
from pathlib import Path

from prism.formats import files
from prism.tokens.model import BASE, Axis, Condition, Document, Expression, Mode, Token
from prism.tokens.resolve import Resolver

TABLE = Path(__file__).parent.parent / "docs" / "benchmarks-sizes.md"
_MODES = 6
#: Seconds that reading and writing 20,000 tokens may take, by format.
LIMITS = {"css": 8.0}
_SIZES = (5_000, 20_000)


def document(count: int, *, flat: bool = False, seed: int = 1) -> Document:
    """So many tokens in six modes: a third raw colors, the rest aliases, a fifth with values of their
    own in some modes. ``flat`` names have dashes and lie in no group."""
    rng = random.Random(seed)
    modes = tuple(Mode(f"m{i}", f"mode {i}") for i in range(_MODES))
    axis = Axis("m", "mode", modes, "m0")
    join = "-" if flat else "."
    tokens: list[Token] = []
    raw = count // 3
    for i in range(count):
        part = f"ramp {i // 11}" if i < raw else f"group {i // 30}{join}part {i % 7}"
        path = f"{part}{join}{i}".replace(" ", "-" if flat else " ")
        if i < raw:
            values = [(BASE, Expression(f"#{rng.randrange(16**6):06x}"))]
        else:
            targets = [tokens[rng.randrange(raw)].path for _ in range(4)]
            values = [(BASE, Expression(f"{{{targets[0]}}}"))]
            if i % 5 == 0:
                for target in targets[1:]:
                    mode = Condition.of({"m": f"m{rng.randrange(1, _MODES)}"})
                    values = [one for one in values if one[0] != mode]
                    values.append((mode, Expression(f"{{{target}}}")))
        tier = "raw" if i < raw else "semantic"
        tokens.append(Token(f"t{i}", path, "color", tier, tuple(values)))
    return Document(name="Sizes", axes=(axis,), tokens=tuple(tokens))


def timed(work: Callable[[], object]) -> tuple[float, object]:
    started = time.perf_counter()
    result = work()
    return time.perf_counter() - started, result


def formats() -> list[str]:
    """A row for each format: seconds out and in again, and how they grow."""
    rows = []
    for kind in files.KINDS:
        spent = []
        for count in _SIZES:
            built = document(count)
            theme = Resolver(built).default_theme
            out, (written, _) = timed(lambda b=built, t=theme, k=kind: files.write(b, k, t))
            data = {name: text.encode() for name, text in written.items()}
            numbers = itertools.count()
            back, _ = timed(lambda d=data, n=numbers: files.read(d, lambda: f"k{next(n)}"))
            spent.append((out, back))
        limit = LIMITS.get(kind, 5.0)
        (small_out, small_in), (out, back) = spent
        growth = max(out / small_out, back / small_in)
        rows.append(
            f"| {kind} | {out:.2f} s | {back:.2f} s | {limit:.0f} s | {growth:.1f} times for "
            f"{_SIZES[1] // _SIZES[0]} times the tokens |"
        )
        print(rows[-1], flush=True)
    return rows


if __name__ == "__main__":
    sys.exit(formats() and None)
