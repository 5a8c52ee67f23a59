"""A seeded walk over everything that can be pressed, in two tabs: for tests and, longer, by itself.

./dev with-database -m bench.walk [STEPS]
"""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import Any, TypeVar

T = TypeVar("T")

WIDTHS = (640, 768, 1024, 1280, 1920)
KEYS = (
    "1", "2", "3", "4", "6", "[", "]", "/", "t", "c", "?", "Escape", "Enter", "Tab", "Shift+Tab", "ArrowUp",
    "ArrowDown", "ArrowLeft", "ArrowRight", "Home", "End", "PageDown", "PageUp", "Control+Home", "Control+End",
    "Control+a", "Control+z", "Control+Shift+z", "Space", "Shift+Space", "Shift+ArrowDown", "Delete", "F2", "Control+d",
)  # fmt: skip
TEXTS = (
    "ink.3",
    "#246c54",
    "",
    "nothing-here",
    "{",
    "12",
    "²",
    "dim",
    "a b",
    "0.5",
    "calc(",
    "light, dark",
    "=1+1",
)
#: Sentences that would be false: the server answers, and nothing is out of date.
FALSE = (
    "There is no connection",
    "could not show the answer",
    "Something failed here",
    "The server failed",
)
_ROOMS = ("palette/", "tokens/", "stage/", "checks/", "exchange/", "tokens/axes/", "tokens/names/",
          "tokens/map/ladder", "tokens/map/link", "palette/measures/", "palette/import/", "palette/ideas/")  # fmt: skip

_CLICK = """one => one.click
  ? one.click() : one.dispatchEvent(new MouseEvent("click", { bubbles: true, cancelable: true }))"""

_VISIBLE = """() => [...document.querySelectorAll(
  "a[href], button, input:not([type=hidden]):not([type=file]), select, textarea, summary")].filter((one) => {
    const box = one.getBoundingClientRect();
    return box.width > 0 && box.height > 0 && !one.disabled && one.checkVisibility()
      && !one.closest("[inert]") && !one.hasAttribute("download")
      && !/sign-out|delete$|\\/projects\\/|restore|\\/remove|#start/.test(one.href ?? one.form?.action ?? "");
  })"""

OUTSIDE = """() => {
  const wide = document.documentElement.clientWidth;
  const bad = [];
  if (document.scrollingElement.scrollWidth > wide + 1) {
    const widest = [...document.body.querySelectorAll("*")].map((one) => [one.getBoundingClientRect().right, one])
      .filter(([right]) => right > wide + 1).sort((a, b) => b[0] - a[0])[0];
    bad.push(`the page is wider than the window: ${widest ? widest[1].outerHTML.slice(0, 200) : "an outline"}`);
  }
  for (const one of document.querySelectorAll("a[href], button, input:not([type=hidden]), select, h1, h2, summary")) {
    if (!one.checkVisibility() || one.closest(".skip, .sr-only, dialog, template")) continue;
    const box = one.getBoundingClientRect();
    if (!box.width || !box.height) continue;
    let holder = one.parentElement, scrolls = false;
    while (holder && !scrolls) {
      scrolls = /auto|scroll/.test(getComputedStyle(holder).overflowX);
      holder = holder.parentElement;
    }
    if (!scrolls && (box.left < -1 || box.right > wide + 1))
      bad.push(`${one.tagName} ${one.id || one.textContent.trim().slice(0, 30)} ${Math.round(box.left)}..${Math.round(box.right)}`);
  }
  return bad.slice(0, 5);
}"""


def walk(
    pages: list[Any], base: str, code: str, steps: int, seed: int, check: Callable[[str], None]
) -> None:
    """Press anything visible, type anything, or press any key, ``steps`` times over some pages.

    ``check`` is called with what is wrong after a step, if anything.
    """
    rng = random.Random(seed)
    for page in pages:
        page.on("dialog", lambda dialog: dialog.dismiss())
        page.goto(f"{base}/p/{code}/tokens/")
    for number in range(steps):
        page = rng.choice(pages)
        told = _patiently(page, lambda at=page: _step(at, rng, base, code)) or "a page that left"
        for sentence in _patiently(page, lambda at=page: _wrong(at, code)) or ():
            check(f"seed {seed}, step {number} ({told}): {sentence}")


def _patiently(page: Any, look: Callable[[], T]) -> T | None:
    """What ``look`` finds once nothing is on its way; None where the page keeps leaving meanwhile."""
    for _ in range(4):
        try:
            found = look()
            _settle(page)
            return found
        except Exception as error:
            if "destroyed" not in str(error) and "navigating" not in str(error):
                raise
            page.wait_for_load_state("load")
    return None


def _step(page: Any, rng: random.Random, base: str, code: str) -> str:
    """One thing that a person might do; what it was."""
    kind = rng.random()
    if f"/p/{code}/" not in page.url or kind < 0.04:
        room = rng.choice(_ROOMS)
        page.goto(f"{base}/p/{code}/{room}")
        return f"go {room}"
    if kind < 0.1:
        width = rng.choice(WIDTHS)
        page.set_viewport_size({"width": width, "height": 800})
        return f"width {width}"
    if kind < 0.45:
        key = rng.choice(KEYS)
        page.keyboard.press(key)
        return f"key {key}"
    handles = page.evaluate_handle(_VISIBLE)
    count = page.evaluate("all => all.length", handles)
    if not count:
        return "nothing"
    one = page.evaluate_handle(
        "([all, at]) => all[at]", [handles, rng.randrange(count)]
    ).as_element()
    told = page.evaluate("one => one.outerHTML.slice(0, 90)", one)
    name = page.evaluate("one => one.tagName + (one.type ?? '')", one)
    try:
        if name.startswith(("INPUTtext", "INPUTsearch", "TEXTAREA", "INPUTnumber")):
            one.evaluate("one => one.focus()")
            page.keyboard.type(rng.choice(TEXTS))
        elif name.startswith("SELECT"):
            options = one.evaluate("one => [...one.options].map((option) => option.value)")
            if options:
                one.select_option(rng.choice(options), timeout=2000)
        else:
            one.evaluate(_CLICK)
    except Exception as error:
        if (
            "detached" not in str(error)
            and "not attached" not in str(error)
            and "Timeout" not in str(error)
            and "destroyed" not in str(error)
        ):
            raise
    return told


def _settle(page: Any) -> None:
    """Wait until nothing is on its way."""
    page.wait_for_load_state("load")
    page.wait_for_function(
        "() => !document.querySelector('np-region[aria-busy]') || document.querySelector('[data-typing]')",
        timeout=15_000,
    )


def _wrong(page: Any, code: str) -> list[str]:
    if f"/p/{code}/" not in page.url:
        return []
    text = page.evaluate("document.body.innerText")
    found = [one for one in FALSE if one in text]
    if not page.query_selector("[data-typing], dialog[open]"):
        found += page.evaluate(OUTSIDE)
    return found
