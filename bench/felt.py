"""How soon a click is felt: from the click to the picture that answers it, in Chromium, with the bytes that came.

    .venv/bin/python -m bench.felt [--before CHECKOUT] [--rounds N] [--write]

Serves the demo and a document of 2,000 tokens in 4 modes, from this checkout and, in turn, from the one before.
Each figure is from the click to the second frame after the page shows what was asked for. Writes ``docs/felt.md``.
"""

from __future__ import annotations

import argparse
import contextlib
import re
import statistics
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from tempfile import mkdtemp
from typing import Any

from playwright.sync_api import Page, sync_playwright

from bench import machine
from bench.drills import Demo
from bench.visitor import Visitor
from demo.chromium import launch

HERE = Path(__file__).parent.parent
TABLE = HERE / "docs" / "felt.md"
ROUNDS = 9
#: Milliseconds in which a person reads what a typed value changes.
READ = 800
#: Milliseconds that a click may take at the median; twice that 95 times of 100.
ASKED = {"room to room": 120}
USUAL = 60
#: Clicks an element, and resolves when the page shows what was asked for and has been painted.
_FELT = """async ([selector, wanted, typed, key]) => {
  const element = document.querySelector(selector);
  if (!element) throw new Error("nothing to click: " + selector);
  performance.clearResourceTimings();
  const region = document.querySelector("np-region");
  const before = location.href + region.querySelector("[data-revision]").dataset.revision;
  let swapped = false;
  region.addEventListener("np-region-swapped", () => (swapped = true), { once: true });
  const start = performance.now();
  if (typed !== null) { element.focus(); element.value = typed; element.dispatchEvent(new Event("input", { bubbles: true })); }
  else if (key) element.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
  else element.click();
  const frame = () => new Promise(requestAnimationFrame);
  while (!(swapped && (!wanted || document.querySelector(wanted)))) {
    await frame();
    if (performance.now() - start > 20000) throw new Error("nothing came: " + wanted);
  }
  await frame(); await frame();
  const took = performance.now() - start;
  const bytes = performance.getEntriesByType("resource").reduce((sum, one) => sum + one.transferSize, 0);
  return [took, bytes];
}"""


@dataclass
class Act:
    """Something that a person does, and what came of it: milliseconds and bytes."""

    name: str
    begin: str
    click: Callable[[Page], str]
    wanted: str = ""
    typed: str | None = None
    took: list[float] = field(default_factory=list)
    sent: list[int] = field(default_factory=list)


def acts() -> Iterator[Act]:
    """What is measured: where it begins, what is clicked, and what is there then."""
    first = "a.cell[data-token]"
    yield Act("room to room", "tokens/", lambda page: "#room-4", ".route #room-4[aria-current]")
    yield Act("cell opened", "tokens/", lambda page: _nth(page, first, 9), "#cell-form")
    yield Act(
        "cell stored",
        "tokens/?cell={cell}",
        lambda page: "#cell-form [type=submit]",
        "#cell-form",
    )
    yield Act(
        "another mode, sheet",
        "tokens/",
        lambda page: ".themebar a:not([aria-current])",
        "#sheet-body",
    )
    yield Act(
        "another mode, stage", "stage/", lambda page: ".themebar a:not([aria-current])", "np-stage"
    )
    yield Act(
        "pairing opened",
        "checks/",
        lambda page: _nth(
            page, "tr[data-row] .need a.linkish, tr[data-pairing] .need a.linkish", 5
        ),
        "section.dock",
    )
    yield Act(
        "swatch opened",
        "palette/",
        lambda page: _nth(page, "a[href*='swatch=']", 5),
        "section.dock",
    )
    yield Act("find", "tokens/", lambda page: "#find", "#sheet-body", "surface")
    yield Act("undo", "tokens/", lambda page: "#undo", "#redo:not([disabled])")
    yield Act("rules used", "checks/", lambda page: "#pair-by-rule button", "tr[data-row]")


def _nth(page: Page, selector: str, number: int) -> str:
    """A selector of the n-th element that another finds, or of the last; empty where there is none."""
    found = page.evaluate(
        "([s, n]) => { const all = [...document.querySelectorAll(s)];"
        " all.slice(0, n + 1).at(-1)?.setAttribute('data-felt', ''); return all.length; }",
        [selector, number],
    )
    return "[data-felt]" if found else ""


def measure(page: Page, start: str, cell: str, act: Act) -> None:
    """Do something once, and keep how long it took."""
    page.goto(start + act.begin.format(cell=cell))
    page.wait_for_load_state("networkidle")
    if act.name == "cell stored":  # the preview of what was typed is read before it is stored
        page.fill("#value", "#4a5568" if page.input_value("#value") != "#4a5568" else "#4a5569")
        page.wait_for_timeout(READ)
    target = act.click(page)
    if not target:  # no pairing is there before rules have made some
        return
    took, sent = page.evaluate(_FELT, [target, act.wanted, act.typed, ""])
    act.took.append(took)
    act.sent.append(sent)
    if act.name == "rules used":  # all else is measured without their pairings
        page.evaluate(_FELT, ["#undo", "", None, ""])


@contextlib.contextmanager
def served(checkout: Path) -> Iterator[tuple[Demo, list[tuple[str, str, str]]]]:
    """A demo of a checkout with the large document beside it: name, address and a cell of each project."""
    folder = Path(mkdtemp(prefix="prism-felt-", dir="/var/tmp"))
    folder.chmod(0o755)
    demo = Demo(folder, checkout)
    try:
        visitor = Visitor(demo.port, 60)
        visitor.enter()
        small = visitor.code, visitor.keys[3]
        code, key = large(visitor)
        start = f"http://127.0.0.1:{demo.port}/p/"
        yield (
            demo,
            [
                ("demo", f"{start}{small[0]}/", f"{small[1]}:"),
                ("2,000 tokens in 4 modes", f"{start}{code}/", f"{key}:"),
            ],
        )
    finally:
        demo.stop()


def large(visitor: Visitor) -> tuple[str, str]:
    """A project of 2,000 tokens in 4 modes, imported as a style sheet; its code and a token in it."""
    modes = ("light", "dark", "dim", "high")
    sheet = []
    for place, mode in enumerate(modes):
        selector = ":root" if not place else f'[data-theme="{mode}"]'
        rows = "".join(
            f"--{('surface', 'text', 'border', 'action')[n % 4]}-{n}: "
            f"#{(n * 7919 + place * 104729) % 0xFFFFFF:06x};"
            for n in range(2000)
        )
        sheet.append(f"{selector} {{ {rows} }}")
    fields = {"into": "new", "name": "Large", "text": "\n".join(sheet)}
    visitor.ask(f"/p/{visitor.code}/exchange/import", fields)
    _, _, text = visitor.ask("/projects/")
    codes = dict.fromkeys(re.findall(r"/p/([0-9a-f]+)/", text))
    other = next(code for code in codes if code != visitor.code)
    visitor.code = other
    visitor.look()
    return other, visitor.keys[3]


def main() -> None:
    """Measure, in turn where there is a checkout before, and print or write the table."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--before", type=Path)
    parser.add_argument("--rounds", type=int, default=ROUNDS)
    parser.add_argument("--write", action="store_true")
    asked = parser.parse_args()
    checkouts = {"after": HERE} | ({"before": asked.before} if asked.before else {})
    results: dict[tuple[str, str], list[Act]] = {}
    with contextlib.ExitStack() as stack:
        playwright = stack.enter_context(sync_playwright())
        browser = launch(playwright)
        pages: dict[str, tuple[Page, Any]] = {}
        for name, checkout in checkouts.items():
            _, projects = stack.enter_context(served(checkout))
            page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
            pages[name] = page, projects
            for project, *_ in projects:
                results[name, project] = list(acts())
        for _ in range(asked.rounds):
            for name, (page, projects) in pages.items():
                for project, start, cell in projects:
                    for act in results[name, project]:
                        try:
                            measure(page, start, cell, act)
                        except (
                            Exception
                        ) as error:  # what cannot be done is said, and the rest measured
                            print(name, project, act.name, str(error).splitlines()[0], flush=True)
        browser.close()
    text = table(results)
    print(text)
    if asked.write:
        machine.write(TABLE, text)


def table(results: dict[tuple[str, str], list[Act]]) -> str:
    """The figures as Markdown."""
    factor = machine.factor()
    lines = [
        "# How soon a click is felt",
        "",
        "Made by `python -m bench.felt`. From the click to the second frame after the page shows what "
        "was asked for, in Chromium on the same machine, in milliseconds; bytes are those that came. "
        "Times are of this machine; in brackets, as on the one for which they are asked, in proportion to the loop.",
        "",
        "| document | what | checkout | median | 95 of 100 | bytes | asked |",
        "| --- | --- | --- | --- | --- | --- | --- |",
    ]
    for (name, project), done in results.items():
        for act in done:
            if not act.took:
                continue
            late = sorted(act.took)[min(len(act.took) - 1, int(len(act.took) * 0.95))]
            middle = statistics.median(act.took)
            lines.append(
                f"| {project} | {act.name} | {name} | {middle:.0f} ({middle / factor:.0f}) | {late:.0f} "
                f"({late / factor:.0f}) | {statistics.median(act.sent) / 1000:.1f} kB | {ASKED.get(act.name, USUAL)} |"
            )
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    main()
