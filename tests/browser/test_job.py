"""The main job as a designer does it, in a browser."""

import re
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import expect

from prism.model.document import Document
from studio.store import projects as store
from studio.store.models import Project
from tests.browser.base import StudioTestCase
from tests.builders import DATA, observatory_files


class JobTests(StudioTestCase):
    def bring_observatory(self):
        project = store.create(self.user, Document(name="Empty"))
        self.go(f"/p/{project.code}/exchange/")
        names = [str(DATA / "observatory" / name) for name in observatory_files()]
        self.page.set_input_files("#id_files", names)
        self.page.check("input[value=here]")
        self.page.click("#import-button")
        expect(self.page.get_by_text("63 tokens imported")).to_be_visible()
        return project

    def cell(self, path, mode):
        """The sheet's cell of a token in a mode."""
        row = self.page.locator("tr", has=self.page.locator(f'th[title^="{path}"]'))
        position = self.page.locator("thead th").all_inner_texts()
        column = next(i for i, text in enumerate(position) if text.startswith(mode))
        return row.locator("td").nth(column - 1).locator("a")

    def open_sheet(self):
        self.page.click("a:has-text('Tokens')")
        self.page.click("nav[aria-label=Columns] a:has-text('sky')")
        expect(self.page.locator("thead")).to_contain_text("red light")

    def test_bring_map_check_switch_and_take(self):
        project = self.bring_observatory()
        findings = self.page.locator("#findings > li")
        expect(findings).to_have_count(8)
        expect(self.page.locator("#axes tr")).to_have_text(
            [
                "siteNorth Ridge (default), South DomeWhich of the two sites the screen stands in",
                "skyday (default), night, red light",
            ]
        )

        # Add pairing.
        self.page.click("a:has-text('Checks')")
        self.page.fill("#id_foreground", "Text.muted")
        self.page.fill("#id_background", "Ground.card")
        self.page.click("#add-pairing button")
        night = self.page.locator("#matrix tbody tr td").nth(2)
        expect(night.locator(".ratio")).to_have_text("6.10")

        # Map another color in the night, by keyboard, with completion.
        self.open_sheet()
        self.cell("Text.muted", "night").click()
        field = self.page.locator("#value")
        expect(field).to_have_value("{basalt.400}")
        expect(field).to_be_focused()
        field.fill("basalt.6")
        expect(self.page.locator("#options [role=option]")).to_have_count(1)
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press("Enter")
        expect(field).to_have_value("basalt.600")
        self.page.keyboard.press("Enter")
        cell = self.cell("Text.muted", "night")
        expect(cell).to_contain_text("basalt.600")
        expect(cell.locator(".ratio")).to_contain_text("2.54")
        expect(cell.locator(".ratio")).to_have_class("ratio fail")

        # The other rooms know at once, without a load of the page.
        self.page.evaluate("window.same = true")
        self.page.click("a:has-text('Checks')")
        expect(self.page.locator("#matrix tbody tr td").nth(2).locator(".ratio")).to_contain_text(
            "2.54"
        )
        expect(self.page.locator("#tab-contrast .num")).to_have_text("1")

        # Switch the whole interface.
        self.page.click("a:has-text('Stage')")
        body = self.page.frame_locator("iframe").first.locator("body")
        expect(body).to_have_css("background-color", "rgb(246, 248, 251)")
        self.page.click(".mode:has-text('night')")
        expect(body).to_have_css("background-color", "rgb(18, 22, 28)")
        muted = self.page.frame_locator("iframe").first.locator(".lead p")
        expect(muted).to_have_css("color", "rgb(85, 96, 112)")
        self.assertTrue(self.page.evaluate("window.same"))

        # Take the CSS away.
        self.page.click("a:has-text('Exchange')")
        with self.page.expect_download() as download:
            self.page.click("#export-css")
        with TemporaryDirectory() as folder:
            path = Path(folder) / "taken.css"
            download.value.save_as(path)
            css = path.read_text()
        night_rule = css.split('[data-zone][data-sky="night"] {')[1].split("}")[0]
        self.assertIn("--text-muted: var(--basalt-600);", night_rule)
        self.assertEqual(Project.objects.get(pk=project.pk).revision, 3)

    def test_what_is_wrong_is_said_where_it_was_typed_and_undo_takes_a_step_back(self):
        self.bring_observatory()
        self.open_sheet()
        self.cell("Text.link", "day").click()
        self.page.fill("#value", "{basalt.75}")
        self.page.click("#store")
        expect(self.page.locator("#problem")).to_contain_text("{basalt.75} does not exist.")
        expect(self.page.locator("#value")).to_have_value("{basalt.75}")
        self.page.fill("#value", "#0b5cad")
        self.page.click("#store")
        expect(self.cell("Text.link", "day")).to_contain_text("#0b5cad")
        expect(self.cell("Text.link", "day")).to_be_focused()
        self.page.keyboard.press("Control+z")
        expect(self.cell("Text.link", "day")).to_contain_text("Accent")
        self.page.keyboard.press("Control+Shift+z")
        expect(self.cell("Text.link", "day")).to_contain_text("#0b5cad")

    def test_a_bad_file_is_refused_in_place(self):
        project = store.create(self.user, Document(name="Empty"))
        self.go(f"/p/{project.code}/exchange/")
        self.page.set_input_files(
            "#id_files",
            {
                "name": "x.tokens.json",
                "mimeType": "application/json",
                "buffer": b'{"a": {"$type": "color", "$value": "#12"}}',
            },
        )
        self.page.click("#import-button")
        expect(self.page.get_by_role("alert")).to_contain_text(
            "x.tokens.json, a, position 1: “#12” is not a color."
        )
        self.assertEqual(Project.objects.get(pk=project.pk).revision, 0)

    def test_two_tabs_show_the_same(self):
        project = self.bring_observatory()
        other = self.context.new_page()
        other.goto(f"{self.live_server_url}/p/{project.code}/tokens/?columns=sky")
        self.open_sheet()
        self.cell("Text.link", "day").click()
        self.page.fill("#value", "#0b5cad")
        self.page.click("#store")
        expect(self.cell("Text.link", "day")).to_contain_text("#0b5cad")
        expect(other.locator("tr", has=other.locator('th[title="Text.link"]'))).to_contain_text(
            "#0b5cad"
        )


class KeyboardTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        from demo import quillhaven

        self.project = store.create(self.user, quillhaven.document())
        self.go(f"/p/{self.project.code}/tokens/")

    def test_rooms_modes_chrome_and_find(self):
        self.page.keyboard.press("4")
        expect(self.page.locator("h1")).to_have_text("Checks")
        self.page.keyboard.press("]")
        expect(self.page.locator(".mode[aria-current]").first).to_have_text("dark")
        self.page.keyboard.press("[")
        self.page.keyboard.press("[")
        expect(self.page.locator(".mode[aria-current]").first).to_have_text("dim")
        self.page.keyboard.press("c")
        expect(self.page.locator("html")).to_have_attribute("data-chrome", "mid")
        self.page.keyboard.press("/")
        expect(self.page.locator("#find")).to_be_focused()
        self.page.keyboard.type("4")
        expect(self.page.locator("#find")).to_have_value("4")
        expect(self.page.locator("h1")).to_have_text("Checks")

    def test_the_list_of_keys_and_switching_single_keys_off(self):
        self.page.locator("h1").click()
        self.page.keyboard.press("?")
        expect(self.page.locator("#keys")).to_be_visible()
        self.page.click("[data-single-keys]")
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#keys")).to_be_hidden()
        self.page.keyboard.press("1")
        self.page.reload()
        self.page.keyboard.press("1")
        expect(self.page.locator("h1")).to_have_text("Tokens")

    def test_the_sheet_by_arrows_enter_and_escape(self):
        first = self.page.locator("a.cell").first
        first.focus()
        self.page.keyboard.press("ArrowDown")
        self.page.keyboard.press("ArrowRight")
        self.page.keyboard.press("4")
        expect(self.page.locator("h1")).to_have_text("Tokens")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#value")).to_be_focused()
        expect(self.page.locator(".dock h2")).to_have_text("text.muted")
        self.page.keyboard.press("Escape")
        expect(self.page.locator("#value")).to_have_count(0)
        expect(self.page.locator("a.cell:focus")).to_have_count(1)

    def test_a_kept_theme_stands_beside_the_next(self):
        self.page.keyboard.press("]")
        expect(self.page.locator(".mode[aria-current]").first).to_have_text("dark")
        self.page.click("#pin")
        expect(self.page.locator("#pin")).to_have_attribute("aria-pressed", "true")
        self.page.click(".mode:has-text('Vexley')")
        expect(self.page.locator(".mode[aria-current]", has_text="Vexley")).to_be_visible()
        self.page.click("a:has-text('Stage')")
        others = "standard, running, roomy, English"
        panes = self.page.locator(".pane")
        for place, brand in enumerate(("Vexley", "Tarnmoor")):
            expect(panes.nth(place)).to_have_attribute("aria-label", f"dark, {brand}, {others}")
        self.page.reload()
        expect(panes.nth(1)).to_have_attribute("aria-label", f"dark, Tarnmoor, {others}")

    def test_a_click_that_is_held_while_an_answer_comes_is_not_lost(self):
        self.page.click(".mode:has-text('Vexley')", no_wait_after=True)
        self.page.hover("#room-3")
        self.page.mouse.down()
        self.page.wait_for_timeout(500)
        self.page.mouse.up()
        expect(self.page.locator(".pane").first).to_have_attribute(
            "aria-label", re.compile("Vexley")
        )

    def test_as_many_axes_lie_open_as_fit_and_no_room_runs_over_its_edge(self):
        opened = {}
        for width in (1720, 1280, 1024, 768):
            self.page.set_viewport_size({"width": width, "height": 800})
            for room in (
                "palette/",
                "tokens/?cell=text.link:dark",
                "stage/",
                "checks/",
                "exchange/",
            ):
                self.go(f"/p/{self.project.code}/{room}")
                over = self.page.evaluate("document.documentElement.scrollWidth - innerWidth")
                self.assertLessEqual(over, 0, (width, room))
            opened[width] = self.page.locator("details.lies-open").count()
        self.assertEqual(list(opened.values()), sorted(opened.values(), reverse=True))
        self.assertGreater(opened[1720], opened[1280])
        self.page.click("summary:has-text('running')")
        self.page.click(".mode:has-text('delayed')")
        expect(self.page.locator("summary", has_text="delayed")).to_have_count(1)
        self.assertIn("status", self.page.url)
