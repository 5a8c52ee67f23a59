"""The steps of ``docs/running.md``, run as they are written: setting up, serving, a backup and its restoring, going back
to a minute, a new version.

    .venv/bin/python -m bench.running

Takes the commands out of the page and runs them with a checkout, a cluster of PostgreSQL, ports, a password and a
moment in place of those that the page names. Installing packages, PgBouncer and nginx are left out. A thread stands
for the service manager.
"""

from __future__ import annotations

import contextlib
import os
import re
import shutil
import signal
import socket
import subprocess
import sys
import threading
import time
from collections.abc import Iterator, Mapping
from datetime import UTC, datetime
from pathlib import Path
from tempfile import mkdtemp

from bench.visitor import Visitor

HERE = Path(__file__).parent.parent
PAGE = HERE / "docs" / "running.md"
_PASSWORD = "a-made-up-word"  # noqa: S105 - of a cluster that is gone in a moment


def blocks(page: str) -> dict[str, list[str]]:
    """The code of a page by the heading it stands under."""
    found: dict[str, list[str]] = {}
    for section in re.split(r"^## ", page, flags=re.M)[1:]:
        heading, _, rest = section.partition("\n")
        found[heading] = re.findall(r"^```\n(.*?)^```", rest, re.S | re.M)
    return found


def free_port() -> int:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        return int(free.getsockname()[1])


class Machine:
    """A folder with the checkout, the cluster and the backup, and what stands for what the page names."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.checkout = folder / "srv"
        self.data = folder / "data"
        self.port, self.served = free_port(), free_port()
        self.instead = {
            "/srv/nimble-prism": str(self.checkout),
            "/srv/backup": str(folder / "backup"),
            "127.0.0.1:6432": f"127.0.0.1:{self.port}",
            "127.0.0.1:5432": f"127.0.0.1:{self.port}",
            "127.0.0.1:8000": f"127.0.0.1:{self.served}",
            "PASSWORD": _PASSWORD,
        }
        self.said = blocks(PAGE.read_text())

    def block(self, heading: str, place: int) -> str:
        """A block of the page, with what stands for what it names."""
        text = self.said[heading][place]
        for name, own in self.instead.items():
            text = text.replace(name, own)
        return text

    def environment(self) -> dict[str, str]:
        names = {"PGHOST": "127.0.0.1", "PGPORT": str(self.port), "PGUSER": "postgres"}
        kept = {
            k: v
            for k, v in os.environ.items()
            if not k.startswith(("NIMBLE", "DJANGO", "DATABASE"))
        }
        return kept | names

    def run(self, text: str, *, into: str = "", more: Mapping[str, str] | None = None) -> str:
        """Run commands in the checkout with its environment; what they print. Ends the program where they fail."""
        start = "set -e; [ ! -e env ] || { set -a; . ./env; set +a; }\n"
        done = subprocess.run(
            ["bash", "-c", start + text], cwd=self.checkout, env=self.environment() | dict(more or {}),
            input=into, capture_output=True, text=True, check=False, start_new_session=True,
        )  # fmt: skip
        if done.returncode:
            raise SystemExit(f"{text}\nended with {done.returncode}: {done.stderr[-800:]}")
        return done.stdout

    # PostgreSQL

    def as_postgres(self, text: str) -> None:
        start = ["runuser", "-u", "postgres", "--"] if os.geteuid() == 0 else []
        subprocess.run([*start, "bash", "-c", text], check=True, cwd="/", stdout=subprocess.DEVNULL)

    def bin(self, name: str) -> str:
        return str(max(Path("/usr/lib/postgresql").glob(f"*/bin/{name}")))

    def make_cluster(self) -> None:
        for path in (self.data, self.folder / "backup", self.folder / "backup" / "wal"):
            path.mkdir()
            path.chmod(0o700)
            if os.geteuid() == 0:
                shutil.chown(path, "postgres")
        self.as_postgres(f"{self.bin('initdb')} -D {self.data} -U postgres --auth=trust")
        self.configure(self.block("Backups", 1))
        self.start_cluster()

    def configure(self, lines: str) -> None:
        with (self.data / "postgresql.conf").open("a") as file:
            file.write(lines)

    def start_cluster(self) -> None:
        options = f"-c listen_addresses=127.0.0.1 -p {self.port} -c unix_socket_directories=''"
        self.as_postgres(
            f'{self.bin("pg_ctl")} start -w -s -D {self.data} -l {self.data}/log -o "{options}"'
        )

    def stop_cluster(self) -> None:
        self.as_postgres(f"{self.bin('pg_ctl')} stop -s -m fast -D {self.data}")


class Service(threading.Thread):
    """Starts a command again whenever it ends, as a service manager does."""

    def __init__(self, machine: Machine, command: str) -> None:
        super().__init__(daemon=True)
        self.machine, self.command = machine, command
        self.starts, self.stopping = 0, False
        self.process: subprocess.Popen[bytes] | None = None

    def run(self) -> None:
        while not self.stopping:
            self.starts += 1
            self.process = subprocess.Popen(
                ["bash", "-c", f"set -a; . ./env; set +a; exec {self.command}"],
                cwd=self.machine.checkout, env=self.machine.environment(), stderr=subprocess.DEVNULL, stdout=subprocess.DEVNULL,
            )  # fmt: skip
            self.process.wait()
            time.sleep(0.5)

    def end(self) -> None:
        self.stopping = True
        if self.process is not None:
            self.process.send_signal(signal.SIGTERM)
            self.process.wait(timeout=60)


def ready(machine: Machine, seconds: float = 60) -> float:
    """Wait until a balancer is told 200; how long it took."""
    started = time.monotonic()
    while time.monotonic() - started < seconds:
        with contextlib.suppress(OSError):
            if Visitor(machine.served, 3).ask("/ready")[0] == 200:
                return time.monotonic() - started
        time.sleep(0.1)
    raise SystemExit(f"Not ready within {seconds:.0f} s.")


def step(told: str) -> None:
    print(f"{datetime.now(tz=UTC):%H:%M:%S} {told}", flush=True)


_STORE = """.venv/bin/python - <<'PYTHON'
import django; django.setup()
from django.contrib.auth import get_user_model
from studio.store import projects
from prism.model.document import Document
projects.create(get_user_model().objects.get(), Document(name="{name}"))
PYTHON"""
_NAMES = """.venv/bin/python - <<'PYTHON'
import django; django.setup()
from studio.store.models import Project
print(*sorted(Project.objects.values_list("name", flat=True)), sep=",")
PYTHON"""


def set_up(machine: Machine) -> Iterator[Service]:
    """Everything under “Setting up” and “Workers”; the services that run then."""
    subprocess.run(["git", "clone", "-q", str(HERE), str(machine.checkout)], check=True)
    install, lint = machine.block("Setting up", 0).splitlines()
    step(f"left out: {install}")
    machine.run(lint.partition("#")[0])
    step("./dev lint has set up")
    machine.make_cluster()
    twice = f"{_PASSWORD}\n{_PASSWORD}\n"
    machine.run(machine.block("Setting up", 1), into=twice)
    (machine.checkout / "env").write_text(machine.block("Setting up", 2))
    *first, serve = machine.block("Setting up", 3).strip().splitlines()
    machine.run("\n".join(first))
    step("the database is made, migrated, and files are collected")
    server = Service(machine, serve)
    server.start()
    step(f"/ready answers 200 after {ready(machine):.1f} s")
    account = machine.block("Setting up", 4).strip() + " --no-input"
    machine.run(account, more={"DJANGO_SUPERUSER_PASSWORD": "a long made-up word"})
    worker = Service(machine, machine.block("Workers", 0).strip())
    worker.start()
    yield from (server, worker)


def back_up(machine: Machine) -> None:
    """A whole copy, and what was deleted brought back from it."""
    machine.run(_STORE.format(name="Harbor"))
    dump, restore = machine.block("Backups", 0).strip().splitlines()
    machine.run(dump)
    machine.run(_STORE.format(name="Later"))
    machine.run(restore)
    names = machine.run(_NAMES).strip()
    if names != "Harbor":
        raise SystemExit(f"After restoring there are: {names}")
    step("a whole copy was made and restored; what came later is gone, as it has to be")


def go_back(machine: Machine, services: list[Service]) -> None:
    """A base copy and the log, and the state of a minute from them."""
    words = re.search(r"`(pg_basebackup [^`]+)`", PAGE.read_text())
    assert words is not None
    command = words[1]
    for name, own in machine.instead.items():
        command = command.replace(name, own)
    login = f"PGHOST=127.0.0.1 PGPORT={machine.port} PGUSER=postgres"
    machine.as_postgres(f"{login} {command}")
    machine.run(_STORE.format(name="Before"))
    time.sleep(1.5)
    moment = datetime.now(tz=UTC)
    time.sleep(1.5)
    machine.run(_STORE.format(name="After"))
    machine.run("psql -d postgres -c 'select pg_switch_wal()'")
    time.sleep(3)
    for service in services:
        service.end()
    machine.stop_cluster()
    base = next((machine.folder / "backup").glob("base-*"))
    shutil.rmtree(machine.data)
    shutil.move(base, machine.data)
    lines = machine.block("Backups", 2).replace(
        "2026-11-26 09:40:00+00", f"{moment:%Y-%m-%d %H:%M:%S.%f+00}"
    )
    machine.configure(lines)
    (machine.data / "recovery.signal").touch()
    if os.geteuid() == 0:
        shutil.chown(machine.data / "recovery.signal", "postgres")
    machine.start_cluster()
    time.sleep(3)
    names = machine.run(_NAMES).strip()
    if names != "Before,Harbor":
        raise SystemExit(f"After going back there are: {names}")
    step("the cluster went back to a moment between two changes")


def upgrade(machine: Machine, server: Service, worker: Service) -> None:
    """A new version, with the server and the worker started again by their service manager."""
    ready(machine)
    starts = server.starts, worker.starts
    machine.run(machine.block("A new version", 0))
    while server.starts == starts[0]:
        time.sleep(0.1)
    took = ready(machine)
    assert worker.process is not None
    worker.process.send_signal(signal.SIGTERM)
    while worker.starts == starts[1]:
        time.sleep(0.1)
    step(f"the new version answers {took:.1f} s after the old server ended, and its worker runs")


def main() -> None:
    """Run the page from the top to the end."""
    folder = Path(mkdtemp(prefix="prism-running-", dir="/var/tmp"))
    folder.chmod(0o755)
    machine = Machine(folder)
    services: list[Service] = []
    try:
        services += set_up(machine)
        machine.run(machine.block("Every day", 0))
        step("purge has run")
        back_up(machine)
        upgrade(machine, *services)
        go_back(machine, services)
        step("every step has run as it is written, but those that are named above")
    finally:
        for service in services:
            service.end()
        with contextlib.suppress(subprocess.CalledProcessError):
            machine.stop_cluster()
        shutil.rmtree(folder, ignore_errors=True)


if __name__ == "__main__":
    sys.exit(main())
