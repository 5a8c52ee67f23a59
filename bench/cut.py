"""Typing anywhere while the connection is cut, slow, or loses its answers: is each text stored or still there?

Used by ``tests.browser.test_cut``, and longer by ``./dev long``. One trial opens a page, perhaps presses
something, types a text that is nowhere else into one of its fields, does what a person might do next, and
comes back once the connection is whole again. The text has to be in the database then, or in its field.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

ROOMS = (
    "p/{code}/palette/", "p/{code}/tokens/", "p/{code}/tokens/", "p/{code}/tokens/?cell={token}:{mode}",
    "p/{code}/tokens/?cell={token}:{mode}&view=page", "p/{code}/stage/", "p/{code}/checks/", "p/{code}/checks/findings/",
    "p/{code}/checks/balance/", "p/{code}/checks/vision/", "p/{code}/exchange/", "p/{code}/tokens/axes/",
    "p/{code}/tokens/names/", "p/{code}/tokens/roles/", "p/{code}/tokens/map/ladder", "p/{code}/palette/measures/",
    "p/{code}/palette/import/", "projects/new", "projects/{code}/settings",
)  # fmt: skip

#: What can be typed into and is sent by a form, and the cells of the sheet.
_FIELDS = """() => [...document.querySelectorAll(
  "form[method=post] :is(input:not([type]), input[type=text], input[type=url], textarea), np-sheet a.cell")].filter((one) =>
    one.checkVisibility() && !one.disabled && !one.readOnly && one.getBoundingClientRect().width > 0
    && !one.closest("[data-no-drafts], [inert], [role=search]"))"""

#: What opens more of a page and stores nothing.
_OPENS = """() => [...document.querySelectorAll("summary, a.linkish, [data-view], a[role=tab]")].filter((one) =>
    one.checkVisibility() && !one.closest("[inert]") && !one.hasAttribute("download")
    && !/sign-out|projects|#start/.test(one.href ?? ""))"""

_SUBMITS = """(field) => [...(field.form?.elements ?? [])].filter((one) =>
    one.type === "submit" && one.checkVisibility() && !one.disabled && !/delete|remove/.test(one.formAction + one.id))"""

_HOLDS = """(text) => [...document.querySelectorAll(".kept-text")].some((one) => one.textContent.includes(text)) || [...document.querySelectorAll("input, textarea")].some((one) =>
    one.value.toLowerCase().includes(text))"""

_KEPT = """(text) => Object.entries({...localStorage}).filter(([, value]) =>
    value.toLowerCase().includes(text)).map(([name]) => name)"""

_SAID = """() => [location.href, document.activeElement?.outerHTML.slice(0, 80), Object.keys({...localStorage}),
  [...document.querySelectorAll("#notes .says, #problem")].map((one) => one.textContent.trim().slice(0, 200))]"""

_QUIET = """() => !location.protocol.startsWith("http") || !document.querySelector("np-region[aria-busy], a.cell.pending")
  && !Object.keys({...localStorage}).some((name) => name.startsWith("np-write"))"""


#: Milliseconds until a page has taken up what a tab left that was closed as it came.
_LEAVING = 2500


@dataclass(frozen=True, slots=True)
class Trial:
    """What was done, and what came of the text: stored, in its field, kept for it, or lost."""

    told: str
    outcome: str


class Line:
    """The connection of a browser context: whole, cut, slow, or without answers to what is sent."""

    def __init__(self, context: Any) -> None:
        self.context = context
        self.kind = "whole"

    def put(self, page: Any, kind: str, rng: random.Random) -> None:
        self.kind = kind
        if kind == "cut":
            self.context.set_offline(True)
        elif kind == "slow":
            network = self.context.new_cdp_session(page)
            network.send("Network.enable")
            latency = rng.choice((400, 900, 2500))
            rate = {"latency": latency, "downloadThroughput": -1, "uploadThroughput": -1}
            network.send("Network.emulateNetworkConditions", {"offline": False, **rate})
        elif kind == "lossy":
            page.route("**/*", _lose)

    def restore(self, page: Any) -> None:
        if self.kind == "cut":
            self.context.set_offline(False)
        elif self.kind == "lossy" and not page.is_closed():
            page.unroute_all(behavior="ignoreErrors")
        self.kind = "whole"


def _lose(route: Any) -> None:
    """Let a write get through and lose its answer."""
    if route.request.method != "POST":
        route.continue_()
        return
    try:
        route.fetch()
    finally:
        route.abort()


def trials(
    context: Any, base: str, places: Callable[[], dict[str, str]], stored: Callable[[str], bool], count: int, seed: int,
    told: Callable[[Trial], object] = lambda trial: None,
) -> list[Trial]:  # fmt: skip
    """Try ``count`` times; ``places()`` fills the addresses, ``stored(text)`` looks into the database,
    ``told`` hears of each.
    """
    rng = random.Random(seed)
    found: list[Trial] = []
    while len(found) < count:
        page = context.new_page()
        page.on("dialog", lambda dialog: dialog.accept())
        try:
            trial = _trial(context, page, base, places(), stored, rng)
        finally:
            for one in context.pages:
                one.close()
        if trial:
            found.append(trial)
            told(trial)
    return found


def _trial(
    context: Any, page: Any, base: str, places: dict[str, str], stored: Callable[[str], bool], rng: random.Random
) -> Trial | None:  # fmt: skip
    address = f"{base}/{rng.choice(ROOMS).format(**places)}"
    page.goto(f"{base}/projects/")
    page.goto(address)
    opened: list[str] = []
    for _ in range(rng.choice((0, 0, 1, 2))):
        name = _open(page, rng.random())
        if page.url == address:
            opened.append(name)
        else:
            address, opened = page.url, []
    fields = page.evaluate_handle(_FIELDS)
    count = page.evaluate("all => all.length", fields)
    if not count:
        return None
    place = rng.randrange(count)
    field = page.evaluate_handle("([all, at]) => all[at]", [fields, place]).as_element()
    told = field.evaluate("one => one.outerHTML.slice(0, 110)")
    text = f"{rng.randrange(16**6):06x}" if rng.random() < 0.6 else f"q{rng.randrange(10**6):06d}"
    line = Line(context)
    early = rng.random() < 0.4
    kind = rng.choice(("whole", "cut", "cut", "slow", "lossy"))
    if early:
        line.put(page, kind, rng)
    field.evaluate("one => one.focus()")
    if rng.random() < 0.4 and field.evaluate("one => one.matches('input, textarea')"):
        page.keyboard.press("Control+a")
    page.keyboard.type(f"#{text}" if text[0] != "q" else text, delay=rng.choice((0, 20, 60)))
    if not early:
        line.put(page, kind, rng)
    did = _act(page, field, rng)
    page_open = not page.is_closed()
    if page_open:
        page.wait_for_timeout(rng.choice((0, 100, 800, 2000)))
    line.restore(page)
    where = f"{address} {opened} {told!r} “{text}” {kind}{' before' if early else ''}, {did}"
    if page_open and rng.random() < 0.5:
        _quiet(page)
    if stored(text):
        return Trial(where, "stored")
    last = context.new_page()
    last.goto(address)
    _quiet(last)
    for share in opened:
        if share:
            _press(last, share)
    if stored(text):
        return Trial(where, "stored")
    if page_open and _holds(page, text):
        return Trial(where, "in its field")
    if _holds(last, text):
        return Trial(where, "in its field again")
    if page_open:
        page.close()
        last.goto(address)
        _quiet(last)
        if _holds(last, text):
            return Trial(where, "in its field again")
    last.wait_for_timeout(_LEAVING)
    if _holds(last, text):
        return Trial(where, "in its field again")
    kept = last.evaluate(_KEPT, text)
    seen = [one.evaluate(_SAID) for one in context.pages]
    return Trial(where, f"kept as {kept}" if kept else f"LOST; {seen}")


def _holds(page: Any, text: str) -> bool:
    """Whether a field of a page holds a text; a page that is leaving is asked again once it is there."""
    for _ in range(4):
        try:
            return bool(page.evaluate(_HOLDS, text))
        except Exception as error:
            if "destroyed" not in str(error) and "navigat" not in str(error):
                raise
            _quiet(page)
    return False


def _open(page: Any, share: float) -> str:
    """Open something of the page; how to find it again."""
    found = page.evaluate_handle(_OPENS)
    count = page.evaluate("all => all.length", found)
    if not count:
        return ""
    one = page.evaluate_handle("([all, at]) => all[at]", [found, int(share * count)]).as_element()
    name = str(one.evaluate("one => one.id ? '#' + one.id : one.textContent.trim()"))
    one.evaluate("one => one.click()")
    _quiet(page)
    return name


def _press(page: Any, name: str) -> None:
    page.evaluate(
        """(name) => (name[0] === "#" ? document.getElementById(name.slice(1))
          : [...document.querySelectorAll("summary, a.linkish, [data-view], a[role=tab]")].find((one) =>
              one.textContent.trim() === name))?.click()""",
        name,
    )
    _quiet(page)


def _act(page: Any, field: Any, rng: random.Random) -> str:
    """What a person does after typing."""
    kind = rng.choice(
        ("Enter", "Tab", "submit", "submit", "room", "reload", "close", "nothing", "back")
    )
    try:
        if kind in ("Enter", "Tab"):
            page.keyboard.press(kind)
        elif kind == "submit":
            buttons = field.evaluate_handle(_SUBMITS)
            count = page.evaluate("all => all.length", buttons)
            if count:
                at = [buttons, rng.randrange(count)]
                button = page.evaluate_handle("([all, at]) => all[at]", at).as_element()
                kind = str(button.evaluate("one => 'submit ' + one.outerHTML.slice(0, 60)"))
                button.evaluate("one => one.click()")
        elif kind == "room":
            page.evaluate("document.querySelector('#room-1')?.click()")
        elif kind == "reload":
            page.evaluate("location.reload()")
        elif kind == "back":
            page.evaluate("history.back()")
        elif kind == "close":
            page.close(run_before_unload=False)
    except Exception as error:
        if "detached" not in str(error) and "destroyed" not in str(error):
            raise
    return kind


def _quiet(page: Any) -> None:
    """Wait until nothing is on its way."""
    try:
        page.wait_for_load_state("load", timeout=15_000)
        page.wait_for_timeout(150)
        page.wait_for_function(_QUIET, timeout=20_000)
    except Exception as error:
        if "Timeout" not in str(error) and "destroyed" not in str(error):
            raise
