"""Do the jobs, count, prove, and write ``docs/jobs.md``; ``--json`` prints the figures instead."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import django
from django.core.management import call_command

from bench import machine

PAGE = Path(__file__).resolve().parents[2] / "docs" / "jobs.md"
#: Why a control is not among the first three of its room.
_WHY = {
    "#id_more": "after the name, and the first field with colors",
    "#create": "the end of the form; Enter does the same from any field",
    "#tab-axes": "the last of the parts of Tokens",
    "#tab-link": "the third part of Tokens, after their title",
    "#export-css": "after the import, which comes first in an empty project",
    "#add-brand": "after the parts of Tokens",
    "#propose-dark": "after the parts of Tokens",
    "#take-mode": "below the rows that are reviewed",
    "#store-links": "after the parts of Tokens",
    "#select-near": "beside Link selected",
    "#add-brand-button": "after what is typed",
    "#matrix td.need a.small-btn": "in the first row of the matrix",
    "#fixes button": "first of the panel, below the matrix",
    "#read-button": "after the file",
    "#take-roles": "below what is proposed",
    "#begin-picture": "beside the other ways to begin",
    "a.project-name": "after New project and what it begins with",
    "awning.png": "the file is chosen in the dock, below what is there",
    '.room-links a:text-is("Checks")': "the rooms of a project stand in the order of the work",
    '.room-links a:text-is("Stage")': "the rooms of a project stand in the order of the work",
}


def main() -> int:
    """Exit with 1 where a job takes more than it may, or is not proved."""
    django.setup()
    from django.contrib.auth.models import User
    from playwright.sync_api import sync_playwright

    from bench.jobs.hand import Hand, slow
    from bench.jobs.proofs import NotDoneError
    from bench.jobs.work import JOBS
    from demo.chromium import launch
    from demo.serving import served
    from studio.accounts.demo import DEMO_DESIGNER

    call_command("migrate", verbosity=0)
    call_command("collectstatic", verbosity=0, interactive=False)
    owner = User.objects.create_user(DEMO_DESIGNER)
    rows = []
    with served() as base, sync_playwright() as playwright:
        browser = launch(playwright)
        for job in JOBS:
            context = browser.new_context(viewport={"width": 1280, "height": 800})
            page = context.new_page()
            slow(page)
            hand = Hand(page, base)
            try:
                outcome = job.do(hand, owner)
            except NotDoneError as error:
                outcome = f"NOT DONE: {error}"
            rows.append((job, hand.actions, outcome))
            print(f"{job.id}: {len(hand.actions)} of {job.most}: {outcome}", file=sys.stderr)
            context.close()
        browser.close()
    if "--json" in sys.argv:
        print(json.dumps([_plain(*row) for row in rows], indent=2))
    else:
        machine.write(PAGE, _page(rows))
    return int(any(len(a) > job.most or "NOT DONE" in out for job, a, out in rows))


def _plain(job, actions, outcome):
    return {
        "job": job.id,
        "title": job.title,
        "at most": job.most,
        "actions": [f"{a.kind} {a.what}" for a in actions],
        "places": [a.place for a in actions if a.place],
        "outcome": outcome,
    }


def _page(rows) -> str:
    """The page of the documentation."""
    lines = [
        "# Jobs, counted",
        "",
        "Made by `./dev jobs`. Each job starts on the list of projects, on data that is not the demo's, with 150 ms to",
        "the server and back. A click, a typed value, a key and a choice are one action each.",
        "",
        "| job | at most | counted | proved |",
        "| --- | --- | --- | --- |",
    ]
    lines += [f"| {j.id} {j.title} | {j.most} | {len(a)} | {out} |" for j, a, out in rows]
    lines += ["", "## The next control", ""]
    placed = [(job, a) for job, actions, _ in rows for a in actions if a.place]
    first = sum(a.place <= 3 for _, a in placed)
    lines += [
        f"{first} of {len(placed)} controls that were used are among the first three of their room in reading order.",
        "The others:",
        "",
        "| job | control | place | why |",
        "| --- | --- | --- | --- |",
    ]
    lines += [
        f"| {job.id} | `{a.what}` | {a.place} | {_WHY.get(a.what, '')} |"
        for job, a in placed
        if a.place > 3
    ]
    lines += ["", "## What was done", ""]
    for job, actions, _ in rows:
        done = "; ".join(f"{a.kind} `{a.what}`" for a in actions)
        lines.append(f"- {job.id}: {done}")
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    raise SystemExit(main())
