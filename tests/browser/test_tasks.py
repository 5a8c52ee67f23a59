"""A long task seen in its page: told, stopped, started again, and shown when it is over."""

from unittest import mock

from playwright.sync_api import expect

from demo import quillhaven
from studio import solving
from studio.store import projects as store
from studio.store import tasks
from studio.store.models import LongTask
from studio.work.tasks import perform
from tests.browser import axe
from tests.browser.base import StudioTestCase


class TaskTests(StudioTestCase):
    def setUp(self):
        super().setUp()
        self.project = store.create(self.user, quillhaven.document())
        self.enterContext(mock.patch.object(solving, "MOST_PAIRINGS", 10))
        self.go(f"/p/{self.project.code}/checks/fix")

    def test_it_is_told_stopped_started_again_and_shown(self):
        page, panel = self.page, self.page.locator("np-task")
        page.focus("#solve")
        page.keyboard.press("Enter")
        expect(panel).to_contain_text("waiting for a free worker")
        self.assertEqual(axe.violations(page), [])
        task = tasks.begin(LongTask.objects.get().code)
        tasks.tell(task, 0.4, "dark: 3 answers found.")
        expect(panel).to_contain_text("dark: 3 answers found.")
        expect(panel.locator("progress")).to_have_js_property("value", 0.4)
        page.click("#stop-task")
        expect(panel).to_be_visible()
        tasks.end(task, "stopped", "It was stopped before anything was found.")
        expect(page.get_by_role("alert")).to_contain_text("It was stopped")

        page.click("#solve")
        expect(panel).to_contain_text("waiting for a free worker")
        address = page.url
        self.go(f"/p/{self.project.code}/palette/")
        page.goto(address)
        expect(panel).to_contain_text("waiting for a free worker")
        perform(LongTask.objects.last().code)
        expect(page.locator("#moves")).to_be_visible()
        expect(panel).to_have_count(0)
        page.click("#take-fixes")
        expect(page.locator(".says").first).to_contain_text("Fixed")
        self.assertEqual(store.load(self.project).revision, 2)
