"""Every scene in every theme of the demo: the contrast of each text as axe-core measures it and as the core says it.
Run with ``python -m bench.scenes``; writes docs/scenes-axe.md. Takes about a quarter of an hour."""

from __future__ import annotations

import os
import time
from pathlib import Path
from typing import Any

import django
from playwright.sync_api import Page, sync_playwright

_READ = """async (attributes) => {
  for (const [name, value] of Object.entries(attributes)) document.documentElement.setAttribute(name, value);
  const options = { runOnly: { type: "rule", values: ["color-contrast"] }, resultTypes: ["violations", "passes", "incomplete"] };
  const result = await axe.run(document, options);
  const found = [];
  for (const kind of ["passes", "violations"])
    for (const rule of result[kind])
      for (const node of rule.nodes) {
        const data = node.any.find((one) => one.id === "color-contrast").data;
        const texts = document.querySelector(node.target[0]).dataset.texts ?? "";
        if (texts && data.contrastRatio) found.push([+texts.split(" ")[0], data.contrastRatio]);
      }
  return { found, incomplete: result.incomplete.reduce((sum, rule) => sum + rule.nodes.length, 0) };
}"""


def main() -> None:
    """Measure, write, and print the table."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "studio.settings")
    django.setup()
    from demo import quillhaven
    from demo.chromium import launch
    from prism.analysis import Analysis
    from prism.roles.by_slot import SCENES
    from tests.browser.axe import SOURCE

    analysis = Analysis(quillhaven.document())
    rows = []
    with sync_playwright() as playwright:
        browser = launch(playwright)
        for name in SCENES:
            page = browser.new_page(viewport={"width": 1280, "height": 900})
            started = time.perf_counter()
            rows.append((name, *_scene(page, analysis, name, SOURCE.read_text())))
            print(name, rows[-1], f"{time.perf_counter() - started:.0f} s", flush=True)
            page.close()
        browser.close()
    lines = [
        "# Scenes in every theme, held against axe-core",
        "",
        f"Each scene in each of {analysis.resolver.theme_count} themes of the demo; axe-core 4.14 measures every text.",
        "",
        "| scene | texts measured | farthest apart | incomplete |",
        "| --- | --: | --: | --: |",
        *(
            f"| {name} | {texts:,} | {apart:.3f} | {share:.1%} |"
            for name, texts, apart, share in rows
        ),
    ]
    Path("docs/scenes-axe.md").write_text("\n".join(lines) + "\n")


def _scene(page: Page, analysis: Any, name: str, axe: str) -> tuple[int, float, float]:
    """How many texts were measured, how far the two lie apart at most, and the share that axe-core leaves open."""
    from prism.formats import css
    from prism.scenes.stage import Staged
    from studio.rooms.stage import library
    from tests import scene_pages

    scene = library.scene_of(name, analysis.document.name)
    page.set_content(scene_pages.page(analysis, name, copies=False))
    page.evaluate(axe + "; undefined")
    page.evaluate(scene_pages.NUMBER)
    texts, apart, incomplete = 0, 0.0, 0
    for theme in analysis.resolver.themes():
        result = page.evaluate(_READ, css.root_attributes(analysis.document, theme))
        staged = Staged(analysis, scene, theme)
        for run, ratio in result["found"]:
            ours = staged.ratio(scene.runs[run])
            apart = max(apart, abs((ours or 0.0) - ratio))
            texts += 1
        incomplete += result["incomplete"]
    return texts, apart, incomplete / max(texts + incomplete, 1)


if __name__ == "__main__":
    main()
