"""How soon a picked mode is seen: a scene of 1,500 elements and 600 custom properties in one frame and in six, and what
Chromium alone takes for the same page. Run with ``python -m bench.stage``; writes docs/benchmarks-stage.md."""

from __future__ import annotations

import itertools
import os
import statistics
from pathlib import Path

import django
from playwright.sync_api import sync_playwright

from demo import quillhaven
from demo.chromium import launch
from prism.analysis import Analysis
from prism.formats import css, scene_css
from prism.roles.by_slot import SLOTS
from studio.rooms.stage import library

_STATIC = Path(library.__file__).parent / "static" / "stage"
_ROUNDS = 9
_SWITCH = """async (mode) => {
  const frames = [...document.querySelectorAll("iframe")].map((one) => one.contentDocument.documentElement);
  const start = performance.now();
  for (const root of frames.length ? frames : [document.documentElement]) root.setAttribute("data-appearance", mode);
  await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
  return performance.now() - start;
}"""


def page(analysis: Analysis, *, bare: bool = False) -> str:
    """A scene of about 1,500 elements; ``bare`` has the same rules without our custom properties of slots."""
    document = analysis.document
    inner = "".join(
        library.markup(name, "Bench").replace("<body", "<div") for name in ("crew", "parts")
    )
    count = max(1, round(1500 / (inner.count("<") / 2)))
    sheets = [css.write(document), (_STATIC / "scene.css").read_text()]
    if not bare:
        sheets += [
            (_STATIC / "slots.css").read_text(),
            scene_css.write(document, analysis.bindings, SLOTS),
        ]
    filler = "".join(f"--fill-{n}: {n}px;" for n in range(max(0, 600 - len(document.tokens))))
    sheets.append(f":root {{ {filler} }}")
    root = "".join(
        f' {k}="{v}"'
        for k, v in css.root_attributes(document, analysis.resolver.default_theme).items()
    )
    return f"<!doctype html><html{root}><head><style>{' '.join(sheets)}</style></head><body data-fill=page>{inner * count}</body></html>"


def main() -> None:
    """Measure, write, and print the table."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings")
    django.setup()
    analysis = Analysis(quillhaven.document())
    ours, bare = page(analysis), page(analysis, bare=True)
    rows = []
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for words, text, frames in (
            ("one frame", ours, 1), ("six frames", ours, 6), ("Chromium alone, one frame", bare, 1),
            ("Chromium alone, six frames", bare, 6),
        ):  # fmt: skip
            tab = browser.new_page(viewport={"width": 1280, "height": 800})
            tab.set_content(
                "<style>iframe{width:400px;height:380px}</style>"
                + '<iframe sandbox="allow-same-origin"></iframe>' * frames
            )
            opened = tab.evaluate(
                """async (text) => {
                  const start = performance.now();
                  await Promise.all([...document.querySelectorAll("iframe")].map((one) => new Promise((done) => {
                    one.addEventListener("load", done); one.srcdoc = text; })));
                  await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
                  return performance.now() - start; }""",
                text,
            )
            count = tab.evaluate(
                "document.querySelector('iframe').contentDocument.querySelectorAll('*').length"
            )
            modes = itertools.cycle(("dark", "light", "dim"))
            times = [tab.evaluate(_SWITCH, next(modes)) for _ in range(_ROUNDS)]
            rows.append((words, count, opened, statistics.median(times), max(times)))
            tab.close()
        browser.close()
    lines = [
        "# The Stage, measured in Chromium", "",
        "A scene of about 1,500 elements and 600 custom properties; from the pick of a mode to the next painted frame, "
        f"the median and the slowest of {_ROUNDS}. “Chromium alone” has the tokens and no slots.", "",
        "| | elements | opened, ms | switched, ms | slowest, ms |", "| --- | --: | --: | --: | --: |",
        *(f"| {words} | {count} | {opened:.0f} | {middle:.0f} | {most:.0f} |" for words, count, opened, middle, most in rows),
    ]  # fmt: skip
    Path("docs/benchmarks-stage.md").write_text("\n".join(lines) + "\n")
    print("\n".join(lines))


if __name__ == "__main__":
    main()
