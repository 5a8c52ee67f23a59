"""A file that no one here wrote: imported, judged by rule, a dark mode proposed and taken."""

from pathlib import Path

from playwright.sync_api import expect

from prism.model.document import Document
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from studio.store import projects as store
from studio.store.models import Project
from tests.browser import axe
from tests.browser.base import StudioTestCase

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
        return store.load(Project.objects.get(pk=self.project.pk)).document

    def test_rules_a_proposed_mode_and_the_scene_agree(self):
        self.page.click("a:has-text('Checks')")
        expect(self.page.get_by_text("no pairing yet, so nothing is judged")).to_be_visible()
        self.assertEqual(axe.violations(self.page), [])
        self.page.focus("#pair-by-rule button")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#matrix tbody tr")).to_have_count(6)
        expect(self.page.get_by_text("6 pairings, all have enough contrast")).to_be_visible()

        (axis,) = self.document().axes
        self.go(
            f"/p/{self.project.code}/tokens/axes/propose?axis={axis.key}&source={axis.default}"
            "&name=night&scheme=dark"
        )
        expect(self.page.get_by_text("0 pairings fall short in night")).to_be_visible()
        self.assertEqual(axe.violations(self.page), [])
        self.page.click("#take-mode")
        self.page.wait_for_url("**/tokens/axes/**")
        self.page.click("a:has-text('Checks')")
        night = self.page.locator("#matrix tbody tr td:nth-of-type(4) .ratio")
        expect(night).to_have_count(6)

        document = self.document()
        resolver = Resolver(document)
        mode = next(m.key for m in document.axes[0].modes if m.name == "night")
        readings = audit(resolver, document.pairings, [resolver.theme({axis.key: mode})])
        self.assertEqual(night.all_inner_texts(), [reading.shown for reading in readings])
        self.assertTrue(all(reading.passes for reading in readings))

        self.page.click("a:has-text('Stage')")
        expect(self.page.get_by_text("8 slots without a token")).to_be_visible()
