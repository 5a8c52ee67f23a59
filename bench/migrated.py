"""A database of another version, taken up by this one: what it holds is the same, and each edit can be undone.

    .venv/bin/python -m bench.migrated CHECKOUT

Serves the demo from the other checkout, makes edits as a person does, stops it, serves the same files from this one,
and compares the exported tokens of every step back with those of every step forth.
"""

from __future__ import annotations

import shutil
import sys
from pathlib import Path
from tempfile import mkdtemp

from bench.drills import Demo
from bench.visitor import Visitor

EDITS = 12


def exported(visitor: Visitor) -> str:
    """The document as Design Tokens, as it is served."""
    status, _, text = visitor.ask(f"/p/{visitor.code}/exchange/export/design-tokens")
    if status != 200:
        raise SystemExit(f"The export answered {status}.")
    return text


def forth(port: int) -> tuple[str, list[str]]:
    """Edits on a running demo: the code of the project, and its export before and after each."""
    visitor = Visitor(port, 60)
    visitor.enter()
    steps = [exported(visitor)]
    for number in range(EDITS):
        if number % 4 == 3:
            fields = {
                "command": "rename-token",
                "token": visitor.keys[number],
                "path": f"other.n{number}",
            }
            fields |= {"revision": visitor.revision}
            status, _, _ = visitor.ask(f"/p/{visitor.code}/tokens/command", fields)
        else:
            _, status = visitor.store(visitor.keys[number], f"#{number:02x}55aa")
        if status not in (200, 302):
            raise SystemExit(f"Edit {number} answered {status}.")
        visitor.look()
        steps.append(exported(visitor))
    return visitor.code, steps


def back(port: int, code: str, steps: list[str]) -> int:
    """Undo all of it on the other version; how many steps are not as they were."""
    visitor = Visitor(port, 60)
    visitor.enter(code)
    wrong = int(exported(visitor) != steps[-1])
    for before in reversed(steps[:-1]):
        visitor.ask(f"/projects/{code}/undo", {"next": f"/p/{code}/tokens/"})
        wrong += exported(visitor) != before
    status, _ = visitor.look()
    print(f"{len(steps) - 1} edits undone, {wrong} steps differ; the sheet then answers {status}")
    return wrong


def main() -> None:
    """Go forth with the one version and back with the other."""
    folder = Path(mkdtemp(prefix="prism-migrated-", dir="/var/tmp"))
    folder.chmod(0o755)
    try:
        demo = Demo(folder, Path(sys.argv[1]))
        try:
            code, steps = forth(demo.port)
        finally:
            demo.stop()
        demo = Demo(folder)
        try:
            wrong = back(demo.port, code, steps)
        finally:
            demo.stop()
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    raise SystemExit(1 if wrong else 0)


if __name__ == "__main__":
    main()
