"""What is typed and not stored yet is kept: through another room, a closed tab, a minute without a connection."""

from playwright.sync_api import expect

from demo import quillhaven
from studio.store import projects as store
from tests.browser.base import StudioTestCase
from tests.browser.test_typing import SlowCase

KEY = "text.main"


class DraftTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, quillhaven.document())

    def room(self, rest):
        self.go(f"/p/{self.project.code}/{rest}")

    def details(self):
        self.room(f"tokens/?cell={KEY}:light&view=page")

    def describe(self, words):
        self.page.fill("#token-description", words)
        self.page.select_option("#token-type", "color")

    def test_a_description_survives_another_room_and_a_closed_tab(self):
        self.details()
        self.describe("The words of the page,\nin two lines.")
        self.page.click("#room-1")
        expect(self.page.locator("#room-1")).to_have_attribute("aria-current", "page")
        self.page.go_back()
        expect(self.page.locator("#token-description")).to_have_value(
            "The words of the page,\nin two lines."
        )
        self.page.close()
        self.page = self.context.new_page()
        self.details()
        expect(self.page.locator("#token-description")).to_have_value(
            "The words of the page,\nin two lines."
        )
        expect(self.page.locator(".draft-note")).to_contain_text("was not stored yet")
        self.page.click("#store-page")
        expect(self.page.locator(".says").first).to_contain_text("Described")
        self.assertIn(
            "two lines", store.load(store.Project.objects.get()).document.token(KEY).description
        )
        self.details()
        expect(self.page.locator(".draft-note")).to_have_count(0)

    def test_a_draft_is_of_its_own_token_and_can_be_discarded(self):
        self.details()
        before = self.page.input_value("#token-description")
        self.describe("half a thought")
        self.room("tokens/?cell=text.muted:light&view=page")
        self.assertNotEqual(self.page.input_value("#token-description"), "half a thought")
        self.details()
        expect(self.page.locator("#token-description")).to_have_value("half a thought")
        self.page.click(".draft-note button")
        expect(self.page.locator("#token-description")).to_have_value(before)
        self.details()
        expect(self.page.locator("#token-description")).to_have_value(before)

    def test_a_refused_form_keeps_what_was_typed(self):
        self.details()
        self.page.fill("#token-path", "surface.page")
        self.describe("kept though refused")
        self.page.click("#store-page")
        expect(self.page.locator("#problem")).to_be_visible()
        self.details()
        expect(self.page.locator("#token-description")).to_have_value("kept though refused")

    def test_a_new_project_half_filled_is_there_again(self):
        self.go("/projects/new")
        self.page.fill("#id_name", "Harbor")
        self.page.fill("#id_more", "moor: #8a2f6b")
        self.page.press("#id_more", "Enter")
        expect(self.page.locator(".chip:not(.adds)")).to_have_count(1)
        self.page.check("input[value=dense-tool]")
        self.go("/projects/")
        self.go("/projects/new")
        expect(self.page.locator("#id_name")).to_have_value("Harbor")
        expect(self.page.locator(".chip:not(.adds)")).to_have_count(1)
        expect(self.page.locator("input[value=dense-tool]")).to_be_checked()
        self.page.click("#create")
        expect(self.page.locator(".route")).to_contain_text("Harbor")
        self.go("/projects/new")
        expect(self.page.locator("#id_name")).not_to_have_value("Harbor")

    def test_passwords_are_never_kept(self):
        self.go("/account/password")
        for field in self.page.locator("input[type=password]").all():
            field.fill("a long made-up word")
        kept = self.page.evaluate("JSON.stringify({...localStorage})")
        self.assertNotIn("made-up", kept)


class OfflineTests(SlowCase):
    def test_no_connection_is_said_at_once_and_a_click_does_not_give_up_the_write(self):
        self.open("?cell=b0:light&view=page")
        expect(self.page.locator("#token-description")).to_be_visible()
        self.page.fill("#token-description", "typed at sea")
        self.offline(True)
        self.page.click("#store-page")
        said = self.page.locator("#notes .says.error")
        expect(said).to_contain_text("no connection", timeout=3_000, ignore_case=True)
        self.page.click("#room-1")
        self.offline(False)
        self.page.wait_for_timeout(100)
        self.open("?cell=b0:light&view=page")
        expect(self.page.locator("#token-description")).to_have_value("typed at sea")

    def test_cells_typed_before_a_tab_closed_are_sent_by_the_next_page(self):
        cell = self.page.locator("a.cell[data-token=b3]").first
        cell.focus()
        self.offline(True)
        self.page.keyboard.type("#123456")
        self.page.keyboard.press("Enter")
        self.page.keyboard.type("#654321")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#notes .says.error")).to_contain_text("no connection")
        self.page.evaluate("window.onbeforeunload = null")
        self.page.close(run_before_unload=False)
        self.page = self.context.new_page()
        self.open("")
        expect(self.page.locator("a.cell[data-token=b4] code").first).to_have_text("#654321")
        self.assertEqual(self.stored().token("b3").value().text, "#123456")
        self.assertEqual(self.stored().token("b4").value().text, "#654321")

    def again(self):
        """The sheet in another tab, once this one is gone."""
        self.page.close(run_before_unload=False)
        self.page = self.context.new_page()
        self.open("")

    def test_a_text_that_was_refused_after_the_connection_came_back_is_there_again(self):
        self.page.locator("a.cell[data-token=b1][data-mode=night]").focus()
        self.offline(True)
        self.page.keyboard.type("q825636")
        self.page.keyboard.press("Tab")
        self.page.wait_for_timeout(500)
        self.offline(False)
        expect(self.page.locator("#value")).to_have_value("q825636")
        self.again()
        expect(self.page.locator("np-sheet [data-typing] input")).to_have_value("q825636")
        self.page.keyboard.press("Control+a")
        self.page.keyboard.type("#123456")
        self.page.keyboard.press("Enter")
        expect(self.page.locator("a.cell[data-token=b1][data-mode=night] code")).to_have_text(
            "#123456"
        )
        self.again()
        expect(self.page.locator("np-sheet [data-typing]")).to_have_count(0)

    def test_who_opens_another_page_is_left_there_when_a_text_of_before_is_refused(self):
        self.page.locator("a.cell[data-token=b1][data-mode=night]").focus()
        self.offline(True)
        self.page.keyboard.type("q986266")
        self.page.keyboard.press("Enter")
        self.page.close(run_before_unload=False)
        self.page = self.context.new_page()  # whose connection is whole
        self.open("?cell=b2:light&view=page")
        self.page.locator("#token-description").focus()
        self.page.keyboard.type("half a thought", delay=60)
        expect(self.page.locator(".kept-text")).to_contain_text("q986266")
        expect(self.page.locator("#token-description")).to_have_value("half a thought")
        self.assertIn("cell=b2", self.page.url)
        self.again()
        self.open("?cell=b2:light&view=page")
        expect(self.page.locator("#token-description")).to_have_value("half a thought")

    def test_two_texts_for_one_cell_are_both_there_again(self):
        menu = self.page.locator("a[id^=menu-]").first.get_attribute("href")
        address = f"/p/{self.project.code}/tokens/{menu}"
        for text in ("q111111", "q222222"):
            self.go(address)  # a field of this page has the focus: a text is offered beside it
            self.page.locator("a.cell[data-token=b1][data-mode=night]").focus()
            self.page.keyboard.type(text)
            self.again()
        for _ in range(2):
            self.go(address)
            offered = self.page.locator(".kept-text")
            expect(offered).to_have_count(2)
            expect(offered.filter(has_text="q111111")).to_have_count(1)
            expect(offered.filter(has_text="q222222")).to_have_count(1)

    def test_a_new_project_that_becomes_an_import_keeps_what_was_typed(self):
        self.go("/projects/new")
        self.page.fill("#id_name", "Harbor")
        self.page.click("#import-files")
        expect(self.page.locator(".route")).to_contain_text("Harbor")
        self.go("/projects/new")
        expect(self.page.locator("#id_name")).to_have_value("Harbor")

    def test_a_cell_that_is_half_typed_is_half_typed_again(self):
        self.page.locator("a.cell[data-token=b2]").first.focus()
        self.page.keyboard.type("#12")
        self.again()
        expect(self.page.locator("np-sheet [data-typing] input")).to_have_value("#12")
        self.page.keyboard.press("Escape")
        self.again()
        expect(self.page.locator("np-sheet [data-typing]")).to_have_count(0)
        self.assertEqual(self.stored().token("b2").value().text, "#ffffff")

    def test_no_letter_is_lost_where_an_answer_comes_while_one_types_elsewhere(self):
        self.open("?cell=b0:light&view=page")
        expect(self.page.locator("#token-description")).to_be_visible()
        self.page.locator("a.cell[data-token=b3]").first.focus()
        self.page.keyboard.type("#123456")
        self.page.locator("#token-uses").click()
        self.page.keyboard.type("the words that are typed while an answer is on its way", delay=60)
        expect(self.page.locator("np-region:not([aria-busy])")).to_have_count(1)
        self.assertEqual(self.stored().token("b3").value().text, "#123456")
        expect(self.page.locator("#token-uses")).to_have_value(
            "the words that are typed while an answer is on its way"
        )
