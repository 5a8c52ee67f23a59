"""Fixes for a token, a mode or the levels of surfaces, from the pages that lead there."""

from dataclasses import replace
from unittest import mock

from demo import quillhaven
from prism.analysis import Analysis
from studio.rooms.checks import fix_all
from tests.studio.cases import RoomCase


class ScopeTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())
        patience = replace(
            fix_all._PATIENCE, longest=300, together=300
        )  # a busy machine finds the same
        self.enterContext(mock.patch.object(fix_all, "_PATIENCE", patience))

    def test_a_pairing_leads_to_all_of_its_foreground(self):
        pairings = Analysis(self.stored()).paired.pairings
        key = next(one.key for one in pairings if one.foreground == "text.faint")
        page = self.client.get(self.url("checks:room"), {"pairing": key})
        self.assertContains(page, 'id="fix-foreground"')
        page = self.client.get(self.url("checks:fix-all"), {"token": "text.faint"})
        self.assert_reads(page, "Pairings of <b>text.faint</b>.")
        self.assertContains(page, 'name="token" value="text.faint"')
        self.post("checks:take-fixes", token="text.faint", take=["0", "1"])
        texts = [value.text for _, value in self.stored().token_at("text.faint").values]
        self.assertIn("{ink.8}", texts)
        self.assertEqual(self.project.revision, 2)

    def test_new_colors_are_made_where_they_are_allowed(self):
        page = self.client.get(self.url("checks:fix-all"), {"token": "signal.go"})
        self.assert_reads(page, "Allow new colors")
        self.assertNotContains(page, "<code>#")
        page = self.client.get(self.url("checks:fix-all"), {"token": "signal.go", "colors": "1"})
        self.assert_reads(page, "Steps of the palette alone")
        self.assertContains(page, 'name="colors" value="1"')

    def test_a_mode_alone_is_fixed(self):
        page = self.client.get(self.url("checks:fix-all"), {"mode": "appearance:dim"})
        self.assert_reads(page, "in that mode")
        again = self.post("checks:take-fixes", mode="appearance:dim", take=[], again="1")
        self.assertContains(again, 'name="held"')
        for wrong in ("appearance:gone", "gone:dim", "appearance", ":"):
            page = self.client.get(self.url("checks:fix-all"), {"mode": wrong})
            self.assert_reads(page, "in every theme")

    def test_levels_are_lifted_apart_from_the_finding(self):
        page = self.client.get(self.url("exchange:room"))
        self.assert_reads(page, "Lift levels apart")
        page = self.client.get(self.url("checks:fix-all"), {"levels": "1"})
        self.assert_reads(page, "Levels rise and are apart then")
        count = page.content.decode().count('name="take"')
        self.assertGreater(count, 2)
        self.post("checks:take-fixes", levels="1", take=[str(n) for n in range(count)])
        page = self.client.get(self.url("checks:fix-all"), {"levels": "1"})
        self.assertContains(page, "No level has to be moved.")
