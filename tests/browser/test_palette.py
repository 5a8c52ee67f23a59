"""The palette as a designer uses it: once with the mouse, once with the keyboard alone."""

import re
from pathlib import Path
from tempfile import TemporaryDirectory

from playwright.sync_api import Request, expect
from playwright.sync_api import TimeoutError as PlaywrightTimeoutError

from demo import quillhaven
from prism.color import space
from prism.model.values import BASE
from prism.palette.ramps import oklch
from studio.store import projects as store
from studio.store.models import Project
from tests.browser.base import StudioTestCase
from tests.builders import resolved, small_picture


class PaletteCase(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, quillhaven.document())
        self.go(f"/p/{self.project.code}/palette/")

    def stored(self):
        return store.load(Project.objects.get(pk=self.project.pk)).document

    def value(self, path):
        return self.stored().token_at(path).value(BASE).text

    def point(self, name):
        return self.page.locator(f'.point[data-token="{name}"]')

    def drag(self, name, right, up):
        """Drag a step of the plot by as many pixels, with a stop on the way."""
        box = self.point(name).locator("rect").first.bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        self.page.mouse.move(x, y)
        self.page.mouse.down()
        self.page.mouse.move(x + right / 2, y - up / 2)
        expect(self.page.locator(".numbers")).to_contain_text("on white")
        self.page.mouse.move(x + right, y - up)
        self.page.mouse.up()


class MouseTests(PaletteCase):
    def test_a_ramp_is_made_a_step_dragged_and_both_undone(self):
        self.page.click("#new-ramp")
        self.page.fill("#name", "moss")
        self.page.fill("#seed", "#556b2f")
        expect(self.page.locator("#preview .step")).to_have_count(11)
        self.page.click("#adjust")
        self.page.fill("#count", "7")
        expect(self.page.locator("#preview .step")).to_have_count(7)
        self.page.select_option("#purpose", "extra")
        self.page.click("#store-ramp")
        expect(self.page.locator(".dock h2").first).to_have_text("moss")
        expect(self.page.locator(".dock .point")).to_have_count(7)

        key = self.stored().token_at("moss.3").key
        before = self.value("moss.3")
        asked = []
        self.page.on(
            "request", lambda one: asked.append(one.url) if "/numbers?" in one.url else None
        )
        self.drag(key, -24, 18)
        expect(self.point(key).locator(".moved")).to_have_count(1)
        self.assertGreaterEqual(len(asked), 1)
        was, now = (oklch(space.parse(text)) for text in (before, self.value("moss.3")))
        self.assertLess(now[0], was[0] - 0.02)
        self.assertGreater(now[1], was[1])
        expect(self.page.locator(f"#swatch-{key} .mark.moved")).to_have_count(1)

        self.page.click("#undo")
        expect(self.point(key).locator(".moved")).to_have_count(0)
        self.page.click("#undo")
        expect(self.page.locator("section[aria-label=moss]")).to_have_count(0)
        self.assertEqual(self.stored(), quillhaven.document())
        self.page.click("#redo")
        expect(self.page.locator("section[aria-label=moss]")).to_have_count(1)

    def test_while_a_step_is_dragged_the_browser_paints_what_the_server_stores(self):
        self.page.click("#ramp-coral")
        self.point("coral.7").hover()
        box = self.point("coral.7").locator("rect").first.bounding_box()
        self.page.mouse.down()
        self.page.mouse.move(box["x"] + 12, box["y"] + 12)
        expect(self.page.locator(".numbers")).to_contain_text("on white")
        style = self.page.locator("#swatch-coral\\.7 rect").get_attribute("style")
        self.assertRegex(style, r"fill: oklch\(0\.\d+ 0\.\d+ \d+")
        said = self.page.locator(".numbers").inner_text().split(",")[0]
        self.page.mouse.up()
        expect(self.point("coral.7").locator(".moved")).to_have_count(1)
        self.assertEqual(self.value("coral.7"), said)

    def test_what_a_value_changes_is_said_before_it_is_stored(self):
        self.page.click("#swatch-spruce\\.8")
        self.page.fill("#value", "oklch(0.9 0.05 160)")
        expect(self.page.locator("#impact")).to_contain_text("Breaks")
        expect(self.page.locator("#impact")).to_contain_text("text.link on surface.page")
        self.page.fill("#value", "nothing")
        expect(self.page.locator("#impact")).to_contain_text("is not a color")
        self.page.click("#store-color")
        expect(self.page.get_by_role("alert")).to_contain_text("is not a color")
        expect(self.page.locator("#value")).to_have_value("nothing")
        self.page.fill("#value", "rgb(10 90 60)")
        self.page.click("#store-color")
        expect(self.page.locator("#swatch-spruce\\.8 code")).to_have_text("0a5a3c")

    def test_a_picture_is_brought_and_its_colors_assigned(self):
        self.page.click("#from-picture")
        with TemporaryDirectory() as folder:
            path = Path(folder) / "quay.png"
            path.write_bytes(small_picture())
            self.page.set_input_files("#picture-file", str(path))
            self.page.click("#read-button")
            expect(self.page.locator("#clusters tr")).to_have_count(4)
        expect(self.page.locator(".picture .place")).to_have_count(3)
        self.page.click("details.more summary")
        self.page.select_option("#kind-0", "ramp")
        self.page.fill("#target-0", "glow")
        self.page.select_option("#kind-1", "token")
        self.page.fill("#target-1", "text.main")
        wanted = self.page.locator("#clusters code").nth(1).inner_text()
        self.page.click("#take-colors")
        expect(self.page.locator("#review")).to_contain_text("a ramp")
        self.page.click("#store-picture")
        expect(self.page.locator("section[aria-label=glow]")).to_have_count(1)
        stored = self.stored()
        key = stored.token_at("text.main").key
        self.assertEqual(resolved(stored, key).hex, wanted)

    def test_scenes_of_ideas_come_one_after_the_other_and_stay(self):
        """What is asked for meanwhile waits behind one of them at most."""
        under_way, most, come = set(), 0, []

        def begins(request: Request) -> None:
            nonlocal most
            if "/projects/new/scene" in request.url:
                under_way.add(request.url)
                most = max(most, len(under_way))

        def ends(request: Request) -> None:
            if request.url in under_way:
                under_way.discard(request.url)
                come.append(request.url)

        self.page.on("request", begins)
        self.page.on("requestfinished", ends)
        self.page.click("#ideas")
        self.page.fill("#words", "calm harbor at dusk, one warm light")
        self.page.click("#ask-button")
        scenes = self.page.locator(".idea-scenes iframe")
        expect(scenes).to_have_count(12)
        for place in range(4):
            scenes.nth(place).scroll_into_view_if_needed()
            body = scenes.nth(place).content_frame.locator("body")
            expect(body).to_contain_text("Quillhaven")
        self.assertEqual(most, 1)
        self.page.click("#look-0")  # the scenes beside it are the same, and do not load again
        expect(self.page.locator(".idea-beside iframe")).to_have_count(2)
        expect(scenes.first.content_frame.locator("body")).to_contain_text("Quillhaven")
        self.assertEqual(len(come), len(set(come)))
        self.page.route("**/projects/new/scene*", lambda _: None)  # never answered
        self.page.reload()  # the page has loaded all the same
        expect(scenes).to_have_count(12)

    def test_an_idea_is_taken_with_one_color_held(self):
        self.page.click("#ideas")
        expect(self.page.locator("#words")).to_be_visible()
        self.page.fill("#words", "calm harbor at dusk, one warm light")
        self.page.click("#ask-button")
        expect(self.page.locator(".idea")).to_have_count(6)
        expect(self.page.locator("#notice")).to_contain_text("stand-in")
        self.page.click("#hold-present-main")
        expect(self.page.locator(".idea-colors [aria-pressed]")).to_have_count(6)
        held = self.page.locator(".idea-colors li", has=self.page.locator("[aria-pressed]"))
        expect(held.locator("code").first).to_have_text("#236b53")
        self.page.click("#more-0")
        expect(self.page.locator(".idea > p b").first).to_have_text("close hues, turn 1")
        self.page.click("#look-0-2")
        expect(self.page.locator(".idea-beside iframe")).to_have_count(2)
        present, new = (
            self.page.frame_locator(".idea-beside iframe").nth(i).locator("body") for i in (0, 1)
        )
        expect(present).to_contain_text("Quillhaven")
        color = "e => getComputedStyle(e).backgroundColor"
        expect(new).to_contain_text("Quillhaven")
        for body in (present, new):  # its style sheet is there
            expect(body).not_to_have_css("background-color", "rgba(0, 0, 0, 0)")
        self.assertNotEqual(present.evaluate(color), new.evaluate(color))
        self.page.select_option("#plan-quiet", "leave")
        self.page.click("#show-plan")
        expect(self.page.locator(".idea-beside iframe").nth(1)).to_have_attribute(
            "src", re.compile("plan-quiet=leave")
        )
        self.page.click("#take-idea")
        expect(self.page.locator("h1")).to_have_text("Palette")
        expect(self.page.locator("section[aria-label='spruce 2']")).to_have_count(1)
        stored = self.stored()
        self.assertEqual(len(stored.ramps), len(quillhaven.document().ramps) + 4)
        fill = stored.token_at("action.fill").key
        self.assertEqual(resolved(stored, fill).hex, "#236b53")

    def test_a_gap_in_coverage_is_mended_by_a_click(self):
        self.page.click("#show-coverage")
        expect(self.page.locator(".needs .lacking")).to_have_count(1)
        self.page.click('[id="cover-label action.fill.pressed"]')
        expect(self.page.locator(".needs .lacking")).to_have_count(0)
        self.assertEqual(len(self.stored().pairings), 68)

    def test_colors_are_pasted_looked_at_and_stored(self):
        self.page.click("#import-colors")
        expect(self.page.locator("#text")).to_be_visible()
        self.page.fill("#text", "tide: #036\nspruce.8: #111111")
        self.page.click("#preview-button")
        expect(self.page.locator("#found tr")).to_have_count(3)
        expect(self.page.locator(".clash select")).to_have_count(1)
        self.page.click("#store-colors")
        expect(self.page.get_by_role("alert")).to_contain_text("“spruce.8” already exists.")
        self.page.select_option(".clash select", "keep")
        self.page.click("#store-colors")
        expect(self.page.locator("[id^=swatch-] .sr-only", has_text="tide")).to_have_count(1)
        self.assertEqual(self.value("spruce.8"), "#236b53")


class KeyboardTests(PaletteCase):
    def reach(self, selector, most=120):
        """Go with Tab until an element has the focus."""
        for _ in range(most):
            if self.page.evaluate("s => document.activeElement?.matches(s) ?? false", selector):
                return
            self.page.keyboard.press("Tab")
        self.fail(f"Tab does not reach {selector}")

    def press(self, *keys):
        for key in keys:
            self.page.keyboard.press(key)

    def test_a_ramp_a_step_and_undo(self):
        self.reach("#new-ramp")
        self.press("Enter")
        expect(self.page.locator("#name")).to_be_focused()
        self.page.keyboard.type("moss")
        self.reach("#seed")
        self.page.keyboard.type("#556b2f")
        expect(self.page.locator("#preview .step")).to_have_count(11)
        self.press("Enter")
        expect(self.page.locator(".dock .point")).to_have_count(11)
        key = self.stored().token_at("moss.5").key
        before = self.value("moss.5")
        self.reach(f'.point[data-token="{key}"]')
        self.press("ArrowLeft", "Shift+ArrowLeft", "ArrowUp")
        expect(self.page.locator(".numbers")).to_contain_text("on white")
        self.press("Escape")
        self.press("Shift+ArrowLeft", "Shift+ArrowUp")
        self.press("Enter")
        expect(self.point(key).locator(".moved")).to_have_count(1)
        expect(self.point(key)).to_be_focused()
        was, now = (oklch(space.parse(text)) for text in (before, self.value("moss.5")))
        self.assertAlmostEqual(now[0], was[0] - 0.02, delta=0.004)
        self.press("Control+z")
        expect(self.point(key).locator(".moved")).to_have_count(0)
        self.press("Control+z")
        expect(self.page.locator("section[aria-label=moss]")).to_have_count(0)
        self.assertEqual(self.stored(), quillhaven.document())
        self.press("Control+Shift+z")
        expect(self.page.locator("section[aria-label=moss]")).to_have_count(1)

    def open_chooser(self):
        """The file chooser of the focused field. Chromium opens none where a key comes up more than
        five seconds after it went down, as happens on a busy machine; a person presses again.
        """
        for _ in range(3):
            try:
                with self.page.expect_file_chooser(timeout=8000) as chooser:
                    self.press("Space")
                return chooser.value
            except PlaywrightTimeoutError:
                expect(self.page.locator("#picture-file")).to_be_focused()
        self.fail("no file chooser opens")

    def test_a_picture_by_keyboard(self):
        self.page.on("filechooser", lambda _: None)  # choosers are caught from here on
        self.reach("#from-picture")
        self.press("Enter")
        expect(self.page.locator("#picture-file")).to_be_visible()
        self.reach("#picture-file")
        with TemporaryDirectory() as folder:
            path = Path(folder) / "quay.png"
            path.write_bytes(small_picture())
            self.open_chooser().set_files(str(path))
            self.reach("#read-button")
            self.press("Enter")
            expect(self.page.locator("#clusters tr")).to_have_count(4)
        self.reach("details.more summary", 90)
        self.press("Enter")
        self.reach("#kind-0")
        self.page.keyboard.type("a ramp")
        self.press("Tab")
        self.page.keyboard.type("glow")
        self.press("Enter")
        expect(self.page.locator("#review")).to_be_visible()
        self.reach("#store-picture", 90)
        self.press("Enter")
        expect(self.page.locator("section[aria-label=glow]")).to_have_count(1)

    def test_an_idea_with_a_color_held_by_keyboard(self):
        self.reach("#ideas")
        self.press("Enter")
        expect(self.page.locator("#words")).to_be_focused()
        self.page.keyboard.type("brisk ferry, one gold spot")
        self.press("Enter")
        expect(self.page.locator(".idea")).to_have_count(6)
        self.reach("#hold-2-main")
        self.press("Enter")
        expect(self.page.locator(".idea-colors [aria-pressed]")).to_have_count(6)
        self.reach("#look-2")
        self.press("Enter")
        expect(self.page.locator("#take-idea")).to_be_visible()
        held = self.page.locator("#held .sw rect").first.get_attribute("fill")
        self.reach("#take-idea", 90)
        self.press("Enter")
        expect(self.page.locator("h1")).to_have_text("Palette")
        expect(self.page.locator("#undo")).to_be_enabled()
        self.assertIn(held, [dict(ramp.parameters).get("seed") for ramp in self.stored().ramps])

    def test_swatches_are_walked_with_arrows(self):
        self.reach("a.step")
        self.press("ArrowRight", "ArrowDown", "End", "ArrowLeft", "Enter")
        expect(self.page.locator(".dock h2").first).to_have_text("lamp.10")
        expect(self.page.locator("#swatch-lamp\\.10")).to_be_focused()
        self.press("Escape")
        expect(self.page.locator("#close-dock")).to_have_count(0)

    def test_a_gap_in_coverage_is_mended(self):
        gap = '[id="cover-label action.fill.pressed"]'
        self.reach(gap)
        self.press("Enter")
        expect(self.page.locator("#gaps b")).to_have_text(
            "Nothing a scheme usually needs is missing."
        )
        self.assertEqual(len(self.stored().pairings), 68)
        self.press("Control+z")
        expect(self.page.locator(gap)).to_have_count(1)
        self.assertEqual(self.stored(), quillhaven.document())
