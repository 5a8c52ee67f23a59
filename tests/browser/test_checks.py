"""The checks as a designer uses them: find, fix, waive, accept, tell apart, print; by mouse and by keyboard."""

import json
import re

from playwright.sync_api import expect

from demo import quillhaven
from prism import checks
from prism.analysis import Analysis
from studio.store import projects as store
from studio.store.models import Project
from tests.browser.base import StudioTestCase


class ChecksTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, quillhaven.document())

    def open(self, path=""):
        self.go(f"/p/{self.project.code}/checks/{path}")

    def analysis(self):
        return Analysis(store.load(Project.objects.get(pk=self.project.pk)).document)

    def said(self):
        return self.page.locator(".says").first

    def test_a_finding_is_found_accepted_and_listed_again(self):
        self.open("findings/?section=hygiene")
        expect(self.page.locator("#check-naming")).to_contain_text("not judged: no naming scheme")
        expect(self.page.locator("#check-skipping")).to_contain_text(
            "nothing found in 30 component"
        )
        self.page.click("text=signal.hold holds a literal")
        expect(self.page.locator("#finding")).to_be_visible()
        self.page.fill("#reason", "It goes with the next release")
        self.page.click("#accept button")
        expect(self.said()).to_contain_text("Accepted a finding about signal.hold")
        expect(self.page.locator("#tab-hygiene .num")).to_have_text("1")
        self.page.click("#show-accepted")
        row = self.page.locator(".findings li", has_text="signal.hold")
        expect(row).to_contain_text("accepted: It goes with the next release")
        row.locator("a").click()
        expect(self.page.locator("#finding")).to_contain_text(f"Accepted by {self.user.username}")
        self.page.click("#unaccept")
        expect(self.page.locator("#tab-hygiene .num")).to_have_text("2")

    def test_a_finding_is_fixed_where_it_stands_and_new_ones_are_told(self):
        self.open("findings/?section=coverage")
        self.page.click("text=label on action.fill.pressed")
        self.page.click("#fix-1")
        expect(self.said()).to_contain_text("Added label")
        expect(self.page.locator("#tab-coverage .num")).to_have_text("0")
        self.page.click("#tab-all")
        expect(self.page.locator("#tab-all")).to_have_attribute("aria-current", "true")
        self.page.fill("#since", "1")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("body")).to_contain_text("Nothing here is new")
        self.page.fill("#since", "999")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("[role=alert]").first).to_contain_text(
            "Revision 999 cannot be found"
        )

    def test_a_fix_is_tried_in_every_theme_before_it_is_taken(self):
        key = "signal.go/signal.surface.go"
        self.open(f"?pairing={key}")
        read = self.page.locator("#answers figure")
        self.assertIn("4.34", read.first.inner_text())
        self.page.locator("#try-overlay").press("Enter")
        expect(self.page.locator("#tried")).to_contain_text("Tried, not stored")
        expect(self.page.locator("#answers figure.bad")).to_have_count(0)
        expect(self.page.locator("#answers")).not_to_contain_text("4.34")
        self.assertIn(key, self.analysis().failing)
        self.page.click("#fix-overlay")
        expect(self.said()).to_contain_text("lay a new overlay under it, veil.signal-go")
        after = self.analysis()
        self.assertNotIn(key, after.failing)
        stack = after.document.token_at("veil.signal-go").key, "signal.surface.go"
        (made,) = [p for p in after.paired.pairings if p.backgrounds == stack]
        self.assertEqual((made.foreground, made.required), ("signal.go", 4.5))
        self.page.click("#undo")
        expect(self.page.locator("#tab-contrast .num")).to_have_text("11")

    def test_a_surface_is_lifted_by_a_line_of_its_own_by_keyboard(self):
        self.open("findings/?section=balance")
        self.page.locator("text=surface.card hardly lifts off surface.page").press("Enter")
        expect(self.page.locator("#stands figure.bad")).to_have_count(1)
        line = self.page.locator("form", has=self.page.locator("#lift-line"))
        line.locator("summary").press("Enter")
        expect(line.locator("figure")).to_have_count(6)
        self.page.locator("#lift-line").press("Enter")
        expect(self.said()).to_contain_text("Lifted surface.card off surface.page: draw a line")
        expect(self.page.locator("#check-elevation")).to_contain_text("nothing found")
        self.assertEqual(self.analysis().document.token_at("line.card").belongs_to, "surface.card")

    def test_a_pairing_is_waived_by_keyboard_and_its_waiver_ends(self):
        self.open("?only=failing")
        count = int(self.page.locator("#tab-contrast .num").inner_text())
        self.page.locator("[data-row='ticket.terms/ticket.surface'] .need a.linkish").press("Enter")
        expect(self.page.locator("#answers figure").first).to_be_visible()
        self.page.locator("#waive-reason").fill("Terms are printed too")
        self.page.locator("#waive-until").fill("2099-01-31")
        self.page.locator("#waive-reason").press("Enter")
        expect(self.said()).to_contain_text(
            "Waived ticket.terms on ticket.surface until 2099-01-31"
        )
        expect(self.page.locator("#tab-contrast .num")).to_have_text(str(count - 1))
        expect(self.page.locator("#waiver")).to_contain_text(f"by {self.user.username}")
        self.page.click("#end-waiver")
        expect(self.page.locator("#tab-contrast .num")).to_have_text(str(count))

    def test_colors_are_told_apart(self):
        self.open("vision/")
        pair = self.page.locator("#telling tbody tr", has_text="signal.wait and signal.stop")
        expect(pair.locator("td.bad")).not_to_have_count(0)
        pair.locator("a").click()
        self.page.click("#move-1")
        expect(self.said()).to_contain_text("Told apart: set signal.stop to")
        expect(pair.locator("td.bad")).to_have_count(0)
        before = self.page.locator("#seen td").nth(1).inner_text()
        self.page.select_option("#severity", "0.5")
        expect(self.page.locator("#seen td").nth(1)).not_to_have_text(before)
        self.page.click("#change-set")
        self.page.fill("#set-besides", "an icon")
        self.page.click("#set-form button")
        expect(self.page.locator("body")).to_contain_text("They also differ by an icon.")
        expect(self.page.locator("#tab-vision .num")).to_have_text("0")
        self.page.click("#stage-deutan")
        expect(self.page).to_have_url(re.compile("lens=deutan"))

    def test_every_color_on_every_ground_leads_to_a_pairing(self):
        self.open("explore/?ink=text.faint&ground=surface.*")
        self.page.locator("#explore td a:not(.paired)").first.click()
        expect(self.page.locator("#id_foreground")).to_have_value("text.faint")
        self.page.click("#add-pairing button")
        expect(self.said()).to_contain_text("Added pairing text.faint on surface.")

    def test_the_report_prints_on_paper_and_comes_as_files(self):
        self.open("report/")
        self.page.evaluate("window.print = () => (document.body.dataset.printed = 'yes')")
        self.page.click("#print")
        self.assertEqual(self.page.evaluate("document.body.dataset.printed"), "yes")
        self.page.emulate_media(media="print")
        expect(self.page.locator(".route")).to_be_hidden()
        expect(self.page.locator(".report")).to_contain_text("11 errors")
        data = self.page.pdf(format="A4")
        pages = len(re.findall(rb"/Type\s*/Page\b", data))
        self.assertTrue(1 <= pages <= 4, pages)
        self.page.emulate_media(media="screen")
        with self.page.expect_download() as held:
            self.page.click("#report-sarif")
        log = json.loads(held.value.path().read_text())
        self.assertEqual(len(log["runs"][0]["results"]), len(self.analysis().once(checks.findings)))
