"""One headless Chromium per test class, and a server on loopback."""

from __future__ import annotations

import time

from django.contrib.auth import get_user_model
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.management import CommandError
from django.test import Client, SimpleTestCase
from playwright.sync_api import expect, sync_playwright

from demo.chromium import launch
from studio.store import projects as store

# A slow machine is no failure.
expect.set_options(timeout=20_000)


class BrowserMixin:
    """Starts a browser for the class and a fresh page for each test."""

    viewport = {"width": 1280, "height": 800}

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.playwright = sync_playwright().start()
        cls.addClassCleanup(cls.playwright.stop)
        cls.browser = launch(cls.playwright)
        cls.addClassCleanup(cls.browser.close)

    def setUp(self):
        super().setUp()
        self.context = self.browser.new_context(viewport=self.viewport, reduced_motion="reduce")
        self.context.set_default_timeout(45_000)
        self.addCleanup(self.context.close)
        self.page = self.context.new_page()
        self.problems = []
        self.page.on("pageerror", lambda error: self.problems.append(str(error)))
        self.page.on(
            "console",
            lambda message: (
                self.problems.append(message.text)
                if message.type == "error" and "Failed to load resource" not in message.text
                else None
            ),
        )

    def tearDown(self):
        self.assertEqual(self.problems, [], "the page reported errors")
        super().tearDown()


class EngineTestCase(BrowserMixin, SimpleTestCase):
    """Tests that need a browser's CSS engine and no server."""


class StudioTestCase(BrowserMixin, StaticLiveServerTestCase):
    """Tests that use the application as a signed-in person."""

    def setUp(self):
        store.forget_all()
        super().setUp()
        self.user = get_user_model().objects.create_user("maren", password="a long made-up word")
        self.sign_in(self.user, self.context)

    def _fixture_teardown(self):
        """Empty the tables, again where a request that a page has left behind still reads them."""
        for pause in (0.5, 1, 2, 4, None):
            try:
                super()._fixture_teardown()
                return
            except CommandError:
                if pause is None:
                    raise
                time.sleep(pause)

    def sign_in(self, user, context):
        """Give a browser context the session of ``user``."""
        client = Client()
        client.force_login(user)
        cookie = client.cookies["sessionid"].value
        context.add_cookies([{"name": "sessionid", "value": cookie, "url": self.live_server_url}])

    def go(self, path):
        """Open a path of the application and wait until its scripts have run; returns the answer."""
        answer = self.page.goto(self.live_server_url + path)
        return answer
