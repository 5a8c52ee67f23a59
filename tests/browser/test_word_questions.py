"""Questions about the words of names, by keyboard alone and on a slow line."""

from playwright.sync_api import expect

from studio.store import projects as store
from studio.store.models import Project
from tests import roles
from tests.browser import axe
from tests.browser.base import StudioTestCase

#: 150 ms away.
SLOW = {"offline": False, "latency": 150, "downloadThroughput": -1, "uploadThroughput": -1}


class WordQuestionTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, roles.read("untaught/kiosk").document)
        self.room = f"/p/{self.project.code}/tokens/roles/"
        slow = self.context.new_cdp_session(self.page)
        slow.send("Network.enable")
        slow.send("Network.emulateNetworkConditions", SLOW)

    def words(self):
        document = store.load(Project.objects.get(pk=self.project.pk)).document
        return [(word.key, word.meaning) for word in document.words]

    def asked(self, *words):
        expect(self.page.locator("#asked")).to_contain_text(words[0])
        expect(self.page.locator("#question")).to_be_focused()

    def key_of(self, meaning):
        """The key that answers with a meaning."""
        return self.page.locator(f".choice[value={meaning}]").get_attribute("data-key")

    def test_one_key_answers_a_word_and_the_next_one_follows(self):
        self.go(self.room)
        self.asked("Slate")
        expect(self.page.get_by_text("114 of 114 colors not sure")).to_be_visible()
        self.page.keyboard.press(self.key_of("surface"))
        self.asked("Chalk")
        self.page.keyboard.press("n")
        expect(self.page.locator("#asked")).not_to_contain_text("Chalk")
        self.page.go_back()
        self.asked("Chalk")
        self.page.keyboard.press(self.key_of("text"))
        expect(self.page.get_by_text("Answered “chalk”: text.")).to_be_visible()
        self.assertEqual(self.words(), [("slate", "surface"), ("chalk", "text")])
        self.page.keyboard.press("Control+z")
        self.asked("Chalk")
        self.assertEqual(self.words(), [("slate", "surface")])

    def test_a_key_pressed_twice_answers_once(self):
        self.go(self.room)
        self.asked("Slate")
        self.page.keyboard.press("1")
        self.page.keyboard.press("1")
        self.asked("Chalk")
        self.assertEqual(self.words(), [("slate", "surface")])

    def test_something_else_is_picked_and_the_keys_are_those_of_the_next_question(self):
        self.go(self.room + "?word=plank")
        self.asked("Plank")
        self.page.select_option("#other-meaning", "page")
        self.page.click("#answer-meaning")
        self.asked("Chalk")
        self.page.keyboard.press(self.key_of("text"))
        self.asked("Slate")
        self.assertEqual(self.words(), [("plank", "page"), ("chalk", "text")])

    def test_words_are_picked_by_hand_and_tokens_asked_one_by_one(self):
        self.go(self.room)
        self.page.click("nav a:has-text('Rope')")
        self.asked("Rope")
        expect(self.page.locator(".by-word nav [aria-current]")).to_contain_text("Rope")
        self.page.click("text=Ask by token")
        expect(self.page.locator("#asked code")).to_have_text("plank")
        self.page.click("text=Ask by word instead")
        self.asked("Slate")

    def test_the_page_has_no_violation_and_fits_a_small_window(self):
        self.go(self.room)
        self.asked("Slate")
        for chrome in ("light", "mid", "dark"):
            self.page.evaluate(
                "chrome => (document.documentElement.dataset.chrome = chrome)", chrome
            )
            self.assertEqual(axe.violations(self.page), [], chrome)
        for width in (640, 900):
            self.page.set_viewport_size({"width": width, "height": 400})
            body = self.page.locator("#roles-body")
            wide = body.evaluate("body => body.scrollWidth - body.clientWidth")
            self.assertLessEqual(wide, 0, width)
