"""Speed and memory of the server: pages and answers of the rooms, and reading pictures.

Expects an empty database in DATABASE_URL. Writes ``docs/benchmarks-server.md``.
"""

from __future__ import annotations

import io
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from django.core.management import call_command
from PIL import Image

from bench import machine

TABLE = Path(__file__).parent.parent / "docs" / "benchmarks-server.md"
_TIMES = 40


def picture(kind: str) -> bytes:
    """A picture of 12 megapixels with slopes and noise, as a file of a kind."""
    rng = np.random.default_rng(1)
    y, x = np.mgrid[0:3000, 0:4000].astype(np.float32)
    parts = []
    for shift in (0, 1, 2):
        wave = 120 + 100 * np.sin(x / (400 + 90 * shift) + y / (700 - 80 * shift) + shift)
        parts.append(wave + rng.normal(0, 2, wave.shape).astype(np.float32))
    image = Image.fromarray(np.clip(np.stack(parts, axis=-1), 0, 255).astype(np.uint8))
    held = io.BytesIO()
    image.save(held, kind, **({"quality": 88} if kind == "JPEG" else {"compress_level": 6}))
    return held.getvalue()


def read_picture(path: str) -> None:
    """Read a picture in this process and print seconds and peak memory in MB."""
    from bench.core import peak
    from prism.palette.pictures import read

    data = Path(path).read_bytes()
    started = time.perf_counter()
    found = read(data, "picture")
    print(time.perf_counter() - started, peak(), len(found.clusters))


def pictures(folder: Path) -> list[str]:
    """Rows for pictures of 12 megapixels, each read in a process of its own."""
    rows = []
    for kind in ("JPEG", "PNG"):
        data = picture(kind)
        if len(data) > 24 * 1024 * 1024:
            raise SystemExit(f"The {kind} has {len(data)} bytes, more than are read.")
        path = folder / f"bench-picture.{kind.lower()}"
        path.write_bytes(data)
        command = [sys.executable, "-m", "bench.server", str(path)]
        done = subprocess.run(command, capture_output=True, text=True, check=True)
        path.unlink()
        seconds, memory, count = (float(one) for one in done.stdout.split())
        rows.append(
            f"| {kind}, 12 megapixels, {len(data) / 1e6:.1f} MB | {seconds:.2f} s, at most 1.5 "
            f"| {memory:.0f} MB, at most 300 | {count:.0f} colors |"
        )
    return rows


def palette_of(colors: int):
    """The demo project with ramps added until it has so many raw colors."""
    from demo import quillhaven
    from prism.palette.ramp_edits import add_ramp
    from studio.store.projects import new_key

    built = quillhaven.document()
    number = 0
    while sum(token.is_raw_color for token in built.tokens) < colors:
        seed = f"oklch(0.58 0.09 {number * 37 % 360})"
        fields = {"seed": seed, "keep-seed": "no"}
        built = add_ramp(built, f"more {number}", fields, new_key)
        number += 1
    return built


def sheet_of(count: int):
    """A document of so many tokens over an axis of six modes, a third of them with own values."""
    from prism.model.document import Axis, Document, Mode, Token
    from prism.model.values import BASE, Condition, Expression
    from prism.palette.ramp_edits import add_ramp
    from prism.resolution.contrast import pairing_for
    from studio.store.projects import new_key

    axis = Axis("m", "mode", tuple(Mode(f"m{i}", f"mode {i}") for i in range(6)), "m0")
    built = Document(name="Sheet", axes=(axis,))
    for number in range(20):
        seed = f"oklch(0.58 0.09 {number * 18})"
        built = add_ramp(built, f"ramp {number}", {"seed": seed, "keep-seed": "no"}, new_key)
    tokens = []
    for number in range(count - len(built.tokens)):
        values = [(BASE, f"{{ramp {number % 20}.{1 + number % 11}}}")]
        if number % 3 == 0:
            mode = Condition.of({"m": f"m{1 + number % 5}"})
            values.append((mode, f"{{ramp {number % 20}.{11 - number % 11}}}"))
        stored = tuple((condition, Expression(text)) for condition, text in values)
        tokens.append(
            Token(f"t{number}", f"group {number // 40}.t{number}", "color", "semantic", stored)
        )
    pairings = tuple(
        pairing_for(f"p{i}", f"t{i}", (f"t{i + 1}",), "text") for i in range(0, 600, 2)
    )
    return replace(built, tokens=(*built.tokens, *tokens), pairings=pairings)


def sheet() -> list[str]:
    """Rows for the sheet of 2,000 tokens in six modes."""
    from django.contrib.auth import get_user_model
    from django.test import Client

    from studio.store import projects as store
    from studio.store.models import Project

    user = get_user_model().objects.create_user("sheet")
    project = store.create(user, sheet_of(2000))
    client = Client()
    client.force_login(user)
    room = f"/p/{project.code}/tokens/"
    region = {"X-Region": "room"}

    def cold() -> None:
        store.forget_all()
        assert client.get(room).status_code == 200

    def again() -> None:
        assert client.get(room, headers=region).status_code == 200

    def rows() -> None:
        assert client.get(room + "rows", {"from": "t900", "count": "24"}).status_code == 200

    number = 0

    def stored() -> None:
        nonlocal number
        number += 1
        said = {
            "token": f"t{number % 40}", "condition": "[]", "value": f"ramp {number % 20}.4",
            "revision": Project.objects.get(pk=project.pk).revision, "cell": "t1:mode-0",
        }  # fmt: skip
        answer = client.post(room + "store", said, headers=region)
        assert answer.status_code == 200, answer.status_code
        assert answer["X-Address"], "nothing was stored"

    again()
    return [
        _row("2,000 tokens in 6 modes, nothing cached", cold, 1000),
        _row("the same, again", again, 1000),
        _row("24 rows that come into sight", rows, 100),
        _row("a cell stored, and the sheet repainted with what depends on it", stored, 100),
    ]


def server() -> list[str]:
    """Rows for pages and answers of the server, measured through Django's test client."""
    from django.contrib.auth import get_user_model
    from django.test import Client

    from studio.store import projects as store

    user = get_user_model().objects.create_user("bench")
    project = store.create(user, palette_of(200))
    client = Client()
    client.force_login(user)
    room = f"/p/{project.code}/palette/"
    point = {"lightness": "0.5", "chroma": "0.1", "hue": "160", "gamut": "srgb"}

    def get(path: str, **said: str) -> Callable[[], object]:
        def ask() -> None:
            response = client.get(path, said)
            assert response.status_code == 200, response.status_code

        return ask

    def cold() -> None:
        store.forget_all()
        get(room)()

    get(room)()
    rows = [
        _row("200 colors, nothing cached", cold, 300),
        _row("200 colors, again", get(room), 300),
        _row("with a ramp, its plot and what it carries open", get(room, ramp="spruce"), 300),
        _row("with a color open", get(room, swatch="spruce.8"), 300),
        _row("numbers of a dragged point", get(room + "numbers", **point), 30),
        _row("preview of a recipe", get(room + "preview", seed="#236b53"), 100),
        _row(
            "what another value changes", get(room + "impact", token="spruce.8", value="#135"), 300
        ),
    ]
    return rows


def _row(name: str, work: Callable[[], object], limit: int) -> str:
    seconds = []
    for _ in range(_TIMES):
        started = time.perf_counter()
        work()
        seconds.append((time.perf_counter() - started) * 1000)
    seconds.sort()
    middle, late = statistics.median(seconds), seconds[int(len(seconds) * 0.95)]
    return f"| {name} | {middle:.0f} ms | {late:.0f} ms | {limit} ms |"


def main() -> None:
    """Measure everything and write the table."""
    from studio import wsgi

    assert wsgi.application  # set up as it is when it serves
    call_command("migrate", verbosity=0)
    with TemporaryDirectory() as folder:
        rows = pictures(Path(folder))
    text = "\n".join(
        [
            "# Benchmarks of the server",
            "",
            "Made by `./dev bench`. Times of the server are of whole requests through Django's test "
            f"client, {_TIMES} each; each picture is read in a process of its own.",
            "",
            "| | median | 95th of 100 | at most |",
            "| --- | --- | --- | --- |",
            *server(),
            *sheet(),
            "",
            "| picture | time | peak memory of the process | |",
            "| --- | --- | --- | --- |",
            *rows,
            "",
        ]
    )
    machine.write(TABLE, text)
    print(text)


if __name__ == "__main__":
    if len(sys.argv) > 1:
        read_picture(sys.argv[1])
    else:
        main()
