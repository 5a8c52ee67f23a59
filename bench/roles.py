"""How good guesses of roles are on documents with a key by hand, and how sure the sure ones may be called.

    .venv/bin/python -m bench.roles [--write]

Every document is left out in turn: whether a reason counts as sure is decided by the others alone. Writes
``docs/roles-measured.md``.
"""

from __future__ import annotations

import argparse
import subprocess
import sys
import tempfile
import time
from collections import Counter, defaultdict
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import partial
from pathlib import Path

from bench import documents, machine
from demo import quillhaven
from prism.analysis import Analysis
from prism.formats import files, style_sheets
from prism.model.document import Rule
from prism.resolution.resolver import Resolver
from prism.roles import rules
from prism.roles.guess import guess
from prism.sheet import word_view
from tests import asked, needed, roles
from tests.builders import counter_keys

PAGE = Path(__file__).parents[1] / "docs" / "roles-measured.md"
#: A reason counts as sure from this share of right guesses on, among at least so many in the other documents.
SHARE, LEAST = 0.98, 10
_ABOUT = """# Roles, measured

Made by `python -m bench.roles`, over the documents of `tests/data/roles`, each with a key by hand. “Sure” is what the
product calls sure today; “fitted” calls a guess sure where, in all documents but its own, at least {share} of 100 guesses
for its reason were right, and there were {least} of them. Many rules were taught by these very documents, so guesses on
documents that nobody has seen are worse; docs/roles.md has what first runs came to.
"""
_ASKED = """## Asked by word

Documents whose words no rule was taught (`tests/data/roles/untaught`), answered by a person who has the key and gives
the meaning that makes most colors right. “Right” is the whole role, its state too. The last has names without words: it
is asked about token by token.
"""


@dataclass(frozen=True)
class Row:
    """A color of a document: for what reason it was guessed, and how that came out. No reason: unknown."""

    document: str
    reason: str
    sure: bool
    right: bool


def rows() -> Iterator[Row]:
    """Every color that has a key."""
    for name in roles.names():
        keyed = roles.read(name)
        guesses = guess(keyed.document, Resolver(keyed.document))
        for path, wanted in keyed.roles.items():
            token = keyed.document.token_at(path)
            known = guesses.get(token.key) if token else None
            if known is None or known.role.kind == "unknown":
                yield Row(name, "", sure=False, right=False)
            else:
                reason = f"{known.why} ({known.sure})"
                yield Row(name, reason, known.is_sure, str(known.role) == wanted)


def fitted(every: Sequence[Row], left_out: str) -> set[str]:
    """The reasons that count as sure by all documents but one."""
    counted: dict[str, Counter[bool]] = defaultdict(Counter)
    for row in every:
        if row.document != left_out and row.reason:
            counted[row.reason][row.right] += 1
    return {
        reason
        for reason, of in counted.items()
        if of.total() >= LEAST and of[True] >= SHARE * of.total()
    }


def figures(every: Iterable[Row], sure_reasons: set[str]) -> Counter[str]:
    """What came out for some rows."""
    counted: Counter[str] = Counter()
    for row in every:
        counted["colors"] += 1
        counted["right" if row.right else "wrong" if row.reason else "unknown"] += 1
        for kind, sure in (("sure", row.sure), ("fitted", row.reason in sure_reasons)):
            counted[kind] += sure
            counted[f"{kind} and wrong"] += sure and not row.right
    return counted


def table(every: Sequence[Row]) -> str:
    """The figures of each document, and of all reasons."""
    columns = (
        "colors",
        "right",
        "wrong",
        "unknown",
        "sure",
        "sure and wrong",
        "fitted",
        "fitted and wrong",
    )
    lines = [f"| document | {' | '.join(columns)} |", "| --- |" + " --: |" * len(columns)]
    total: Counter[str] = Counter()
    for name in roles.names():
        own = [row for row in every if row.document == name]
        counted = figures(own, fitted(every, name))
        total += counted
        lines.append(f"| {name} | " + " | ".join(str(counted[column]) for column in columns) + " |")
    lines.append("| **together** | " + " | ".join(str(total[column]) for column in columns) + " |")
    return "\n".join(lines)


def reasons(every: Sequence[Row]) -> str:
    """How often guesses for each reason are right, the most frequent first."""
    counted = Counter(row.reason for row in every if row.reason)
    right = Counter(row.reason for row in every if row.right)
    documents = {
        reason: len({row.document for row in every if row.reason == reason}) for reason in counted
    }
    lines = ["| reason (how sure) | guesses | right | documents |", "| --- | --: | --: | --: |"]
    lines += [
        f"| {reason} | {count} | {right[reason]} | {documents[reason]} |"
        for reason, count in counted.most_common()
    ]
    return "\n".join(lines)


def asked_table() -> str:
    """What a person who has the key answers, on documents whose words no rule was taught: questions, what is right
    and sure before the first and after the last, and after which question 97 of 100 that can be got are right."""
    columns = (
        "colors",
        "right before",
        "sure before",
        "questions",
        "right after",
        "sure after",
        "sure and wrong",
        "on offer",
    )
    lines = [f"| document | {' | '.join(columns)} |", "| --- |" + " --: |" * len(columns)]
    for name in roles.UNTAUGHT:
        keyed = roles.read(f"untaught/{name}")
        first, *rest = asked.steps(keyed)
        last = rest[-1] if rest else first
        offered = sum(step.offered for step in rest)
        cells = (
            len(keyed.roles), first.right, first.sure, len(rest), last.right, last.sure, last.wrong_and_sure, offered
        )  # fmt: skip
        lines.append(f"| {name} | " + " | ".join(map(str, cells)) + " |")
    return "\n".join(lines)


#: A design system whose parts each have surfaces of their own: its key does not say which text lies on which.
_UNSAID = ("three_hundred",)
_NEEDED = """## Pairings that people need

What the key says people need (`tests/needed.py`: texts on the surfaces that they can lie on, labels on every state of
their fill, icons, lines of controls, the focus on both sides, fills on the page), beside what all rules and the style
sheet itself make, before any answer; “for nobody”: judged, and needed by nobody. Left out: {left_out}, whose keys do
not say which text lies on which surface.
"""


def needed_table() -> str:
    """Needed pairings beside those that are judged, and which needs are missed most."""
    columns = ("needed", "missed", "known", "known, for nobody", "presumed", "presumed, for nobody")
    lines = [f"| document | {' | '.join(columns)} |", "| --- |" + " --: |" * len(columns)]
    total: Counter[int] = Counter()
    missed: Counter[str] = Counter()
    for name in roles.names(*roles.LARGE, *_UNSAID):
        keyed = roles.read(name)
        kept = tuple(Rule(rule.id, rule.id) for rule in rules.RULES)
        found = needed.compared(keyed, Analysis(replace(keyed.document, rules=kept)))
        cells = (
            found.needed, len(found.missed), found.known, len(found.known_false), found.presumed,
            len(found.presumed_false),
        )  # fmt: skip
        total += Counter(dict(enumerate(cells)))
        lines.append(f"| {name} | " + " | ".join(map(str, cells)) + " |")
        said = needed.said(keyed)
        missed += Counter(f"{said[above]} on {said[below]}" for above, below in found.missed)
    together = " | ".join(str(total[place]) for place in range(len(columns)))
    most = ", ".join(f"{what} ({count})" for what, count in missed.most_common(12))
    lines += [f"| **together** | {together} |", "", f"Missed most: {most}."]
    return "\n".join(lines)


def timed(work: Callable[[], object], rounds: int = 3) -> float:
    """The shortest of some rounds, in seconds."""
    taken = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        taken.append(time.perf_counter() - began)
    return min(taken)


def speed() -> str:
    """How long it takes to understand large documents, and to propose a mode for the demo by the command line."""
    built = documents.rooms(10_000)
    resolver = Resolver(built)
    known = guess(built, resolver)
    both = timed(lambda: guess(built, resolver)) + timed(lambda: rules.pairings(built, known))
    name = roles.SHEETS["package-bootstrap"]
    sheet = (roles.MODULES / name).read_bytes()
    reading = timed(lambda: style_sheets.read(sheet, "a.css", counter_keys()))
    kiosk = roles.read("untaught/kiosk").document
    words = timed(lambda: word_view.question(Analysis(kiosk), "", ()))
    with tempfile.TemporaryDirectory() as folder:
        demo = quillhaven.document()
        written, _ = files.write(demo, "design-tokens", Resolver(demo).default_theme)
        for member, text in written.items():
            (Path(folder) / member).write_text(text)
        plain = timed(partial(_proposed, folder, "--no-solve"))
        solved = timed(partial(_proposed, folder, "--solve"))
    return "\n".join(
        (
            "| what | seconds | at most |",
            "| --- | --: | --: |",
            f"| roles and pairings of 10,000 colors | {both:.2f} | 0.6 |",
            f"| a style sheet of {len(sheet) / 1000:.0f} kB with what it uses its colors for | {reading:.2f} | 2 |",
            f"| the first question about words of 114 colors, its answers tried | {words:.2f} | |",
            f"| a dark mode for the demo by the command line | {plain:.2f} | 1 |",
            f"| the same, solved | {solved:.2f} | 3 |",
        )
    )


def _proposed(folder: str, how: str) -> None:
    """A dark mode for the files of a folder, by the command line in a process of its own."""
    with tempfile.TemporaryDirectory() as made:
        about = ["--as", "dark", "--axis", "appearance", "--from", "light", "--name", "night", how]
        command = [sys.executable, "-m", "prism.cli", "propose", folder, *about, "-o", made]
        done = subprocess.run(command, capture_output=True, cwd=PAGE.parents[1])
        assert any(Path(made).iterdir()), done.stderr.decode()


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--write", action="store_true", help=f"write {PAGE.name}")
    every = list(rows())
    about = _ABOUT.format(share=round(SHARE * 100), least=LEAST)
    needs = _NEEDED.format(left_out=" and ".join((*roles.LARGE, *_UNSAID)))
    text = f"{about}\n{table(every)}\n\n{_ASKED}\n{asked_table()}\n\n{needs}\n{needed_table()}\n\n## Speed\n\n{speed()}\n\n## By reason\n\n{reasons(every)}\n"
    if parser.parse_args().write:
        machine.write(PAGE, text)
    print(text)


if __name__ == "__main__":
    main()
