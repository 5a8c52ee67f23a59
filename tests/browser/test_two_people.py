"""Two people in one sheet."""

from django.contrib.auth import get_user_model
from playwright.sync_api import expect

from demo import quillhaven
from studio.store.models import Membership
from tests.browser.test_tokens import TokensCase


class TwoPeopleTests(TokensCase):
    def setUp(self):
        super().setUp()
        self.start(quillhaven.document())
        self.other_user = get_user_model().objects.create_user("tove")
        Membership.objects.create(project=self.project, user=self.other_user, role="editor")
        other = self.browser.new_context(viewport=self.viewport)
        other.set_default_timeout(15_000)
        self.addCleanup(other.close)
        self.sign_in(self.other_user, other)
        self.other = other.new_page()

    def both_open(self, path, other=None):
        self.open(path)
        self.other.goto(f"{self.live_server_url}/p/{self.project.code}/tokens/{other or path}")
        expect(self.other.locator("h1")).to_have_text("Tokens")

    def store(self, page, value):
        page.fill("#value", value)
        page.locator("#store").click()

    def test_different_cells_are_both_kept_and_seen_within_seconds(self):
        self.both_open("?find=text&cell=text.main:light", "?find=text&cell=text.muted:light")
        self.store(self.page, "ink.10")
        expect(self.cell("text.main", "light")).to_contain_text("ink.10")
        self.store(self.other, "ink.7")
        expect(self.cell("text.muted", "light", self.other)).to_contain_text("ink.7")
        expect(self.cell("text.main", "light", self.other)).to_contain_text("ink.10")
        self.page.keyboard.press("Escape")
        expect(self.cell("text.muted", "light")).to_contain_text("ink.7")
        stored = self.stored()
        self.assertEqual(stored.token("text.main").value().text, "{ink.10}")
        self.assertEqual(stored.token("text.muted").value().text, "{ink.7}")

    def test_the_same_cell_shows_both_values_and_one_is_chosen(self):
        self.both_open("?find=text&cell=text.main:light")
        self.store(self.page, "ink.10")
        expect(self.cell("text.main", "light")).to_contain_text("ink.10")
        self.store(self.other, "ink.9")
        clash = self.other.locator("#clash")
        expect(clash).to_contain_text("maren stored {ink.10} here while you typed {ink.9}.")
        self.assertEqual(self.stored().token("text.main").value().text, "{ink.10}")
        self.other.click("#keep-mine")
        expect(self.cell("text.main", "light", self.other)).to_contain_text("ink.9")
        labels = list(self.project.journal.values_list("label", "actor__username"))
        self.assertEqual([name for _, name in labels[-2:]], ["maren", "tove"])
        self.assertIn("{ink.10}", labels[-2][0])
        self.assertIn("{ink.9}", labels[-1][0])

    def test_the_value_of_the_other_is_kept_and_the_journal_has_both(self):
        self.both_open("?cell=text.main:light")
        self.store(self.page, "ink.10")
        expect(self.cell("text.main", "light")).to_contain_text("ink.10")
        self.store(self.other, "ink.9")
        self.other.click("#keep-theirs")
        expect(self.cell("text.main", "light", self.other)).to_contain_text("ink.10")
        expect(self.other.locator("#value")).to_have_value("{ink.10}")
        self.revision(3)
        self.assertEqual(self.stored().token("text.main").value().text, "{ink.10}")
        last = self.project.journal.last()
        self.assertEqual(
            (last.label, last.actor.get_username()),
            ("Kept {ink.10} over ink.9 in text.main for every mode", "tove"),
        )
        self.open("?cell=text.main:light&view=page")
        expect(self.page.locator("#token-history")).to_contain_text("Kept {ink.10} over ink.9")
        self.page.click("#undo")
        expect(self.cell("text.main", "light")).to_contain_text("ink.11")

    def test_a_rename_merges_with_a_value_and_a_removed_mode_asks(self):
        self.both_open("?cell=text.link:light&view=page", "?cell=text.link:dim")
        self.page.fill("#token-path", "text.way")
        self.page.click("#store-page")
        self.revision(2)
        self.store(self.other, "lamp.7")
        expect(self.cell("text.link", "dim", self.other)).to_contain_text("lamp.7")
        stored = self.stored().token("text.link")
        self.assertEqual(stored.path, "text.way")
        self.open("axes/")
        self.other.goto(f"{self.live_server_url}/p/{self.project.code}/tokens/?cell=text.main:dim")
        expect(self.other.locator("#value")).to_be_focused()
        self.page.click("#mode-menu-dim")
        self.page.click("#remove-mode-dim")
        self.revision(4)
        self.store(self.other, "lamp.3")
        expect(self.other.get_by_role("alert")).to_contain_text("The mode dim was removed by")
        self.assertEqual(len(self.stored().axes[0].modes), 2)
