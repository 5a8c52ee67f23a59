"""A dark mode proposed, decided on row by row, solved again, taken, seen on the scene, and undone."""

from playwright.sync_api import expect

from demo import quillhaven
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.roles import rules
from studio.store import projects as store
from studio.store.models import Project
from tests.browser import axe
from tests.browser.base import StudioTestCase

#: 150 ms away.
SLOW = {"offline": False, "latency": 150, "downloadThroughput": -1, "uploadThroughput": -1}


def painted(answer):
    """A color as Chromium says it."""
    return f"rgb({', '.join(str(int(answer.hex[i : i + 2], 16)) for i in (1, 3, 5))})"


class ProposalTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, quillhaven.document())
        self.page.context.new_cdp_session(self.page).send("Network.emulateNetworkConditions", SLOW)
        self.go(
            f"/p/{self.project.code}/tokens/axes/propose?axis=appearance&source=light"
            "&name=night&scheme=dark"
        )
        expect(self.page.locator("#stands")).to_contain_text("67 known pairings pass in night")

    def document(self):
        return store.load(Project.objects.get(pk=self.project.pk)).document

    def field(self, key):
        return self.page.locator(f'[id="text-{key}"]')

    def test_a_contradiction_is_read_and_freed_and_the_mode_taken_and_undone(self):
        self.assertEqual(axe.violations(self.page), [])
        scene = self.page.frame_locator('iframe[title="A small interface, night"]')
        before = Resolver(self.document())
        darkest = painted(before.resolve("ink.11", before.default_theme))
        expect(scene.locator("body")).to_have_css("background-color", darkest)

        for key in ("text.link", "surface.inverse"):
            self.page.get_by_label(f"use {key}", exact=True).uncheck()
        self.field("text.muted").fill("ink.3")
        self.page.click("#solve-again")
        short = self.page.locator("#short")
        expect(short).to_contain_text("What cannot pass together")
        expect(short).to_contain_text("another value for text.link")
        expect(self.page.get_by_label("use text.link", exact=True)).not_to_be_checked()
        expect(self.field("text.muted")).to_have_value("ink.3")
        self.assertEqual(axe.violations(self.page), [])

        self.page.get_by_label("use text.link", exact=True).check()
        self.field("text.link").fill("accent.3")
        self.page.click("#solve-again")
        expect(self.page.locator("#stands")).to_contain_text("pairings pass in night")
        expect(self.page.get_by_label("use surface.inverse", exact=True)).not_to_be_checked()
        self.page.click("#take-mode")
        expect(self.page.get_by_text("Made mode night from light")).to_be_visible()

        made = self.document()
        mode = made.axes[0].modes[-1]
        self.assertEqual((mode.name, mode.color_scheme), ("night", "dark"))
        resolver = Resolver(made)
        theme = resolver.theme({"appearance": mode.key})
        for key, step in (("text.link", "accent.3"), ("text.muted", "ink.3")):
            self.assertEqual(resolver.resolve(key, theme).hex, resolver.resolve(step, theme).hex)
        light = resolver.theme({"appearance": "light"})
        self.assertEqual(
            resolver.resolve("surface.inverse", theme).hex,
            resolver.resolve("surface.inverse", light).hex,
        )
        night = [t for t in resolver.themes() if resolver.picks(t)["appearance"] == mode.key]
        pairs = rules.paired(made).pairings
        self.assertEqual([one for one in audit(resolver, pairs, night) if one.fails], [])

        self.go(f"/p/{self.project.code}/stage/?theme=appearance%3Anight")
        board = self.page.frame_locator("iframe").first
        page = painted(resolver.resolve("surface.page", theme))
        expect(board.locator("body")).to_have_css("background-color", page)

        self.page.click("#undo")
        expect(self.page.get_by_text("Undone:")).to_be_visible()
        self.assertEqual(len(self.document().axes[0].modes), 3)

    def test_by_keyboard_alone(self):
        self.page.get_by_label("use text.link", exact=True).focus()
        self.page.keyboard.press("Space")
        self.page.keyboard.press("Tab")
        expect(self.field("text.link")).to_be_focused()
        self.page.keyboard.press("Shift+Tab")
        self.page.keyboard.press("Space")
        for _ in range(250):
            self.page.keyboard.press("Tab")
            if self.page.evaluate("document.activeElement.id") == "take-mode":
                break
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("Made mode night from light")).to_be_visible()
