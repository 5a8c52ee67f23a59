"""The balance of colors: compared, made even, set by hand."""

from demo import quillhaven
from prism.model.values import Condition
from prism.resolution.resolver import Resolver
from tests.builders import document, token
from tests.studio.cases import RoomCase

DARK = {"axis": "appearance", "standard": "light", "mode": "dark"}


class BalanceTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def command(self, command, **fields):
        return self.post("balance:command", command=command, **DARK, **fields)

    def test_every_brand_is_compared_in_two_modes(self):
        page = self.client.get(self.url("balance:room"))
        self.assert_reads(page, "27 of 27 colors stronger or weaker in dark")
        self.assertContains(page, "stronger by 51")
        self.assertContains(page, 'fill="#e7e57f"')
        page = self.client.get(self.url("balance:room"), {"standard": "dark", "mode": "dim"})
        self.assert_reads(page, "How strongly each color stands out in dark and in dim")

    def test_a_color_is_made_even_for_its_brand_alone(self):
        vexley = '[["brand", "vexley"]]'
        page = self.client.get(
            self.url("balance:room"), {"token": "highlight.fill", "brand": "vexley"}
        )
        self.assertContains(page, "#5f5c00")
        self.command("make-even", token="highlight.fill", where=vexley)
        stored = self.stored().token("highlight.fill")
        condition = Condition.of({"appearance": "dark", "brand": "vexley"})
        self.assertEqual(stored.value(condition).text, "#5f5c00")
        page = self.client.get(self.url("balance:room"))
        self.assert_reads(page, "26 of 27 colors stronger or weaker in dark")
        self.assertContains(page, "stronger by 34", 2)  # the other brands are as they were

    def test_a_color_is_as_strong_as_is_asked_and_wrong_input_is_said(self):
        would = self.client.get(
            self.url("balance:preview"), {"token": "signal.go", "brand": "tarnmoor", "gap": "40"}
        )
        self.assertContains(would, "40 L*")
        for gap in ("", "x", "nan", "-1", "101"):
            said = {"token": "signal.go", "gap": gap}
            self.assertNotContains(self.client.get(self.url("balance:preview"), said), "L*")
        self.command("make-even", token="signal.go", gap="40")
        resolver = Resolver(self.stored())
        night = resolver.theme({"appearance": "dark"})
        self.assertNotEqual(resolver.resolve("signal.go", night).hex, "#67c47e")
        for fields, sentence in (
            ({"token": "signal.go", "gap": "much"}, "not a number"),
            ({"token": "gone"}, "no longer there"),
            ({"token": "signal.go", "where": "broken"}, "cannot be read"),
        ):
            self.assertEqual(self.command("make-even", **fields).status_code, 422, sentence)

    def test_all_are_made_even_and_undone(self):
        self.command("make-all-even")
        page = self.client.get(self.url("balance:room"))
        self.assert_reads(page, "0 of 27 colors stronger or weaker in dark")
        self.assertNotContains(page, "make-all-even")
        self.client.post(self.url("projects:undo"), {"next": self.url("balance:room")})
        self.assertEqual(self.stored(), quillhaven.document())

    def test_where_there_is_one_mode_or_no_such_color(self):
        self.make(document(token("page", "#fff"), token("action.fill", "#125"), axes=()))
        self.assertContains(self.client.get(self.url("balance:room")), "There is one mode only.")
        self.make(document(token("a", "#fff"), token("b", "#125")))
        self.assertContains(self.client.get(self.url("balance:room")), "No color here carries")
