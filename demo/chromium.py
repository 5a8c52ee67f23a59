"""Debian's Chromium without a window: the one browser of pictures, benches and tests."""

from __future__ import annotations

from playwright.sync_api import Browser, Playwright

#: Chromium alone: the usual package makes a whole window, with its own pages, for each new context.
PATH = "/usr/bin/chromium-headless-shell"
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
]


def launch(playwright: Playwright) -> Browser:
    """A browser that speaks to nobody but the pages it is given."""
    return playwright.chromium.launch(executable_path=PATH, args=ARGUMENTS)
