"""A file that no one here wrote: imported, judged by rule, a dark mode proposed and taken."""

from pathlib import Path

from playwright.sync_api import expect

from prism.model.document import Document
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.sheet import questions
from studio.store import projects as store
from studio.store.models import Project
from tests.browser import axe
from tests.browser.base import StudioTestCase

#: 150 ms away.
SLOW = {"offline": False, "latency": 150, "downloadThroughput": -1, "uploadThroughput": -1}
SHEET = Path(__file__).parents[2] / "node_modules" / "simpledotcss" / "simple.css"


class ForeignTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, Document(name="Empty"))
        self.go(f"/p/{self.project.code}/exchange/")
        self.page.set_input_files("#id_files", str(SHEET))
        self.page.check("input[value=here]")
        self.page.click("#import-button")
        expect(self.page.get_by_text("16 tokens imported")).to_be_visible()

    def document(self):
        return self.analysis().document

    def analysis(self):
        return store.load(Project.objects.get(pk=self.project.pk)).analysis

    def test_one_key_answers_what_is_not_sure(self):
        unsure = [one.path for one, _ in questions.unsure(self.analysis())]
        self.assertEqual(unsure, ["bg", "accent-bg", "accent", "accent-hover", "disabled"])
        self.go(f"/p/{self.project.code}/tokens/")
        self.page.click("#tab-roles")
        expect(self.page.get_by_text("5 of 12 colors not sure")).to_be_visible()
        expect(self.page.locator("#question")).to_be_focused()
        self.assertEqual(axe.violations(self.page), [])
        answers = (
            ("y", "accent-bg"), ("y", "accent"), ("a", "accent-hover"), ("n", "disabled"), ("o", "")
        )  # fmt: skip
        for key, then in answers:
            self.page.keyboard.press(key)
            if then:
                expect(self.page.locator("#asked code")).to_have_text(then)
        expect(self.page.get_by_text("1 of 12 colors not sure")).to_be_visible()
        expect(self.page.locator("#question")).to_be_focused()
        self.page.select_option("#other-role", "fill accent")
        self.page.click("#answer-other")
        expect(self.page.get_by_text("all 12 roles are sure")).to_be_visible()
        said = {one.path: one.role for one in self.document().tokens if one.role}
        self.assertEqual(
            said,
            {
                "bg": "page", "accent-bg": "surface", "accent": "fill action", "disabled": "other",
                "accent-hover": "fill accent",
            },
        )  # fmt: skip
        self.page.fill("#new-word", "Kachel")
        self.page.select_option("#new-meaning", "surface")
        self.page.click("#add-word-button")
        expect(self.page.locator("#own-words code")).to_have_text("kachel")
        self.assertEqual(axe.violations(self.page), [])
        self.page.click("#tab-sheet")
        expect(self.page.locator("td.role .said")).to_have_count(5)
        self.assertEqual(axe.violations(self.page), [])

    def test_a_key_pressed_twice_on_a_slow_line_answers_once(self):
        self.go(f"/p/{self.project.code}/tokens/roles/")
        expect(self.page.locator("#question")).to_be_focused()
        slow = self.context.new_cdp_session(self.page)
        slow.send("Network.enable")
        slow.send("Network.emulateNetworkConditions", SLOW)
        self.page.keyboard.press("y")
        self.page.keyboard.press("t")
        expect(self.page.get_by_text("4 of 12 colors not sure")).to_be_visible()
        expect(self.page.locator("#asked code")).to_have_text("accent-bg")
        self.page.keyboard.press("y")
        expect(self.page.get_by_text("3 of 12 colors not sure")).to_be_visible()
        said = {one.path: one.role for one in self.document().tokens if one.role}
        self.assertEqual(said, {"bg": "page", "accent-bg": "surface"})

    def test_rules_a_proposed_mode_and_the_scene_agree(self):
        self.page.click("a:has-text('Checks')")
        expect(self.page.get_by_text("2 known pairings: each has enough contrast")).to_be_visible()
        self.assertEqual(axe.violations(self.page), [])
        self.page.focus("#pair-by-rule button")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#matrix tbody tr")).to_have_count(6)
        expect(
            self.page.get_by_text("each has enough contrast; 4 presumed, none of them falls short")
        ).to_be_visible()

        (axis,) = self.document().axes
        self.go(
            f"/p/{self.project.code}/tokens/axes/propose?axis={axis.key}&source={axis.default}"
            "&name=night&scheme=dark"
        )
        expect(
            self.page.get_by_text("2 known pairings and 4 presumed pass in night")
        ).to_be_visible()
        self.assertEqual(axe.violations(self.page), [])
        self.page.click("#take-mode")
        self.page.wait_for_url("**/tokens/axes/**")
        self.page.click("a:has-text('Checks')")
        night = self.page.locator("#matrix tbody tr td:nth-of-type(4) .ratio")
        expect(night).to_have_count(6)

        document = self.analysis().paired
        self.assertEqual((len(document.pairings), len(self.document().pairings)), (6, 2))
        resolver = Resolver(document)
        mode = next(m.key for m in document.axes[0].modes if m.name == "night")
        readings = audit(resolver, document.pairings, [resolver.theme({axis.key: mode})])
        self.assertEqual(night.all_inner_texts(), [reading.shown for reading in readings])
        self.assertTrue(all(reading.passes for reading in readings))

        self.page.locator("#matrix td.need a").first.click()
        expect(self.page.get_by_text("set together in the imported style sheet")).to_be_visible()
        self.page.fill("#required", "7")
        self.page.fill("#reason", "read at dusk")
        self.page.click("#require button")
        expect(self.page.locator("#matrix td.need").first).to_contain_text("7 for text on bg")
        self.page.click("#rule-labels")
        expect(self.page.get_by_role("region", name="The open rule")).to_be_visible()
        self.page.fill("#required", "6")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_text("4 presumed, 1 of them falls short")).to_be_visible()
        self.assertEqual(len(self.analysis().failing), 1)
        self.assertEqual(axe.violations(self.page), [])

        self.page.click("a:has-text('Stage')")
        expect(self.page.locator("#dock-slots b")).not_to_have_text("0")
