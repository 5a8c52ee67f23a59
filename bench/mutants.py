"""Small changes of the code, by a seed, and whether the tests notice them.

    ./dev mutate [--seed N] [--count N] [PATH...]

The changes are those of cosmic-ray's operators, but for such that mean nothing, as in annotations.
A copy of the checkout is changed, never the checkout. Changes of ``prism`` are held against the tests
of the core, those of ``studio`` against the tests of the core and of the web application.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path

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
_TESTS = {"prism": ("tests.core",), "studio": ("tests.core", "tests.studio")}


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
    """Takes off what no run depends on: annotations and docstrings."""

    def visit(self, node: ast.AST) -> ast.AST:
        for name in ("annotation", "returns"):
            if getattr(node, name, None) is not None:
                setattr(node, name, ast.Constant(0))
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


def noticed(copy: Path, tests: Sequence[str], limit: float) -> bool:
    """Whether some test fails, or they do not come to an end in time."""
    command = [str(ROOT / ".venv/bin/python"), "-B", "manage.py", "test", "--failfast"]
    command += [
        "--parallel",
        os.environ.get("NIMBLE_PRISM_PARALLEL", "auto"),
        "--verbosity",
        "0",
        *tests,
    ]
    with subprocess.Popen(
        command,
        cwd=copy,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
        env={**os.environ, "NIMBLE_PRISM_VAR": str(copy / "var")},
    ) as run:
        try:
            return run.wait(limit) != 0
        except subprocess.TimeoutExpired:
            os.killpg(run.pid, 9)
            return True


def main() -> int:
    parser = argparse.ArgumentParser(prog="./dev mutate", description=__doc__.split("\n")[0])
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--count", type=int, default=30)
    parser.add_argument("paths", nargs="*", default=["prism"])
    asked = parser.parse_args()
    files = sorted(
        str(file.relative_to(ROOT))
        for path in asked.paths
        for file in ([ROOT / path] if path.endswith(".py") else (ROOT / path).rglob("*.py"))
        if "migrations" not in file.parts
    )
    tests = next(
        (_TESTS[top] for top in ("studio", "prism") if any(f.startswith(top) for f in files)), None
    )
    if not tests:
        parser.error("Name files or folders of prism or studio.")
    survivors = []
    with tempfile.TemporaryDirectory() as folder:
        copy = copied(Path(folder))
        start = time.monotonic()
        if noticed(copy, tests, 3600):
            sys.exit("The tests fail without any change.")
        limit = 3 * (time.monotonic() - start) + 30
        print(
            f"{len(files)} files, tests of {limit / 3 - 10:.0f} s, seed {asked.seed}",
            file=sys.stderr,
        )
        chosen = mutants(files, random.Random(asked.seed))
        for number in range(1, asked.count + 1):
            mutant = next(chosen)
            target = copy / mutant.file
            original = target.read_text()
            target.write_text(mutant.text)
            killed = noticed(copy, tests, limit)
            target.write_text(original)
            said = "noticed" if killed else "SURVIVES"
            print(
                f"{number} {said} {mutant.file}:{mutant.line} {mutant.operator}",
                file=sys.stderr,
                flush=True,
            )
            if not killed:
                survivors.append(mutant)
    print(f"{asked.count - len(survivors)} of {asked.count} noticed, seed {asked.seed}.\n")
    print("| Place | Change | Was | Became |\n|---|---|---|---|")
    for one in survivors:
        print(f"| {one.file}:{one.line} | {one.operator} | `{one.before}` | `{one.after}` |")
    return 0


if __name__ == "__main__":
    sys.exit(main())
