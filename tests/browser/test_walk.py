"""A walk over every visible control and key, on the demo and on names of somebody else's."""

import os

from bench.walk import OUTSIDE, WIDTHS, walk
from demo import quillhaven
from prism.model.whole import flaws
from studio.store import projects as store
from studio.store.models import Project
from tests.browser.test_tokens import TokensCase
from tests.browser.test_typing import strange
from tests.studio.test_people import ROOMS

#: Steps of both walks together; NIMBLE_PRISM_STEPS asks for more.
STEPS = int(os.environ.get("NIMBLE_PRISM_STEPS", "160"))


class WalkTests(TokensCase):
    def setUp(self):
        super().setUp()
        self.second = self.context.new_page()
        self.second.on("pageerror", lambda error: self.problems.append(str(error)))

    def walk(self, built, steps, seed):
        self.start(built)
        wrong = []
        walk(
            [self.page, self.second],
            self.live_server_url,
            self.project.code,
            steps,
            seed,
            wrong.append,
        )
        self.assertEqual(wrong, [])
        store.forget_all()
        loaded = store.load(Project.objects.get(pk=self.project.pk))
        self.assertEqual(flaws(loaded.document), [])

    def test_the_demo(self):
        self.walk(quillhaven.document(), STEPS // 2, 1)

    def test_a_project_of_other_names(self):
        self.walk(strange(), STEPS // 2, 2)


class WidthTests(TokensCase):
    def test_nothing_lies_outside_the_window_with_long_names_at_any_width(self):
        from django.urls import reverse

        self.start(strange(8, long=True))
        for name in (*(f"{room}:room" for room in ROOMS), "measures:copy"):
            self.go(reverse(name, args=[self.project.code]))
            for width in WIDTHS:
                self.page.set_viewport_size({"width": width, "height": 800})
                with self.subTest(name=name, width=width):
                    self.assertEqual(self.page.evaluate(OUTSIDE), [])
