"""Small changes of the code, by a seed, and whether the tests notice them.

    ./dev mutate [--seed N] [--count N] [--tests LABEL...] [PATH...]

The changes are those of cosmic-ray's operators, but for such that mean nothing, as in annotations.
Copies of the checkout are changed, never the checkout. A change is held against those classes of tests
that run the changed statement, the quickest first; the tests in the browser are left out. Which classes
run which lines is measured once for every state of the checkout.
"""

from __future__ import annotations

import argparse
import ast
import hashlib
import json
import os
import queue
import random
import resource
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from cosmic_ray.ast import ast_nodes, get_ast
from cosmic_ray.mutating import mutate_code
from cosmic_ray.plugins import get_operator, operator_names

ROOT = Path(__file__).resolve().parents[1]
#: What an operator may become: what a slip of the hand would make of it.
_SLIPS = {
    "ReplaceBinaryOperator": (
        "Add_Sub",
        "Sub_Add",
        "Mul_Div",
        "Div_Mul",
        "FloorDiv_Div",
        "Mod_Mul",
    ),
    "ReplaceComparisonOperator": (
        *("Eq_NotEq", "NotEq_Eq", "Lt_LtE", "LtE_Lt", "Gt_GtE", "GtE_Gt", "Lt_Gt", "Gt_Lt"),
        *("Is_IsNot", "IsNot_Is", "In_NotIn", "NotIn_In"),
    ),
}
#: Operators that change one thing only.
_SINGLE = (
    *(
        "AddNot",
        "ReplaceAndWithOr",
        "ReplaceOrWithAnd",
        "ReplaceTrueWithFalse",
        "ReplaceFalseWithTrue",
    ),
    *(
        "NumberReplacer",
        "ZeroIterationForLoop",
        "ReplaceContinueWithBreak",
        "ReplaceBreakWithContinue",
    ),
    *("ReplaceUnaryOperator_Delete_Not", "ReplaceUnaryOperator_Delete_USub", "ExceptionReplacer"),
)
#: Seconds that the unchanged tests may take while their lines are measured.
_LONGEST = 9000
#: Tests that are measured side by side.
_TESTS = (("tests.core",), ("tests.studio", "tests.reference"))


@dataclass(frozen=True)
class Mutant:
    """One change of a file: the operator, which of its places, and the text with it."""

    file: str
    operator: str
    text: str
    line: int
    before: str
    after: str


def mutants(files: Sequence[str], rng: random.Random) -> Iterator[Mutant]:
    """Changes in an order of chance, each file as often as it has lines."""
    known = set(operator_names())
    families = [[f"core/{name}"] for name in _SINGLE if f"core/{name}" in known]
    families += [
        [name for slip in slips if (name := f"core/{family}_{slip}") in known]
        for family, slips in _SLIPS.items()
    ]
    sizes = [(ROOT / file).read_bytes().count(b"\n") for file in files]
    seen: set[tuple[str, str]] = set()
    for _ in range(100_000):
        file = rng.choices(files, sizes)[0]
        code = (ROOT / file).read_text()
        nodes = list(ast_nodes(get_ast(code)))
        operator = get_operator(rng.choice(rng.choice(families)))()
        places = sum(len(list(operator.mutation_positions(node))) for node in nodes)
        if not places:
            continue
        text = mutate_code(code, operator, rng.randrange(places))
        if text is None or (file, text) in seen or _meaning(text) in ("", _meaning(code)):
            continue
        seen.add((file, text))
        pairs = zip(code.splitlines(), text.splitlines(), strict=False)
        line, (before, after) = next(
            (n, pair) for n, pair in enumerate(pairs, 1) if pair[0] != pair[1]
        )
        if before.lstrip().startswith("@dataclass"):
            continue
        yield Mutant(file, type(operator).__name__, text, line, before.strip(), after.strip())


class _Bare(ast.NodeTransformer):
    """Takes off what no run depends on: annotations, docstrings, and whether ``zip`` is strict."""

    def visit(self, node: ast.AST) -> ast.AST:
        for name in ("annotation", "returns"):
            if getattr(node, name, None) is not None:
                setattr(node, name, ast.Constant(0))
        if isinstance(node, ast.keyword) and node.arg == "strict":
            node.value = ast.Constant(0)
        body = getattr(node, "body", None)
        first = body[0] if isinstance(body, list) and body else None
        if isinstance(first, ast.Expr) and isinstance(first.value, ast.Constant):
            body[0] = ast.Pass()
        return self.generic_visit(node)


def _meaning(text: str) -> str:
    """What a file says to Python, without annotations and docstrings; empty where it is no Python."""
    try:
        return ast.dump(_Bare().visit(ast.parse(text)))
    except SyntaxError:
        return ""


def copied(folder: Path) -> Path:
    """A copy of the checkout's own files, with what was installed and built linked into it."""
    listed = subprocess.run(["git", "ls-files", "-z"], cwd=ROOT, capture_output=True, check=True)
    copy = folder / "checkout"
    for name in filter(None, listed.stdout.decode().split("\0")):
        (copy / name).parent.mkdir(parents=True, exist_ok=True)
        shutil.copy2(ROOT / name, copy / name)
    for name in (".venv", "node_modules", "studio/ui/static/ui/built"):
        if (ROOT / name).exists():
            (copy / name).parent.mkdir(parents=True, exist_ok=True)
            (copy / name).symlink_to(ROOT / name)
    (copy / "var" / "static").mkdir(parents=True)
    return copy


@dataclass(frozen=True)
class Runs:
    """Which classes of tests run which lines, and the seconds of each class, unchanged."""

    seconds: dict[str, float]
    lines: dict[str, dict[str, list[str]]]

    def tests_of(self, mutant: Mutant) -> list[str]:
        """The classes of tests that run the changed statement, the quickest first; where it is run
        as its module is loaded, those that run anything of the file."""
        lines = self.lines.get(mutant.file, {})
        start, end = _statement((ROOT / mutant.file).read_text(), mutant.line)
        run_by = {name for n in range(start, end + 1) for name in lines.get(str(n), ())}
        if "" in run_by:
            run_by = {name for names in lines.values() for name in names}
        return sorted(run_by - {""}, key=lambda name: (self.seconds.get(name, 0), name))


def _statement(code: str, line: int) -> tuple[int, int]:
    """First and last line of the smallest statement around a line; of one that holds others, as
    ``if`` and ``for``, its head alone."""
    spans = []
    for node in ast.walk(ast.parse(code)):
        if isinstance(node, ast.stmt):
            inner = [n.lineno for n in ast.iter_child_nodes(node) if isinstance(n, ast.stmt)]
            end = min([*(n - 1 for n in inner), node.end_lineno or node.lineno])
            spans.append((node.lineno, max(end, node.lineno)))
    around = [(start, end) for start, end in spans if start <= line <= end]
    return min(around, key=lambda span: span[1] - span[0], default=(line, line))


def run(copy: Path, command: Sequence[str], limit: float) -> int:
    """What a command in a copy ends with, or -1 where it takes longer than ``limit`` seconds or
    more memory than 6 GB."""
    url = os.environ["DATABASE_URL"].rpartition("/")[0]
    with subprocess.Popen(
        [str(ROOT / ".venv/bin/python"), "-B", *command],
        cwd=copy,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
        env={
            **os.environ,
            "NIMBLE_PRISM_VAR": str(copy / "var"),
            "DATABASE_URL": f"{url}/{copy.parent.name}",
            "DJANGO_ALLOW_ASYNC_UNSAFE": "true",
        },
        preexec_fn=lambda: resource.setrlimit(resource.RLIMIT_DATA, (6 << 30, 6 << 30)),
    ) as process:
        try:
            return process.wait(limit)
        except subprocess.TimeoutExpired:
            os.killpg(process.pid, 9)
            return -1


def measured(copies: Sequence[Path], tests: Sequence[Sequence[str]]) -> Runs:
    """Runs the unchanged tests, or reads what such a run has written. Ends the program where they fail."""
    state = hashlib.sha256(repr(tests).encode())
    for file in sorted(copies[0].rglob("*")):
        if file.suffix in (".py", ".html", ".json", ".css") and not file.is_symlink():
            state.update(file.read_bytes())
    kept = (
        Path(os.environ.get("NIMBLE_PRISM_VAR", ROOT / "var"))
        / f"lines-{state.hexdigest()[:16]}.json"
    )
    if not kept.exists():
        parts = [copy / "var" / "lines.json" for copy in copies]

        def measure(copy: Path, part: Path, tests: Sequence[str]) -> int:
            return run(copy, ["-m", "bench.test_lines", str(part), *tests], _LONGEST)

        with ThreadPoolExecutor(len(tests)) as pool:
            ends = list(pool.map(measure, copies, parts, tests))
        if -1 in ends:
            sys.exit(f"The tests take longer than {_LONGEST} seconds without any change.")
        if any(ends):
            sys.exit("The tests fail without any change.")
        made = [json.loads(part.read_text()) for part in parts[: len(tests)]]
        kept.write_text(json.dumps(_joined(made)))
    return Runs(**json.loads(kept.read_text()))


def _joined(parts: Sequence[dict[str, Any]]) -> dict[str, Any]:
    lines: dict[str, dict[str, list[str]]] = {}
    for part in parts:
        for file, by_line in part["lines"].items():
            for line, classes in by_line.items():
                lines.setdefault(file, {}).setdefault(line, []).extend(classes)
    return {
        "seconds": {name: value for part in parts for name, value in part["seconds"].items()},
        "lines": lines,
    }


def noticed(copy: Path, mutant: Mutant, tests: Sequence[str], limit: float) -> bool:
    """Whether one of the tests fails with the change, or they do not come to an end in time."""
    target = copy / mutant.file
    original = target.read_text()
    target.write_text(mutant.text)
    command = ["manage.py", "test", "--failfast", "--keepdb", "--no-input", "--verbosity", "0"]
    try:
        return bool(tests) and run(copy, [*command, *tests], limit) != 0
    finally:
        target.write_text(original)


def main() -> int:
    parser = argparse.ArgumentParser(prog="./dev mutate", description=__doc__.split("\n")[0])
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--count", type=int, default=30)
    parser.add_argument(
        "--workers", type=int, default=0, help="at once; a processor each if left out"
    )
    parser.add_argument("--tests", nargs="+", help="the tests that are to notice; all if left out")
    parser.add_argument("paths", nargs="*", default=["prism"])
    asked = parser.parse_args()
    files = sorted(
        str(file.relative_to(ROOT))
        for path in asked.paths
        for file in ([ROOT / path] if path.endswith(".py") else (ROOT / path).rglob("*.py"))
        if "migrations" not in file.parts
    )
    if not files or any(not file.startswith(("prism/", "studio/")) for file in files):
        parser.error("Name files or folders of prism or studio.")
    chosen = mutants(files, random.Random(asked.seed))
    chosen = [next(chosen) for _ in range(asked.count)]
    tests = (tuple(asked.tests),) if asked.tests else _TESTS
    workers = max(asked.workers or os.cpu_count() or 1, len(tests))
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(workers) as pool:
        copies: queue.Queue[Path] = queue.Queue()
        for number in range(workers):
            copies.put(copied(Path(folder) / f"mutants{number}"))
        runs = measured(list(copies.queue), tests)
        limit = 3 * sum(runs.seconds.values()) + 30
        print(f"{len(files)} files, tests of {limit / 3 - 10:.0f} s", file=sys.stderr)

        def survives(numbered: tuple[int, Mutant]) -> bool:
            number, mutant = numbered
            copy = copies.get()
            killed = noticed(copy, mutant, runs.tests_of(mutant), limit)
            copies.put(copy)
            outcome = "noticed" if killed else "SURVIVES"
            place = f"{mutant.file}:{mutant.line} {mutant.operator}"
            print(f"{number} {outcome} {place}", file=sys.stderr, flush=True)
            return not killed

        fates = list(pool.map(survives, enumerate(chosen, 1)))
    survivors = [mutant for mutant, alive in zip(chosen, fates, strict=True) if alive]
    print(f"{asked.count - len(survivors)} of {asked.count} noticed, seed {asked.seed}.\n")
    print("| Place | Change | Was | Became | Classes of tests that run it |")
    print("|---|---|---|---|---|")
    for mutant in survivors:
        run_by = len(runs.tests_of(mutant))
        change = f"`{mutant.before}` | `{mutant.after}`"
        print(f"| {mutant.file}:{mutant.line} | {mutant.operator} | {change} | {run_by} |")
    return 0


if __name__ == "__main__":
    sys.exit(main())
