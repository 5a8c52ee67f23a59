"""Pathological texts through the fields of the running application, with ``/alive`` asked meanwhile.

    .venv/bin/python -m bench.pathological.served [COUNT] [--write]

Runs ``./dev demo`` in a folder of its own, opens its pages, and sends one text after the other through the text
fields and files of the forms that stand there, as they stand there. Adds to ``docs/pathological.md``.
"""

from __future__ import annotations

import random
import re
import shutil
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from statistics import median, quantiles
from tempfile import mkdtemp
from urllib.parse import urlencode

from bench import machine
from bench.drills import Demo
from bench.forms import TYPED, Form, forms
from bench.pathological.shapes import Shape, shapes
from bench.visitor import Visitor

TABLE = Path(__file__).parent.parent.parent / "docs" / "pathological.md"
COUNT = 2_000
PAGES = (
    "/projects/new", "/projects/{code}/settings", "/p/{code}/palette/", "/p/{code}/palette/?open=new", "/p/{code}/palette/measures/",
    "/p/{code}/palette/import/", "/p/{code}/palette/ideas/", "/p/{code}/tokens/", "/p/{code}/tokens/?cell={token}:",
    "/p/{code}/tokens/?cell={token}:&view=page", "/p/{code}/tokens/?add=raw:", "/p/{code}/tokens/?rows={token}", "/p/{code}/tokens/axes/",
    "/p/{code}/tokens/names/", "/p/{code}/tokens/roles/", "/p/{code}/tokens/map/ladder", "/p/{code}/tokens/map/link",
    "/p/{code}/stage/", "/p/{code}/checks/", "/p/{code}/checks/balance/", "/p/{code}/checks/vision/", "/p/{code}/checks/findings/",
    "/p/{code}/checks/explore/", "/p/{code}/checks/report/", "/p/{code}/exchange/",
)  # fmt: skip
#: What is never sent: it ends the session, or takes the project away.
_NEVER = re.compile(r"sign-out|/delete|/restore|/remove|/demo$|/stop$|dialog")
SIZES = (30, 300, 3_000, 30_000, 300_000)
#: Seconds a request may take, and in which ``/alive`` is to answer.
SLOWEST, ALIVE = 10.0, 0.05


class Pulse(threading.Thread):
    """Asks ``/alive`` again and again; keeps how long each answer took."""

    def __init__(self, port: int) -> None:
        super().__init__(daemon=True)
        self.visitor = Visitor(port, 30)
        self.waits: list[float] = []
        self.failed = 0
        self.stopping = False

    def run(self) -> None:
        while not self.stopping:
            started = time.monotonic()
            try:
                status = self.visitor.ask("/alive")[0]
                self.failed += status != 200
                self.waits.append(time.monotonic() - started)
            except OSError:
                self.failed += 1
            time.sleep(0.02)


def sent(visitor: Visitor, form: Form, name: str, text: str) -> tuple[int, float]:
    """Send a form with a text in one of its fields; the status and the seconds."""
    token = visitor.cookies.get("csrftoken", "")
    started = time.monotonic()
    values = form.values()
    if "revision" in values:
        values["revision"] = visitor.revision
    if name in form.names("file"):
        edge = "----np"
        fields = values | {"csrfmiddlewaretoken": token}
        head = "".join(
            f'--{edge}\r\nContent-Disposition: form-data; name="{key}"\r\n\r\n{value}\r\n'
            for key, value in fields.items()
        )
        ending = ".css" if text.lstrip().startswith((":", "@", "a", ".")) else ".tokens.json"
        head += f'--{edge}\r\nContent-Disposition: form-data; name="{name}"; filename="a{ending}"\r\n\r\n'
        body = head.encode() + text.encode(errors="replace") + f"\r\n--{edge}--\r\n".encode()
        kind = f"multipart/form-data; boundary={edge}"
        status = visitor.send(form.action, body, kind, {"X-Region": "room"})[0]
    elif form.method == "get":
        query = urlencode(values | {name: text[:6_000]}, errors="replace")
        status = visitor.send(f"{form.action}?{query[:8_000]}", more={"X-Region": "room"})[0]
    else:
        fields = values | {name: text, "csrfmiddlewaretoken": token}
        body = urlencode(fields, errors="replace").encode()
        kind = "application/x-www-form-urlencoded"
        status = visitor.send(form.action, body, kind, {"X-Region": "room"})[0]
    return status, time.monotonic() - started


def forms_of(visitor: Visitor) -> Iterator[Form]:
    """The forms with texts or files of the pages of a project, each once."""
    seen: set[tuple[str, tuple[str, ...]]] = set()
    for page in PAGES:
        address = page.format(code=visitor.code, token=visitor.keys[0])
        status, _, text = visitor.ask(address)
        if status != 200:
            raise SystemExit(f"{address} answers {status}.")
        for form in forms(address, text):
            known = (form.action, tuple(sorted(set(form.names(*TYPED, "file")))))
            if known[1] and known not in seen and not _NEVER.search(form.action):
                seen.add(known)
                yield form


def main() -> None:
    """Send everything, and say how it went."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 and sys.argv[1].isdigit() else COUNT
    folder = Path(mkdtemp(prefix="prism-served-", dir="/var/tmp"))
    folder.chmod(0o755)
    rng = random.Random("served")
    made: list[Shape] = list(shapes())
    demo = Demo(folder)
    statuses: dict[int, int] = {}
    slow: list[tuple[float, str]] = []
    bad: list[str] = []
    try:
        visitor = Visitor(demo.port, 90)
        visitor.enter()
        fields = [(form, name) for form in forms_of(visitor) for name in form.names(*TYPED, "file")]
        print(len(fields), "fields", flush=True)
        pulse = Pulse(demo.port)
        pulse.start()
        for number in range(count):
            if number % len(fields) == 0:
                rng.shuffle(fields)
            form, name = fields[number % len(fields)]
            shape, size = rng.choice(made), rng.choice(SIZES)
            told = f"{form.method} {form.action.replace(visitor.code, 'CODE')} {name}, {shape.name}, {size}"
            try:
                status, took = sent(visitor, form, name, shape.make(size, rng))
            except OSError as error:
                status, took = 0, 0.0
                bad.append(f"{told}: {error}")
            statuses[status] = statuses.get(status, 0) + 1
            slow.append((took, told))
            if status >= 500 or took > SLOWEST:
                bad.append(f"{told}: {status} after {took:.1f} s")
                print(bad[-1], flush=True)
            if number % 50 == 0:
                visitor.look()
        pulse.stopping = True
        pulse.join()
    finally:
        demo.stop()
        shutil.rmtree(folder, ignore_errors=True)
    slow.sort(reverse=True)
    waits = [wait * 1000 for wait in pulse.waits]
    late = sum(wait > ALIVE * 1000 for wait in waits)
    told = ", ".join(f"{status}: {times}" for status, times in sorted(statuses.items()))
    lines = [
        "", "## Through the fields of the running application", "",
        f"Made by `.venv/bin/python -m bench.pathological.served`: {count} texts of the same shapes, of up to {SIZES[-1] // 1000} kB, through "
        f"the {len(fields)} fields for texts and files that its pages show, one after the other. Answers: {told}. "
        f"{len(bad)} failed or took over {SLOWEST:.0f} s; slowest {slow[0][0]:.1f} s ({slow[0][1]}).", "",
        f"Meanwhile `/alive` was asked {len(waits)} times: median {median(waits):.0f} ms, 99 of 100 within "
        f"{quantiles(waits, n=100)[98]:.0f} ms, longest {max(waits):.0f} ms; {late} answers took over {ALIVE * 1000:.0f} ms, "
        f"{pulse.failed} failed.",
    ]  # fmt: skip
    print("\n".join([*lines, *bad[:20]]))
    if "--write" in sys.argv:
        kept = TABLE.read_text().partition("\n## Through the fields")[0].rstrip()
        machine.write(TABLE, "\n".join([kept, *lines, ""]))


if __name__ == "__main__":
    main()
