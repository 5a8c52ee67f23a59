"""A hand at the interface: each click, typed value, key and choice is one action, and is counted."""

from __future__ import annotations

from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from playwright.sync_api import Locator, Page

#: Milliseconds to the server and back.
LATENCY = 150
#: Where the place of a control among others is counted, in this order.
_WHERE = "main"
#: After so many a control counts as one that is never reached.
_MOST_TABS = 250
_CONTROLS = "a[href], button, input, select, textarea, summary"


@dataclass(slots=True)
class Action:
    """One action: what was done, to what, and the place of the control among those of the room in reading
    order, 0 where it is none of them, as a key or a room of the route."""

    kind: str
    what: str
    place: int = 0


@dataclass
class Hand:
    """Uses a page as a person with a mouse does. Waiting and looking count nothing."""

    page: Page
    base: str
    actions: list[Action] = field(default_factory=list)

    def begin(self) -> None:
        """Go to the list of projects, where every job starts."""
        self.page.goto(f"{self.base}/projects/")
        self.quiet()

    def click(self, selector: str) -> None:
        """Click a control."""
        target = self._seen(selector)
        self._count("click", selector, target)
        self._press(target)
        self.quiet()

    def type(self, text: str, selector: str = "") -> None:
        """Type a value where the focus is, after a click on ``selector`` where it is not there yet."""
        if selector:
            self._enter(selector)
        self._count("type", text if len(text) < 40 else f"{text[:39]}…")
        self.page.keyboard.type(text)
        self.settle()

    def paste(self, text: str, selector: str) -> None:
        """Paste a text into a field, after a click on it where it has not the focus."""
        self._enter(selector)
        self._count("paste", text.splitlines()[0][:40])
        self.page.locator(selector).evaluate(
            """(field, text) => {
                const data = new DataTransfer();
                data.setData("text/plain", text);
                const event = new ClipboardEvent("paste", {clipboardData: data, bubbles: true, cancelable: true});
                if (field.dispatchEvent(event)) { field.setRangeText(text, field.selectionStart,
                    field.selectionEnd, "end"); field.dispatchEvent(new Event("input", {bubbles: true})); }
            }""",
            text,
        )
        self.settle()

    def key(self, name: str) -> None:
        """Press a key, or keys together."""
        self._count("key", name)
        self.page.keyboard.press(name)
        self.settle()
        self.quiet()

    def file(self, selector: str, path: Path) -> None:
        """Choose a file."""
        self._count("file", path.name, self.page.locator(selector))
        self.page.locator(selector).set_input_files(path)
        self.settle()

    def download(self, selector: str) -> str:
        """Click what hands out a file, and read it."""
        target = self._seen(selector)
        self._count("click", selector, target)
        with self.page.expect_download() as coming:
            self._press(target)
        return Path(coming.value.path()).read_text()

    def quiet(self) -> None:
        """Wait until nothing is on its way."""
        self.page.wait_for_timeout(60)
        self.page.wait_for_load_state("networkidle")
        self.page.locator("np-region[aria-busy]").wait_for(state="detached")

    def settle(self) -> None:
        """Wait for what follows what was typed."""
        self.page.wait_for_timeout(250)
        self.page.wait_for_load_state("networkidle")

    def _enter(self, selector: str) -> None:
        """Put the focus into a field."""
        if not self._has_focus(selector):
            self.click(selector)

    def _press(self, target: Locator) -> None:
        target.click()

    def _seen(self, selector: str) -> Locator:
        target = self.page.locator(selector).first
        target.wait_for(state="visible")
        return target

    def _has_focus(self, selector: str) -> bool:
        focused: Any = self.page.locator(selector).evaluate(
            "field => field === document.activeElement"
        )
        return bool(focused)

    def _count(self, kind: str, what: str, target: Locator | None = None) -> None:
        place = 0
        if target is not None:
            found: Any = target.evaluate(
                """(control, [where, controls]) => {
                    const room = control.closest(where);
                    if (!room) return 0;
                    const seen = [...room.querySelectorAll(controls)].filter(
                        (one) => one.checkVisibility() && one.type !== "hidden" && !one.disabled);
                    return seen.indexOf(control.closest(controls)) + 1;
                }""",
                [_WHERE, _CONTROLS],
            )
            place = int(found)
        self.actions.append(Action(kind, what, place))


class KeyboardHand(Hand):
    """Uses a page by keyboard alone: a control is reached with Tab and pressed with Enter."""

    def _enter(self, selector: str) -> None:
        if not self._has_focus(selector):
            self._reach(self._seen(selector))

    def _press(self, target: Locator) -> None:
        self._reach(target)
        self.page.keyboard.press("Enter")
        self.page.wait_for_timeout(2 * LATENCY)

    def _reach(self, target: Locator) -> None:
        """Press Tab until the focus is there. Raises ``AssertionError`` where it never comes there."""
        for _ in range(_MOST_TABS):
            if target.evaluate("control => control === document.activeElement"):
                return
            self.page.keyboard.press("Tab")
        words = target.evaluate("control => control.outerHTML.slice(0, 100)")
        raise AssertionError(f"Tab does not reach {words}")


def slow(page: Page) -> None:
    """Let a page take ``LATENCY`` to the server and back."""
    client = page.context.new_cdp_session(page)
    client.send("Network.enable")
    client.send(
        "Network.emulateNetworkConditions",
        {"offline": False, "latency": LATENCY, "downloadThroughput": -1, "uploadThroughput": -1},
    )
