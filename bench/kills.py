"""Sixty kills at random moments of typing, proposals, reports, imports and exports; writes ``docs/kills.md``.

    .venv/bin/python -m bench.kills [COUNT]

Runs ``./dev demo`` in a folder of its own. In each drill two people store values and one asks for something long;
some seconds later the database, a worker of the server, the server, the worker of long tasks or ``./dev`` itself is
killed. Nobody steps in, but that a killed ``./dev`` is started again, as a service manager does. What was
acknowledged has to be there, and every long task has to be over, with a result or a sentence.
"""

from __future__ import annotations

import itertools
import json
import random
import re
import shutil
import sys
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from pathlib import Path
from statistics import median
from tempfile import mkdtemp
from urllib.parse import urlencode

from bench import machine
from bench.drills import HERE, Demo, Writer, kill, kill_dev, wait_for
from bench.visitor import Visitor

TABLE = HERE / "docs" / "kills.md"
COUNT = 60
#: Seconds within which values are stored again, and in which a long task is over after a kill.
STORED_AGAIN, TASK_OVER = 60.0, 400.0
_FORM = "application/x-www-form-urlencoded"


@dataclass(slots=True)
class Row:
    """What came of the drills of one harm."""

    drills: int = 0
    acknowledged: int = 0
    missing: int = 0
    asked: int = 0
    left: int = 0
    ends: dict[str, int] = field(default_factory=dict)
    stored: list[float] = field(default_factory=list)
    over: list[float] = field(default_factory=list)


class Asker:
    """A person who asks for long things in a project that is large enough for them."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.visitor = Visitor(port, 60)
        self.visitor.enter()
        self.home = self.visitor.code
        self.numbers = itertools.count()
        self.activities = {
            "proposal": self.proposal, "report": self.report, "import": self.import_, "export": self.export,
        }  # fmt: skip
        self.code = self.imported()
        self.visitor.enter(self.code)

    def imported(self) -> str:
        """A project with many pairings and more than 2,500 tokens; its code."""
        from bench.palettes import product
        from bench.sizes import document
        from prism.changes import structure
        from prism.formats import archive, resolver_writer

        plain = [replace(one, values=one.values[:1]) for one in document(2_600).tokens[:2_500]]
        large = structure.add_tokens(product(220, 900, 1, 1), plain)
        written = archive.write(resolver_writer.write(large).files)
        return self.send_file("large.zip", written, self.home).split("/")[2]

    def send_file(self, name: str, data: bytes, code: str) -> str:
        """The address that answers a file that is imported as a new project."""
        edge = "----np"
        token = self.visitor.cookies["csrftoken"]
        fields = {"into": "new", "name": f"Large {next(self.numbers)}", "csrfmiddlewaretoken": token}  # fmt: skip
        head = "".join(
            f'--{edge}\r\nContent-Disposition: form-data; name="{key}"\r\n\r\n{text}\r\n'
            for key, text in fields.items()
        )
        head += (
            f'--{edge}\r\nContent-Disposition: form-data; name="files"; filename="{name}"\r\n\r\n'
        )
        body = head.encode() + data + f"\r\n--{edge}--\r\n".encode()
        kind = f"multipart/form-data; boundary={edge}"
        return self.answered(f"/p/{code}/exchange/import", body, kind)

    def form(self, path: str, **fields: str) -> str:
        """The address that answers a form."""
        token = self.visitor.cookies["csrftoken"]
        body = urlencode(fields | {"csrfmiddlewaretoken": token, "revision": self.visitor.revision})
        return self.answered(f"/p/{self.code}/{path}", body.encode(), _FORM)

    def answered(self, path: str, body: bytes, kind: str) -> str:
        status, headers, text = self.visitor.send(path, body, kind)
        if status != 302:
            raise OSError(f"{path} answers {status}: {re.sub('<[^>]+>', ' ', text)[-400:]}")
        return headers["Location"]

    def asked(self, location: str) -> str:
        """The address of the task that a page was sent to."""
        found = re.search(r"/p/(\w+)/.*[?&](?:task|solving)=(\w+)", location)
        if found is None:
            raise OSError(f"No task is named by {location}")
        return f"/p/{found[1]}/tasks/{found[2]}"

    # What is asked for

    def proposal(self) -> str:
        axis, source = self.axis_keys()
        fields = {"axis": axis, "source": source, "name": f"night {next(self.numbers)}"}
        return self.asked(
            self.form("tokens/axes/take", again="1", scheme="dark", intent="counterpart", **fields)
        )

    def axis_keys(self) -> tuple[str, str]:
        """The keys of the appearance axis and its first mode, as its page says them."""
        _, _, text = self.visitor.ask(f"/p/{self.code}/tokens/axes/")
        axis = re.findall(r'name="axis" value="(\w+)"', text)[0]
        source = re.findall(r'name="(?:source|mode)" value="(\w+)"', text)
        options = re.findall(r'<option value="(\w+)"[^>]*>\s*light', text)
        return axis, (source or options)[0]

    def report(self) -> str:
        self.touch()
        return self.asked(self.form("checks/report/file/json"))

    def export(self) -> str:
        self.touch()
        return self.asked(self.form("exchange/export/css", theme=""))

    def import_(self) -> str:
        from bench.sizes import document
        from prism.formats import plain

        data = plain.write_json(document(5_000, seed=next(self.numbers))).encode()
        return self.asked(self.send_file("much.json", data, self.code))

    def touch(self) -> None:
        """Change a value, so that what is asked for is of a new revision."""
        self.visitor.look()
        number = next(self.numbers)
        self.visitor.store(self.visitor.keys[0], f"#{number % 4096:03x}f0e")

    def wait(self, address: str) -> str:
        """Wait until a task is over; its state."""
        found: dict[str, object] = {}

        def over() -> bool:
            status, _, text = self.visitor.ask(address)
            found.update(json.loads(text) if status == 200 else {})
            return bool(found.get("over"))

        wait_for(over, TASK_OVER)
        if found["state"] != "done" and not str(found["words"]).endswith("."):
            raise SystemExit(f"A task ended without a sentence: {found}")
        return str(found["state"])


def harms(demo: Demo) -> dict[str, Callable[[], None]]:
    """What is killed, by name."""
    return {
        "database": lambda: kill(demo.postmaster()),
        "first worker of the server": lambda: kill(demo.workers()[0]),
        "second worker of the server": lambda: kill(demo.workers()[-1]),
        "worker of long tasks": lambda: kill(int(demo.server_file().with_name(f"{demo.port}.worker").read_text().split()[1])),
        "server": lambda: kill(demo.server()),
        "`./dev`, started again": lambda: kill_dev(demo),
    }  # fmt: skip


def longest_pause(writer: Writer, killed: float) -> float:
    """The longest time in which nothing that somebody typed was stored, from a kill on."""
    moments = [killed, *(moment for moment, _ in writer.acknowledged if moment > killed)]
    return max(after - before for before, after in itertools.pairwise(moments))


def drill(demo: Demo, asker: Asker, activity: str, harm: Callable[[], None], rng: random.Random, row: Row) -> None:  # fmt: skip
    """One kill at a random moment."""
    row.drills += 1
    writers = [Writer(demo.port, place, asker.home) for place in rng.sample(range(30), 2)]
    for writer in writers:
        writer.start()
    began = wait_for(lambda: all(len(writer.acknowledged) >= 3 for writer in writers), 60)
    print(f"began {began:.1f}", end=" ", flush=True)
    tasks: list[str] = []

    def ask() -> None:
        for _ in range(20):
            try:
                asker.visitor.look()
                tasks.append(asker.activities[activity]())
                return
            except (OSError, KeyError, IndexError) as error:
                if "are not finished" in str(error):
                    return
                refused[:] = [str(error)]
                time.sleep(1)
        print("never asked:", *refused, flush=True)

    refused: list[str] = []
    asking = threading.Thread(target=ask, daemon=True)
    if activity != "typing":
        asking.start()
    time.sleep(rng.uniform(0, 6))
    harm()
    killed = time.monotonic()
    time.sleep(6)  # what was killed may go on for a moment, and be missing only then
    since = time.monotonic()
    wait_for(lambda: all(w.acknowledged[-1][0] > since for w in writers), STORED_AGAIN)
    row.stored.append(max(longest_pause(writer, killed) for writer in writers))
    for writer in writers:
        writer.stopping = True
    for writer in writers:
        writer.join(timeout=30)
    if activity != "typing":
        asking.join(timeout=60)
    for address in tasks:
        state = asker.wait(address)
        row.asked += 1
        row.ends[state] = row.ends.get(state, 0) + 1
        row.over.append(time.monotonic() - killed)
    wait_for(lambda: Visitor(demo.port, 5).ask("/ready")[0] == 200, STORED_AGAIN)
    reader = Visitor(demo.port, 60)
    reader.enter(asker.home)
    writes = [write for writer in writers for _, write in writer.acknowledged]
    row.acknowledged += len(writes)
    row.missing += sum(not reader.was_stored(write) for write in writes)
    rooms = [reader.look(f"{room}/")[0] for room in ("palette", "tokens", "checks", "exchange")]
    if rooms != [200] * 4:
        raise SystemExit(f"A room does not open: {rooms}")


def main() -> None:
    """Run the drills and write the table."""
    count = int(sys.argv[1]) if len(sys.argv) > 1 else COUNT
    folder = Path(mkdtemp(prefix="prism-kills-", dir="/var/tmp"))
    folder.chmod(0o755)
    rng = random.Random("kills")
    rows: dict[str, Row] = {}
    demo = Demo(folder)
    try:
        asker = Asker(demo.port)
        activities = ("typing", *asker.activities)
        pairs = [(harm, activity) for activity in activities for harm in harms(demo)]
        for number in range(count):
            if number % len(pairs) == 0:
                rng.shuffle(pairs)
            harm, activity = pairs[number % len(pairs)]
            row = rows.setdefault(harm, Row())
            print(number, harm, activity, end=" ", flush=True)
            drill(demo, asker, activity, harms(demo)[harm], rng, row)
            print(row.acknowledged, row.missing, row.ends, f"{row.stored[-1]:.1f}", f"{row.over[-1]:.1f}" if row.over else "", flush=True)  # fmt: skip
            if row.missing:
                raise SystemExit("Something was lost.")
    finally:
        demo.stop()
        shutil.rmtree(folder, ignore_errors=True)
    lines = [
        f"| {harm} | {row.drills} | {row.acknowledged} | {row.missing} | {row.asked}: "
        f"{', '.join(f'{n} {state}' for state, n in sorted(row.ends.items()))} | "
        f"{median(row.stored):.1f} s, {max(row.stored):.1f} s | {median(row.over):.1f} s, {max(row.over):.1f} s |"
        for harm, row in sorted(rows.items())
        if row.over
    ]  # fmt: skip
    head = [
        "# Kills", "", f"Made by `.venv/bin/python -m bench.kills`: {sum(r.drills for r in rows.values())} kills at random moments while two "
        "people store values and a third asks for a proposal, a report, an import or an export. Nobody steps in, but that "
        "`./dev` is started again where it was killed itself.", "",
        "| killed | drills | writes acknowledged | of them missing | long tasks, how they ended | longest pause between stored values: median, "
        "longest | until the task is over: median, longest |", "| --- | --- | --- | --- | --- | --- | --- |",
    ]  # fmt: skip
    machine.write(TABLE, "\n".join([*head, *lines, ""]))


if __name__ == "__main__":
    sys.exit(main())
