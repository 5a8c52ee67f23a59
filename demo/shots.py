"""Takes one picture of each main view of the demo project, for the README.

Expects an empty database in DATABASE_URL; serves the demo on a free port of loopback
meanwhile.
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import django
from django.core.management import call_command

from demo.chromium import launch
from demo.serving import served

#: What is typed where a project begins.
_COLORS = "teal #0b6e75, plum #7a3b69, straw #e0b13c"

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"
#: Name, path within the project, chrome.
VIEWS = (
    ("palette", "palette/?ramp=spruce", "light"),
    ("palette-retune", "palette/?ramp=brine&view=tune", "light"),
    ("palette-picture", "palette/import/picture?picture={picture}", "light"),
    (
        "palette-ideas",
        "palette/ideas/?words=calm+harbor+at+dusk,+one+warm+light&held=accent:e8a343:lamp&idea=1",
        "light",
    ),
    ("palette-measures", "palette/measures/", "light"),
    ("tokens", "tokens/?theme=appearance:dark&cell=text.link:dark", "light"),
    ("tokens-ladder", "tokens/map/ladder?group=surface", "light"),
    ("tokens-names", "tokens/names/?scheme=parts", "light"),
    ("tokens-roles", "tokens/roles/", "light"),
    ("tokens-axes", "tokens/axes/", "light"),
    (
        "tokens-proposal",
        "tokens/axes/propose?axis=appearance&source=light&name=night&scheme=dark",
        "dark",
    ),
    ("stage", "stage/?at=66&zones=10=appearance:dark", "light"),
    ("stage-dark-chrome", "stage/?scene=crew&theme=appearance:dark,brand:vexley", "dark"),
    ("checks", "checks/", "light"),
    ("checks-findings", "checks/findings/?finding=literal+signal.hold", "light"),
    ("checks-vision", "checks/vision/?pair=signal.wait+signal.stop", "dark"),
    ("checks-balance", "checks/balance/?token=highlight.fill&brand=vexley", "mid"),
    ("exchange", "exchange/", "light"),
)


def main() -> None:
    """Load, serve, take the pictures, stop."""
    django.setup()
    call_command("migrate", verbosity=0)
    call_command("load_demo")
    call_command("collectstatic", verbosity=0, interactive=False)
    with served() as base:
        _take(base)


def _take(base: str) -> None:
    from playwright.sync_api import sync_playwright

    from studio.store.models import Project

    project = Project.objects.get()
    code, picture = project.code, project.pictures.get().code
    FOLDER.mkdir(parents=True, exist_ok=True)
    with sync_playwright() as playwright:
        browser = launch(playwright)
        _begin(browser, base)
        for name, path, chrome in VIEWS:
            context = browser.new_context(viewport={"width": 1280, "height": 800})
            context.add_cookies([{"name": "chrome", "value": chrome, "url": base}])
            page = context.new_page()
            page.goto(f"{base}/p/{code}/{path.format(picture=picture)}")
            page.wait_for_load_state("networkidle")
            page.screenshot(path=FOLDER / f"{name}.png")
            context.close()
            print(f"docs/screenshots/{name}.png")
        browser.close()


def _begin(browser: Any, base: str) -> None:
    """Where a project begins, with colors typed."""
    page = browser.new_page(viewport={"width": 1280, "height": 800})
    page.goto(f"{base}/projects/new")
    page.fill("#id_name", "Copper Lane")
    page.fill("#id_more", _COLORS)
    page.keyboard.press("Tab")
    page.locator("#preview-ramps", has_text="straw").wait_for()
    page.wait_for_timeout(2000)
    page.screenshot(path=FOLDER / "start.png")
    page.close()
    print("docs/screenshots/start.png")


if __name__ == "__main__":
    main()
