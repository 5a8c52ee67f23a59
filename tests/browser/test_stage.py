"""The Stage as a designer uses it: switched, zoned, pointed at, bound, lit up, in panes, by mouse and by keyboard."""

import re

from PIL import Image
from playwright.sync_api import expect

from demo import quillhaven
from prism.modes.commands import SetDirection
from prism.resolution.resolver import Resolver
from studio.store import projects as store
from studio.store.models import Project
from tests.browser.base import StudioTestCase

ATTRIBUTE = "e => e.contentDocument.documentElement.dataset.appearance"


class StageTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, quillhaven.document())
        self.open()

    def open(self, query=""):
        self.go(f"/p/{self.project.code}/stage/{query}")
        expect(self.frame().locator("body")).to_contain_text("Harbor Stairs")

    def frame(self, place=0):
        return self.page.frame_locator(".pane iframe").nth(place)

    def iframe(self, place=0):
        return self.page.locator(".pane iframe").nth(place)

    def document(self):
        return store.load(Project.objects.get(pk=self.project.pk)).document

    def color(self, path, **picks):
        resolver = Resolver(self.document())
        answer = resolver.resolve(self.document().token_at(path).key, resolver.theme(picks))
        return f"rgb({', '.join(str(int(answer.hex[i : i + 2], 16)) for i in (1, 3, 5))})"

    def test_a_mode_is_switched_at_once_in_all_panes_that_follow(self):
        requests = []
        self.page.on("request", lambda request: requests.append(request.url))
        self.iframe(0).evaluate("e => (e.contentDocument.body.dataset.kept = 'yes')")
        self.page.click("#mode-brand-osprelle")
        expect(self.page.locator("#switched")).to_have_text(re.compile(r"Switched in \d+ ms"))
        for place in (0, 1):
            self.assertEqual(
                self.iframe(place).evaluate("e => e.contentDocument.documentElement.dataset.brand"),
                "osprelle",
            )
        expect(self.page.locator(".pane header").first).to_contain_text("Osprelle")
        self.page.click("#mode-appearance-dim")
        expect(self.page.locator("#mode-appearance-dim")).to_have_attribute("aria-current", "true")
        self.assertEqual(self.iframe(0).evaluate(ATTRIBUTE), "dim")
        expect(self.frame().locator("body")).to_have_css(
            "background-color", self.color("surface.page", appearance="dim", brand="osprelle")
        )
        self.assertEqual(self.iframe(0).evaluate("e => e.contentDocument.body.dataset.kept"), "yes")
        self.assertEqual(
            [url for url in requests if "/stage/pane" in url], [], "no frame loads again"
        )

    def test_an_element_is_pointed_at_and_made_a_zone_that_keeps_its_mode(self):
        button = self.frame().locator("a.button").first
        button.click()
        dock = self.page.locator("#point")
        expect(dock).to_contain_text("Find a crossing")
        expect(self.page.locator("#point-ratio")).to_contain_text("6.36")
        expect(dock).to_contain_text("accent.8")
        self.page.select_option("#zone-appearance", "dark")
        expect(self.page.locator("#zones")).to_contain_text("appearance dark")
        self.page.mouse.move(5, 5)
        dark = self.color("action.fill", appearance="dark")
        expect(button).to_have_css("background-color", dark)
        self.page.click("#mode-brand-vexley")
        expect(button).to_have_css(
            "background-color", self.color("action.fill", appearance="dark", brand="vexley")
        )
        expect(self.page.locator("#zones")).to_contain_text("from the page")
        self.page.click("[id^=unzone-]")
        expect(button).to_have_css("background-color", self.color("action.fill", brand="vexley"))
        expect(self.page.locator("#zones")).not_to_contain_text("appearance dark")

    def test_a_part_moved_into_a_zone_takes_its_mode_and_goes_back(self):
        self.frame().locator("[data-part=board]").first.click(position={"x": 3, "y": 3})
        self.page.select_option("#zone-appearance", "dark")
        expect(self.page.locator("#zones")).to_contain_text("appearance dark")
        button = self.frame().locator("a.button").first
        button.click()
        expect(self.page.locator("#point")).to_contain_text("in zone the page")
        self.page.select_option("#move-into", index=1)
        expect(self.page.locator("#point")).to_contain_text("in zone board")
        self.page.mouse.move(5, 5)
        moved = self.frame().locator("[data-part=board] a.button")
        expect(moved).to_have_count(1)
        expect(moved).to_have_css("background-color", self.color("action.fill", appearance="dark"))
        self.page.select_option("#move-into", index=0)
        expect(self.page.locator("#point")).to_contain_text("in zone the page")
        expect(moved).to_have_count(0)
        expect(button).to_have_css("background-color", self.color("action.fill"))

    def test_unlinked_colors_are_counted_listed_and_lit_up(self):
        count = self.page.locator("#dock-unlinked b")
        listed = int(count.inner_text())
        self.page.locator("#dock-unlinked").press("Enter")
        expect(self.page.locator("#unlinked tbody tr, #unlinked > tr")).to_have_count(listed)
        if listed:
            self.assertTrue(self.frame().locator("[data-lit]").count())

    def test_by_keys_alone(self):
        self.page.focus("#point-first")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#point h2")).to_have_text("Page")
        for wanted in ("Header", "Name"):
            self.page.focus("#point-after")
            self.page.keyboard.press("Enter")
            expect(self.page.locator("#point h2")).to_have_text(wanted)
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#point")).to_have_count(0)
        self.page.focus("#lens")
        self.page.keyboard.press("ArrowDown")
        expect(self.page.locator("#severity")).to_be_visible()

    def test_a_slot_is_bound_lit_up_and_let_go(self):
        self.page.click("#dock-slots")
        self.page.fill("#slot-ink", "no.such")
        self.page.click("#bind-ink")
        expect(self.page.get_by_role("alert")).to_contain_text("no longer there")
        self.page.fill("#slot-ink", "text.wrong")
        self.page.click("#bind-ink")
        expect(self.page.locator(".says").first).to_contain_text("Bound slot ink to text.wrong")
        expect(self.frame().locator("h1")).to_have_css("color", self.color("text.wrong"))
        self.page.click("#release-ink")
        expect(self.frame().locator("h1")).to_have_css("color", self.color("text.main"))
        self.frame().locator("h1").click()
        self.page.click("#light-ink-1") if self.page.locator("#light-ink-1").count() else None
        self.open("?light=accent.8")
        expect(self.frame().locator("[data-fill=action][data-lit]").first).to_be_attached()
        expect(self.frame().locator("h1[data-lit]")).to_have_count(0)
        self.page.click("#light-off")
        expect(self.frame().locator("[data-lit]")).to_have_count(0)

    def test_six_panes_a_pane_of_its_own_theme_and_one_closed(self):
        for count in range(3, 7):
            self.page.click("#add-pane")
            expect(self.page.locator(".pane")).to_have_count(count)
        expect(self.page.locator("#add-pane")).to_have_count(0)
        self.page.click("#pane-menu-5 summary")
        self.page.select_option("#pane-5-brand", "vexley")
        expect(self.page.locator(".pane").nth(5).locator("header")).to_contain_text("Vexley")
        expect(self.frame(5).locator(".bar")).to_have_css(
            "background-color", self.color("action.fill", brand="vexley")
        )
        self.page.click("#pane-menu-5 summary")
        self.page.select_option("#width-5", "phone")
        expect(self.page.locator(".pane").nth(5)).to_have_attribute("data-width", "phone")
        self.assertEqual(self.iframe(5).evaluate("e => e.style.width"), "390px")
        self.page.click("#pane-menu-5 summary")
        self.page.locator("#pane-menu-5 [data-close]").click()
        expect(self.page.locator(".pane")).to_have_count(5)

    def test_wipe_half_and_half_grid_lens_and_states(self):
        self.page.click("#view-wipe")
        above = self.page.locator(".pane .frame").nth(1)
        expect(above).to_have_css("clip-path", "inset(0px 0px 0px 50%)")
        self.page.fill("#wipe", "20")
        expect(above).to_have_css("clip-path", "inset(0px 0px 0px 20%)")
        self.page.click("#view-halves")
        expect(above).to_have_css("clip-path", "inset(0px 0px 0px 50%)")
        self.page.click("#view-grid")
        expect(self.page.locator(".pane")).to_have_count(9)
        self.page.select_option("#across", "contrast")
        expect(self.page.locator(".pane")).to_have_count(6)
        self.page.click("#view-panes")
        self.page.select_option("#lens", "deutan")
        expect(self.page.locator(".pane .frame").first).to_have_css(
            "filter", re.compile("stage-lens")
        )
        self.page.select_option("#state", "hover")
        expect(self.frame().locator("a.button").first).to_have_css(
            "background-color", self.color("action.fill.hover")
        )
        expect(self.frame(1).locator("a.button").first).to_have_css(
            "background-color", self.color("action.fill.hover", appearance="dark")
        )

    def test_a_token_is_dragged_onto_a_slot_and_onto_a_part_of_the_scene(self):
        self.page.click("#list-slots")
        token = self.page.locator("[data-token='signal.stop']").first
        token.scroll_into_view_if_needed()
        # A row beside it, so that nothing scrolls while it is dragged.
        row = token.locator("xpath=ancestor::tr/preceding-sibling::tr[1]")
        slot = row.get_attribute("data-slot")
        token.drag_to(row)
        expect(self.page.locator(".says").first).to_contain_text(
            f"Bound slot {slot} to signal.stop"
        )
        expect(self.page.locator(f"tr[data-slot={slot}]")).to_contain_text("signal.stop")
        token = self.page.locator("[data-token='signal.stop']").first
        token.scroll_into_view_if_needed()
        token.drag_to(self.frame().locator(".card").first, target_position={"x": 6, "y": 6})
        expect(self.page.locator(".says").first).to_contain_text(
            re.compile("Bound slot card to signal.stop")
        )
        expect(self.frame().locator(".card").first).to_have_css(
            "background-color", self.color("signal.stop")
        )

    def test_a_language_from_right_to_left_mirrors_the_scene(self):
        built = SetDirection("language", "portuguese", "rtl").apply(self.document())
        self.project = store.create(self.user, built)
        self.open()
        at = "e => { const text = document.createRange(); text.selectNodeContents(e);"
        at += " return text.getBoundingClientRect().left; }"
        head = self.frame().locator("h1, h2").first
        before = head.evaluate(at)
        self.assertEqual(head.evaluate("e => getComputedStyle(e).direction"), "ltr")
        self.page.locator("#mode-language-portuguese").dispatch_event("click")
        expect(self.frame().locator("body")).to_have_css("direction", "rtl")
        self.assertNotEqual(head.evaluate(at), before)

    def test_scenes_pairings_and_a_file_of_its_own(self):
        for name, text in (
            ("booking", "Choose a cabin"),
            ("wallet", "No season card"),
            ("parts", "Buttons"),
        ):
            self.page.click(f"#scene-{name}")
            expect(self.frame().locator("body")).to_contain_text(text)
        self.page.click("#scene-departures")
        self.page.click("#dock-pairings")
        expect(self.page.locator("#missing tr").first).to_contain_text("px")
        before = self.page.locator("#missing tr").count()
        self.page.locator("#missing button").first.click()
        expect(self.page.locator(".says").first).to_contain_text("Added pairing")
        expect(self.page.locator("#missing tr")).to_have_count(before - 1)
        self.page.click("#pane-menu-0 summary")
        with self.page.expect_download() as held:
            self.page.locator("#pane-menu-0 [data-save=html]").click()
        text = held.value.path().read_text()
        self.assertNotIn("<link", text)
        self.assertNotIn("<script", text)
        page = self.context.new_page()
        page.set_content(text)
        self.assertEqual(
            page.locator("body").evaluate("e => getComputedStyle(e).backgroundColor"),
            self.color("surface.page"),
        )
        page.close()
        with self.page.expect_download() as held:
            self.page.locator("#pane-menu-0 [data-save=png]").click()
        picture = Image.open(held.value.path())
        self.assertEqual(picture.format, "PNG")
        ground = self.color("surface.page").removeprefix("rgb(").removesuffix(")").split(", ")
        pixels = picture.convert("RGB").resize((300, 300), Image.Resampling.NEAREST).getdata()
        share = sum(pixel == tuple(map(int, ground)) for pixel in pixels) / len(pixels)
        self.assertGreater(share, 0.1, "the page is painted")
        self.assertGreater(len(set(pixels)), 30, "and what stands on it")
