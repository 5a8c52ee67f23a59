"""Whether work grows in proportion to the tokens: every format in and out, and one stored cell.

Writes ``docs/benchmarks-sizes.md``. The part with a database wants an empty one in DATABASE_URL.
"""

from __future__ import annotations

import itertools
import random
import statistics
import time
from collections.abc import Callable
from pathlib import Path

from bench import machine
from prism.formats import files
from prism.model.document import Axis, Document, Mode, Token
from prism.model.values import BASE, Condition, Expression
from prism.resolution.resolver import Resolver

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
                    values = [value for value in values if value[0] != mode]
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


def stored_cell(count: int, flat: bool) -> str:
    """A row for one stored cell, and for the first look, in a project of so many tokens."""
    from django.contrib.auth import get_user_model
    from django.test import Client

    from studio.store import projects as store

    user, _ = get_user_model().objects.get_or_create(username="sizes")
    project = store.create(user, document(count, flat=flat))
    client = Client()
    client.force_login(user)
    room = f"/p/{project.code}/tokens/"
    first, _ = timed(lambda: client.get(room))
    spent = []
    for number in range(30):
        project.refresh_from_db()
        said = {
            "token": f"t{count - 1 - number % 7}", "condition": "cell", "mode": "m2", "typed": "1",
            "value": f"#{number:06x}", "revision": project.revision,
        }  # fmt: skip
        seconds, answer = timed(
            lambda s=said: client.post(room + "store", s, headers={"X-Region": "room"})
        )
        assert answer.status_code == 200, answer.status_code
        spent.append(seconds * 1000)
    spent.sort()
    name = "flat" if flat else "dotted"
    row = (
        f"| a cell stored among {count:,} {name} names | {statistics.median(spent):.0f} ms | "
        f"{spent[int(len(spent) * 0.95)]:.0f} ms | 150 ms | first look {first * 1000:.0f} ms |"
    )
    print(row, flush=True)
    return row


def through_the_application(count: int) -> list[str]:
    """Rows for importing and exporting so many tokens over the application."""
    from django.contrib.auth import get_user_model
    from django.core.files.uploadedfile import SimpleUploadedFile
    from django.test import Client

    from prism.formats import archive
    from studio.store import projects as store

    user, _ = get_user_model().objects.get_or_create(username="sizes")
    built = document(count)
    client = Client()
    client.force_login(user)
    project = store.create(user, Document(name="Empty"))
    rows = []
    for kind in ("design-tokens", "css", "json", "csv"):
        written, _ = files.write(built, kind, Resolver(built).default_theme)
        name, data = next(iter(written.items()))
        data = archive.write(written) if len(written) > 1 else data.encode()
        file = SimpleUploadedFile("all.zip" if len(written) > 1 else name, data)
        said = {"files": file, "into": "new"}
        back, answer = timed(lambda s=said: client.post(f"/p/{project.code}/exchange/import", s))
        assert answer.status_code == 302, answer.status_code
        place = answer["Location"]
        path = f"export/{kind}"
        store.forget_all()
        out, answer = timed(lambda p=place, q=path: client.get(p + q))
        rows.append(
            f"| {kind}, over the application | {out:.2f} s | {back:.2f} s | | status {answer.status_code} |"
        )
        print(rows[-1], flush=True)
    return rows


def main() -> None:
    """Measure everything and write the table."""
    from django.core.management import call_command

    from studio import wsgi

    assert wsgi.application  # set up as it is when it serves
    call_command("migrate", verbosity=0)
    cells = [stored_cell(5_000, flat) for flat in (False, True)]
    rows = [*formats(), *through_the_application(_SIZES[1])]
    text = [
        "# Sizes", "", "Made by `./dev bench`. Whether work grows in proportion to the tokens.", "",
        f"| {_SIZES[1]:,} tokens in {_MODES} modes | written | read | at most | growth |",
        "| --- | --- | --- | --- | --- |", *rows, "",
        "| | median of 30 | 95th of 100 | at most | |", "| --- | --- | --- | --- | --- |", *cells, "",
    ]  # fmt: skip
    machine.write(TABLE, "\n".join(text))


if __name__ == "__main__":
    main()
