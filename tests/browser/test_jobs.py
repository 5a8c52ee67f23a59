"""The jobs of the first hour, by mouse and by keyboard alone, with 150 ms to the server and back."""

from __future__ import annotations

from bench.jobs.hand import Hand, KeyboardHand, slow
from bench.jobs.work import JOBS
from tests.browser.base import StudioTestCase

JOB = {job.id: job for job in JOBS}


class EveryJob:
    """Each job comes to what it is done for, which it proves itself outside the page."""

    def test_three_colors_become_a_scheme(self):
        self.do("J0")

    def test_literals_are_linked(self):
        self.do("J1")

    def test_literals_get_a_dark_mode(self):
        self.do("J2")

    def test_a_brand_more(self):
        self.do("J4")

    def test_failing_pairings_are_seen(self):
        self.do("J5")

    def test_a_failing_pairing_is_fixed(self):
        self.do("J6")

    def test_colors_are_seen_with_other_eyes(self):
        self.do("J7")

    def test_roles_from_a_picture(self):
        self.do("J8")

    def test_another_theme(self):
        self.do("J9")

    def test_colors_under_names_of_their_own_are_understood(self):
        self.do("J13")

    def hand(self, kind, id):
        slow(self.page)
        hand = kind(self.page, self.live_server_url)
        JOB[id].do(hand, self.user)
        return hand


class MouseTests(EveryJob, StudioTestCase):
    def do(self, id):
        self.assertLessEqual(len(self.hand(Hand, id).actions), JOB[id].most)


class KeyboardTests(EveryJob, StudioTestCase):
    def do(self, id):
        self.assertTrue(self.hand(KeyboardHand, id).actions)
