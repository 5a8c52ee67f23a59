"""Serving the demo: the database, the server and the worker of long tasks, each watched and started again.

    python -m demo.running PORT [--fresh]

``./dev demo`` becomes this once all is installed. Files in ``var`` say what belongs to which demo: ``servers/PORT`` and
``servers/PORT.worker`` hold the process of the demo and that of its server or worker, ``users/PROCESS`` stands for a
demo that uses the database. What a demo that was killed has left is ended by the next one on its port.
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import shutil
import signal
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from types import FrameType

from demo.cluster import HERE, Cluster, ClusterError, home, var

NAME = "nimble_prism"
#: Seconds between two looks at what runs, and from its start in which a server that ends counts as not able to run.
_LOOKS, _QUICK = 1.0, 5.0
#: How often a server may end at once before it is given up.
_MOST_QUICK = 5
_SERVER = [sys.executable, "-m", "gunicorn", "studio.wsgi"]
_WORKER = [sys.executable, "manage.py", "procrastinate", "worker"]
_PREPARE = """
import io, django
from django.core.management import call_command
django.setup()
call_command("migrate", verbosity=0)
call_command("load_demo")
call_command("purge", verbosity=0, stdout=io.StringIO())
"""
_MAKE = """
import os, psycopg
with psycopg.connect(os.environ["DATABASE_URL"], autocommit=True) as c:
    if not c.execute("select 1 from pg_database where datname = %s", [os.environ["NAME"]]).fetchone():
        c.execute("create database " + os.environ["NAME"])
"""


def say(words: str) -> None:
    """Tell the person at the terminal."""
    print(words, file=sys.stderr, flush=True)


def runs(process: int) -> bool:
    """Whether a process is there."""
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    except PermissionError:
        return True
    return True


def is_free(port: int) -> bool:
    """Whether a port of loopback can be listened on."""
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True


def end_left(file: Path, command: list[str], words: str) -> None:
    """End the process that a file names, where the demo that wrote it is gone and the process is still of that kind."""
    try:
        owner, left = (int(number) for number in file.read_text().split())
    except (FileNotFoundError, ValueError):
        return
    if runs(owner):
        return
    with contextlib.suppress(FileNotFoundError, ProcessLookupError):
        if " ".join(command).encode() in Path(f"/proc/{left}/cmdline").read_bytes().replace(
            b"\0", b" "
        ):
            say(f"Ending {words}")
            os.kill(left, signal.SIGTERM)
            for _ in range(100):
                if not runs(left):
                    break
                time.sleep(0.1)
    file.unlink(missing_ok=True)


@contextlib.contextmanager
def locked() -> Iterator[None]:
    """While no other demo starts or stops the database."""
    var().mkdir(parents=True, exist_ok=True)
    with (var() / "cluster.lock").open("w") as file:
        fcntl.flock(file, fcntl.LOCK_EX)
        yield


def other_users() -> list[int]:
    """The demos beside this one that use the database and are still running."""
    users = []
    for file in (var() / "users").glob("[0-9]*"):
        if int(file.name) == os.getpid():
            continue
        if runs(int(file.name)):
            users.append(int(file.name))
        else:
            file.unlink(missing_ok=True)
    return users


@dataclass
class Kept:
    """A process that is started again whenever it ends; ``file`` says which it is. Where ``gives_up``, not if it ends
    at once several times."""

    command: list[str]
    file: Path
    words: str = ""
    log: Path | None = None
    gives_up: bool = False
    process: subprocess.Popen[bytes] | None = field(default=None, init=False)
    _started: float = field(default=0.0, init=False)
    _quick: int = field(default=0, init=False)

    def start(self) -> None:
        """Start it and say so in its file."""
        with contextlib.ExitStack() as stack:
            log = stack.enter_context(self.log.open("ab")) if self.log else None
            quiet = subprocess.DEVNULL if log else None
            self.process = subprocess.Popen(self.command, cwd=HERE, stdout=quiet, stderr=log)
        self._started = time.monotonic()
        self.file.parent.mkdir(parents=True, exist_ok=True)
        self.file.write_text(f"{os.getpid()} {self.process.pid}\n")

    def look(self) -> bool:
        """Start it again where it has ended; False where it is given up."""
        if self.process is None or self.process.poll() is None:
            return True
        self._quick = self._quick + 1 if time.monotonic() - self._started < _QUICK else 0
        if self.gives_up and self._quick >= _MOST_QUICK:
            return False
        if self.words:
            say(f"{self.words} has stopped; starting it again.")
        self.start()
        return True

    def stop(self) -> None:
        """End it, and take its file away."""
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()
            self.process.wait()
        self.file.unlink(missing_ok=True)


def take_cluster(*, fresh: bool) -> Cluster:
    """The cluster of this checkout's demos, running. Raises ``ClusterError``."""
    cluster = Cluster(home() / "postgres")
    users = var() / "users"
    users.mkdir(parents=True, exist_ok=True)
    with locked():
        (users / str(os.getpid())).touch()
        if cluster.is_alive():
            if fresh and other_users():
                raise ClusterError("The demo is running in another place; stop it before --fresh.")
            if fresh or not cluster.asks():
                cluster.stop()  # left by a demo that was killed, or by a version that asked for no password
        if not cluster.is_alive():
            if fresh:
                shutil.rmtree(cluster.folder, ignore_errors=True)
            cluster.start(sync=True)
    return cluster


def leave_cluster(cluster: Cluster) -> None:
    """Stop the cluster, unless another demo uses it."""
    with locked():
        (var() / "users" / str(os.getpid())).unlink(missing_ok=True)
        if not other_users():
            cluster.stop()


def look_after(cluster: Cluster, port: int) -> None:
    """Start the cluster again where it has died, on its port."""
    if cluster.is_alive():
        return
    with locked():
        if not cluster.is_alive():
            say("PostgreSQL has stopped; starting it again.")
            cluster.run(port, sync=True)


def answers(port: int) -> bool:
    """Whether the server answers."""
    try:
        with urllib.request.urlopen(f"http://127.0.0.1:{port}/alive", timeout=2):
            return True
    except OSError:
        return False


def serve(port: int, cluster: Cluster | None) -> int:
    """Serve until somebody ends it; the code to end with."""
    files = var() / "servers"
    bind = ["--config", "studio/serving.py", "--bind", f"127.0.0.1:{port}"]
    server = Kept([*_SERVER, *bind], files / str(port), "The server", gives_up=True)
    worker = Kept(_WORKER, files / f"{port}.worker", log=var() / "worker.log")
    database = cluster.port if cluster else 0
    told = False
    try:
        server.start()
        worker.start()
        until = time.monotonic() + 60
        while server.look():
            worker.look()
            if cluster and told:
                look_after(cluster, database)
            if not told and answers(port):
                told = True
                print(f"Nimble Prism: http://127.0.0.1:{port}/", flush=True)
            if not told and time.monotonic() > until:
                say("The server does not answer.")
                break
            time.sleep(_LOOKS if told else 0.1)
        return 1
    finally:
        server.stop()
        worker.stop()


def _prepare(cluster: Cluster | None) -> None:
    """The database of the demo, its tables and its data, and the files that are served beside the pages."""
    if cluster:
        maker = os.environ | {"DATABASE_URL": cluster.url("postgres"), "NAME": NAME}
        subprocess.run([sys.executable, "-c", _MAKE], env=maker, check=True)
        os.environ["DATABASE_URL"] = cluster.url(NAME)
    subprocess.run([sys.executable, "-c", _PREPARE], cwd=HERE, stdout=sys.stderr, check=True)
    subprocess.run(["./dev", "static"], cwd=HERE, check=True)


def _ended(number: int, frame: FrameType | None) -> None:
    raise SystemExit(0)


def main(arguments: list[str]) -> int:
    """Serve the demo on a port."""
    port, fresh = int(arguments[0]), "--fresh" in arguments
    files = var() / "servers"
    end_left(files / str(port), _SERVER, f"the server that was left on port {port}")
    end_left(files / f"{port}.worker", _WORKER, "the worker that was left beside it")
    if not is_free(port):
        say(f"Port {port} is taken. Choose another: ./dev demo --port N")
        return 1
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, _ended)
    os.environ |= {"NIMBLE_PRISM_DEMO": "1", "DJANGO_SETTINGS_MODULE": "studio.settings"}
    cluster = None
    try:
        if not os.environ.get("DATABASE_URL"):
            cluster = take_cluster(fresh=fresh)
        _prepare(cluster)
        return serve(port, cluster)
    except (ClusterError, subprocess.CalledProcessError) as error:
        say(str(error))
        return 1
    finally:
        for number in (signal.SIGTERM, signal.SIGINT):
            signal.signal(number, signal.SIG_IGN)
        if cluster is not None:
            leave_cluster(cluster)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
