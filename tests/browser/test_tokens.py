"""The Tokens room by keyboard alone, on the ladder, and as two people use it at once."""

from playwright.sync_api import expect

from demo import quillhaven
from prism.formats import css, resolver_writer
from prism.model.document import Axis, Document, Mode
from prism.palette.ramp_edits import add_ramp
from studio.store import projects as store
from studio.store.models import Project
from tests.browser.base import StudioTestCase
from tests.builders import counter_keys

PASTE = """text => {
  const clipboardData = new DataTransfer();
  clipboardData.setData("text/plain", text);
  const event = new ClipboardEvent("paste", { clipboardData, bubbles: true, cancelable: true });
  document.activeElement.dispatchEvent(event);
}"""


def files(document):
    """Everything a document is written as."""
    return resolver_writer.write(document).files | {"css": css.write(document)}


class TokensCase(StudioTestCase):
    def start(self, document):
        self.project = store.create(self.user, document)
        return store.load(self.project).document

    def stored(self):
        return store.load(Project.objects.get(pk=self.project.pk)).document

    def open(self, path):
        self.go(f"/p/{self.project.code}/tokens/{path}")

    def press(self, *keys):
        for key in keys:
            self.page.keyboard.press(key)

    def reach(self, selector, most=120):
        for _ in range(most):
            if self.page.evaluate("s => document.activeElement?.matches(s) ?? false", selector):
                return
            self.page.keyboard.press("Tab")
        self.fail(f"Tab does not reach {selector}")

    def cell(self, token, mode, page=None):
        page = page or self.page
        return page.locator(f'a.cell[data-token="{token}"][data-mode="{mode}"]')

    def revision(self, wanted):
        expect(self.page.locator(f'.route[data-revision="{wanted}"]')).to_have_count(1)


class KeyboardTests(TokensCase):
    def plain(self):
        keys = counter_keys()
        light = Axis("look", "look", (Mode("l", "light", "", "light"),), "l")
        built = Document(name="Plain", axes=(light,))
        for name, seed in (("ink", "#66737a"), ("sea", "#1e7f98")):
            built = add_ramp(built, name, {"seed": seed}, keys)
        return self.start(built)

    def test_forty_names_mapped_mirrored_pasted_undone_and_redone(self):
        self.context.grant_permissions(["clipboard-read", "clipboard-write"])
        start = self.plain()
        first_files = files(start)

        # Forty names by a scheme.
        self.open("names/?scheme=parts")
        for number, words in enumerate(
            ("panel chip badge tile", "fill label line edge bar", "rest hover")
        ):
            self.reach(f"#words-{number}")
            self.press("Control+a")
            self.page.keyboard.type(words)
        self.reach("#store-scheme")
        self.press("Enter")
        expect(self.page.locator("#names-form h2")).to_have_text("40 names")
        self.reach("#make-names")
        self.press("Enter")
        self.revision(3)
        names = [t for t in self.stored().tokens if t.tier == "semantic"]
        self.assertEqual(len(names), 40)

        # Map ten of them: pick a range of rows and map it to another ramp.
        key = {token.path: token.key for token in names}
        self.reach("a.cell")
        expect(self.cell(key["panel.fill.rest"], "l")).to_be_focused()
        self.press(*["Shift+ArrowDown"] * 9)
        expect(self.page.locator("a.cell.in-range")).to_have_count(10)
        self.press("Space")
        expect(self.page.locator("#picked")).to_have_text("10 selected")
        self.reach("#intent")
        self.page.keyboard.type("Map")
        self.reach("select[name=ramp]")
        self.page.keyboard.type("sea")
        expect(self.page.locator("#bulk-preview")).to_contain_text("10 changes")
        self.reach("#bulk-apply")
        self.press("Enter")
        self.revision(4)
        mapped = [t for t in self.stored().tokens if t.tier == "semantic"][:10]
        self.assertTrue(all(t.value().text.startswith("{sea.") for t in mapped))

        # A dark mode as a mirrored copy.
        self.open("axes/")
        self.reach("#add-mode-look")
        self.press("Enter")
        expect(self.page.locator("#new-mode")).to_be_focused()
        self.page.keyboard.type("dark")
        self.press("Enter")
        expect(self.page.locator("#take-mode")).to_be_enabled()
        expect(self.page.locator("#proposal-rows tr")).not_to_have_count(1)
        self.reach("#take-mode", 200)
        self.press("Enter")
        self.revision(5)
        dark = self.stored().axes[0].modes[-1]
        self.assertEqual((dark.name, dark.color_scheme), ("dark", "dark"))

        # Remap a range by copying one and pasting it onto another.
        self.open("")
        self.reach("a.cell")
        self.press("Shift+ArrowDown", "Shift+ArrowDown", "Shift+ArrowRight")
        expect(self.page.locator("a.cell.in-range")).to_have_count(6)
        self.press("Control+c")
        self.press(*["ArrowDown"] * 10, "ArrowLeft")
        expect(self.cell(key["chip.label.rest"], "l")).to_be_focused()
        self.press("Control+v")
        self.revision(6)
        end = self.stored()
        made = [t for t in end.tokens if t.tier == "semantic"]
        for was, now in zip(made[:3], made[12:15], strict=True):
            shown = [self.cell(one.key, "l").get_attribute("data-value") for one in (was, now)]
            self.assertEqual(shown[0], shown[1])
            shown = [self.cell(one.key, dark.key).get_attribute("data-value") for one in (was, now)]
            self.assertEqual(shown[0], shown[1])

        # Undo all of it, and redo.
        for number in range(5):
            self.press("Control+z")
            self.revision(7 + number)
        self.assertEqual(self.stored(), start)
        self.assertEqual(files(self.stored()), first_files)
        for number in range(5):
            self.press("Control+Shift+z")
            self.revision(12 + number)
        self.assertEqual(self.stored(), end)

    def test_a_value_is_typed_filled_down_cleared_and_folded_away(self):
        self.start(quillhaven.document())
        self.open("?find=text.")
        self.reach("a.cell")
        expect(self.cell("text.main", "light")).to_be_focused()
        self.page.keyboard.type("ink.9")
        expect(self.page.locator(".typing input")).to_have_value("ink.9")
        expect(self.page.locator(".typing [role=option]").first).to_contain_text("ink.9")
        self.press("Enter")
        expect(self.cell("text.main", "light")).to_contain_text("ink.9")
        expect(self.cell("text.muted", "light")).to_be_focused()
        self.revision(2)
        self.press("ArrowUp")
        self.press("Shift+ArrowDown", "Control+d")
        expect(self.cell("text.muted", "light")).to_contain_text("ink.9")
        self.press("Shift+ArrowDown", "Control+Shift+d")
        expect(self.cell("text.muted", "light")).to_contain_text("ink.10")
        self.press("Tab")
        expect(self.cell("text.main", "dark")).to_be_focused()
        self.press("Delete")
        expect(self.cell("text.main", "dark")).to_contain_class("inherited")
        self.press("Control+z", "Shift+Tab")
        self.page.locator("#fold-semantic-text").focus()
        self.press("Enter")
        expect(self.cell("text.main", "dark")).to_have_count(0)

    def test_the_value_box_finds_a_color_by_its_looks_and_the_shelf_fills_it(self):
        self.start(quillhaven.document())
        self.open("?cell=text.link:light")
        expect(self.page.locator("#value")).to_be_focused()
        self.press("Control+a")
        self.page.keyboard.type("#246c54")
        expect(self.page.locator("#options [role=option]").first).to_contain_text("spruce.8")
        self.press("ArrowDown", "Enter")
        expect(self.page.locator("#value")).to_have_value("spruce.8")
        self.page.locator("#pick-from summary").focus()
        self.press("Enter")
        self.page.locator('.shelf button[data-value="coral.7"]').focus()
        self.press("Enter")
        expect(self.page.locator("#value")).to_have_value("coral.7")
        expect(self.page.locator("#impact")).to_contain_text("#cf462f")

    def test_a_mark_is_moved_on_the_ladder_by_key_and_by_mouse(self):
        self.start(quillhaven.document())
        self.open("map/ladder?group=text")
        mark = self.page.locator("#mark-text\\.muted-light")
        mark.focus()
        self.press("ArrowRight", "Escape", "ArrowLeft", "Enter")
        self.revision(2)
        self.assertEqual(self.stored().token("text.muted").value().text, "{ink.7}")
        mark.drag_to(self.page.locator('.rung[data-step="ink.9"]').first)
        self.revision(3)
        self.assertEqual(self.stored().token("text.muted").value().text, "{ink.9}")


class LaterRowsTests(TokensCase):
    """Rows that are not there yet are as good as those that are."""

    def setUp(self):
        super().setUp()
        keys = counter_keys()
        built = Document(name="Many")
        for number in range(20):
            built = add_ramp(built, f"ramp {number}", {"seed": "#1e7f98", "count": "20"}, keys)
        self.start(built)
        self.paths = [token.path for token in built.tokens]
        self.open("")
        self.assertLess(self.page.locator("a.cell").count(), 200)

    def at(self, number):
        return self.cell(self.stored().token_at(self.paths[number]).key, "")

    def scroll(self):
        self.page.locator("#sheet-body").evaluate("e => e.scrollTo(0, e.scrollHeight)")

    def texts(self):
        return [self.stored().token_at(path).value().text for path in self.paths]

    def test_they_come_when_they_come_into_sight(self):
        self.scroll()
        expect(self.at(-1)).to_be_visible()

    def test_an_opened_cell_is_in_sight_wherever_it_lies(self):
        key = self.stored().token_at(self.paths[-1]).key
        self.open(f"?cell={key}:")
        expect(self.at(-1)).to_be_in_viewport()
        self.page.click("#pick-from summary")
        expect(self.page.locator(".shelf button").first).to_be_visible()
        expect(self.at(-1)).to_be_in_viewport()

    def test_a_block_that_did_not_come_is_asked_for_again(self):
        failed = []

        def once(route):
            failed.append(route.request.url)
            route.fulfill(status=503) if failed.count(route.request.url) == 1 else route.continue_()

        self.page.route("**/rows?*", once)
        self.scroll()
        expect(self.at(-1)).to_be_visible()
        self.assertGreaterEqual(len(failed), 2)

    def test_a_long_range_is_pasted_from_one_cell(self):
        self.at(2).focus()
        lines = [f"#{number:06x}" for number in range(300)]
        self.page.evaluate(PASTE, "\n".join(lines))
        self.revision(2)
        self.assertEqual(self.texts()[2:302], lines)
        self.assertNotIn(self.texts()[302], lines)

    def test_a_range_to_the_far_end_holds_every_row_between(self):
        self.at(0).focus()
        self.scroll()
        self.at(-1).click(modifiers=["Shift"])
        expect(self.page.locator("a.cell.in-range")).to_have_count(len(self.paths))
        self.press("Control+d")
        self.revision(2)
        self.assertEqual(set(self.texts()), {self.texts()[0]})

    def test_a_range_with_rows_that_do_not_come_stores_nothing(self):
        self.page.route("**/rows?*", lambda route: route.fulfill(status=503))
        self.at(2).focus()
        self.page.evaluate(PASTE, "\n".join(["#123456"] * 300))
        expect(self.page.get_by_role("alert")).to_contain_text("Nothing was stored; try again.")
        self.assertNotIn("#123456", self.texts())

    def test_arrows_wait_for_the_next_row(self):
        last = self.page.locator("a.cell").last
        last.focus()
        token = last.get_attribute("data-token")
        self.press("ArrowDown")
        following = [one.key for one in self.stored().tokens]
        wanted = following[following.index(token) + 1]
        expect(self.cell(wanted, "")).to_be_focused()

    def test_the_focus_comes_back_with_its_row(self):
        self.scroll()
        self.at(-1).focus()
        self.page.evaluate(PASTE, "#123456")
        self.revision(2)
        expect(self.at(-1)).to_be_focused()

    def test_rows_that_were_there_stay_until_fresh_ones_come(self):
        self.scroll()
        was = self.at(-1).inner_text()
        held, open_now = [], []

        def later(route):
            route.continue_() if open_now else held.append(route)

        self.page.route("**/rows?*", later)
        self.at(-1).focus()
        self.page.evaluate(PASTE, "#123456")
        self.revision(2)
        expect(self.page.locator("tbody.later").last).to_contain_text(was)
        expect(self.at(-1)).to_be_focused()
        open_now.append(True)
        for route in held:
            route.continue_()
        expect(self.at(-1)).to_contain_text("#123456")
        expect(self.at(-1)).to_be_focused()
