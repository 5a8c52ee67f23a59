"""How long a whole audit takes: 2,000 tokens and 2,000 pairings in 288 themes, cold and after one edit; and the room of
the checks over it. Run with ``./dev with-database -m bench.audit``; writes docs/benchmarks-audit.md."""

from __future__ import annotations

import gc
import os
import statistics
import time
from collections.abc import Callable
from pathlib import Path

import django

_ROUNDS = 5


def main() -> None:
    """Measure, write, and print the table."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings")
    django.setup()
    from django.contrib.auth import get_user_model
    from django.core.management import call_command
    from django.test import Client
    from django.urls import reverse

    from bench import documents
    from prism.analysis import Analysis
    from prism.changes.values import set_value
    from prism.model.values import BASE, Expression
    from prism.reports.report import report
    from studio.store import projects as store

    built = documents.document(2000, 2000)
    color = next(token for token in built.tokens if token.type == "color" and token.tier == "raw")
    before = Analysis(built)
    made = report(before)
    gc.collect()
    gc.freeze()  # as the server and the command line do
    gc.set_threshold(20_000, 20, 20)
    results = sum(len(short) for short in before.failing.values())
    changed = [set_value(built, color.key, BASE, Expression(f"#12345{n}")) for n in range(_ROUNDS)]
    rows = [
        ("all checks, cold", 1000, _timed([lambda: report(Analysis(built))] * _ROUNDS)),
        ("contrast alone, cold", 1000, _timed([lambda: Analysis(built).failing] * _ROUNDS)),
        ("all checks after one edit", 100,
         _timed([lambda one=one: report(Analysis(one, before)) for one in changed])),  # type: ignore[misc]
    ]  # fmt: skip
    call_command("migrate", verbosity=0)
    user = get_user_model().objects.create_user("bench")
    project = store.create(user, built)
    client = Client()
    client.force_login(user)
    short = next(iter(before.failing))
    for words, name, query in (
        ("the room of contrast", "checks:room", ""),
        ("a pairing that falls short, with its fixes", "checks:room", f"?pairing={short}"),
        ("all findings", "findings:room", ""),
        ("hygiene", "findings:room", "?section=hygiene"),
    ):
        url = reverse(name, args=[project.code]) + query
        client.get(url)
        most = 2000 if short in query else 500
        rows.append((words, most, _timed([lambda url=url: client.get(url)] * _ROUNDS)))  # type: ignore[misc]
    lines = [
        "# Audits, measured",
        "",
        f"2,000 tokens, 2,000 pairings, 288 themes: {len(made.items):,} findings, "
        f"{results:,} parts of themes in which a pairing falls short. Medians of {_ROUNDS}, one core.",
        "",
        "| | ms | at most |",
        "| --- | --: | --: |",
        *(f"| {words} | {took * 1000:.0f} | {most} |" for words, most, took in rows),
    ]
    Path("docs/benchmarks-audit.md").write_text("\n".join(lines) + "\n")
    print("\n".join(lines))


def _timed(runs: list[Callable[[], object]]) -> float:
    """The median of some runs, in seconds."""
    times = []
    for run in runs:
        gc.collect()
        started = time.perf_counter()
        run()
        times.append(time.perf_counter() - started)
    return statistics.median(times)


if __name__ == "__main__":
    main()
