"""The Stage over HTTP: wrong addresses, foreign projects, zones, bindings and pairings."""

from demo import quillhaven
from studio.rooms.stage import library
from tests import roles
from tests.builders import document
from tests.studio.cases import RoomCase


class StageTests(RoomCase):
    def get(self, **query):
        return self.client.get(self.url("stage:room"), query)

    def test_wrong_words_in_every_part_of_the_address_show_a_stage(self):
        self.make(quillhaven.document())
        for query in (
            {"scene": "nowhere"}, {"panes": "a:b~x~y|||~~|appearance:dark"}, {"panes": "|" * 40},
            {"view": "spin"}, {"view": "grid", "rows": "x", "across": "y"}, {"lens": "x"},
            {"lens": "protan", "severity": "nan"}, {"lens": "blur", "severity": "-3"}, {"at": "99999"},
            {"at": "-1"}, {"at": "²"}, {"at": "3", "pane": "9"}, {"light": "gone"}, {"state": "asleep"},
            {"moves": "x-y,5-,-7,9999-1,3-3,4-2"}, {"moves": "0-5", "at": "0"}, {"dock": "unlinked"},
            {"zones": "x=y;5=appearance:gone;7=appearance:dark;;=;999=brand:vexley"}, {"dock": "yard"},
        ):  # fmt: skip
            with self.subTest(query=query):
                self.assertEqual(self.get(**query).status_code, 200)

    def test_zones_are_set_and_taken_back(self):
        self.make(quillhaven.document())
        page = self.client.get(
            self.url("stage:zone"),
            {"at": "12", "zone-appearance": "dark", "zone-brand": ""},
            follow=True,
        )
        self.assertIn("12=appearance:dark", page.context["frame"].address.zones)
        self.assertContains(page, "appearance dark")
        query = {"zones": "12=appearance:dark", "at": "12"}
        page = self.client.get(self.url("stage:zone"), query, follow=True)
        self.assertEqual(page.context["frame"].address.zones, "")
        for wrong in ("", "x", "99999", "²"):
            response = self.client.get(
                self.url("stage:zone"), {"at": wrong, "zone-appearance": "dark"}
            )
            self.assertEqual(response.status_code, 302)

    def test_a_part_is_moved_into_a_zone_and_back(self):
        self.make(quillhaven.document())
        elements = library.scene_of("departures", "Quillhaven Crossings").elements
        board, button = (
            str(next(e.place for e in elements if e.name == name)) for name in ("board", "button")
        )
        zones = f"{board}=appearance:dark"
        query = {"zones": zones, "at": button, "into": board}
        page = self.client.get(self.url("stage:move"), query, follow=True)
        self.assertEqual(page.context["frame"].address.moves, f"departures!{button}-{board}")
        self.assertContains(page, f'data-moves="[[{button}, {board}]]"')
        self.assert_reads(page, "in zone board")
        back = {"zones": zones, "moves": f"{button}-{board},2-{board}", "at": button, "into": ""}
        page = self.client.get(self.url("stage:move"), back, follow=True)
        self.assertEqual(page.context["frame"].address.moves, f"departures!2-{board}")
        for wrong in ("", "x", "99999", "²"):
            answer = self.client.get(self.url("stage:move"), {"at": wrong, "into": wrong})
            self.assertEqual(answer.status_code, 302)

    def test_zones_stay_with_their_scene(self):
        self.make(quillhaven.document())
        said = {"at": "5", "zone-appearance": "dark", "scene": "wallet"}
        page = self.client.get(self.url("stage:zone"), said, follow=True)
        zones = page.context["frame"].address.zones
        self.assertEqual(zones, "wallet!5=appearance:dark")
        other = self.client.get(self.url("stage:room"), {"scene": "departures", "zones": zones})
        self.assertEqual(other.context["panes"][0]["zones"], "[]")
        said = {"at": "7", "zone-appearance": "dim", "scene": "departures", "zones": zones}
        page = self.client.get(self.url("stage:zone"), said, follow=True)
        zones = page.context["frame"].address.zones
        self.assertEqual(zones, "wallet!5=appearance:dark|departures!7=appearance:dim")
        back = self.client.get(self.url("stage:room"), {"scene": "wallet", "zones": zones})
        self.assertIn("dark", back.context["panes"][0]["zones"])
        self.assertNotIn("dim", back.context["panes"][0]["zones"])
        self.assertContains(back, "departures!7")

    def test_the_value_that_decides_a_part_is_changed_where_it_stands(self):
        self.make(quillhaven.document())
        elements = library.scene_of("departures", "Quillhaven Crossings").elements
        button = str(next(e.place for e in elements if e.name == "button"))
        zones = f"{button}=appearance:dark"
        page = self.client.get(self.url("stage:room"), {"at": button, "zones": zones})
        self.assertContains(page, 'aria-label="action.label for appearance dark"')
        held = dict(self.stored().token("action.label").values)
        fields = {"at": button, "zones": zones, "token": "action.label", "text": "spruce.10"}
        self.assertEqual(self.post("stage:value", **fields).status_code, 302)
        now = dict(self.stored().token("action.label").values)
        changed = [condition for condition, value in now.items() if held[condition] != value]
        self.assertEqual([dict(c.picks) for c in changed], [{"appearance": "dark"}])
        self.assertEqual(now[changed[0]].text, "{spruce.10}")
        for wrong in ({"token": "gone"}, {"token": "action.label", "text": "no color"}, {}):
            answer = self.post("stage:value", **{**fields, "token": "", "text": "", **wrong})
            self.assertEqual(answer.status_code, 422)

    def test_a_slot_is_bound_and_a_pairing_added(self):
        self.make(quillhaven.document())
        self.post("stage:command", command="bind-slot", slot="ink", token="text.muted")
        self.assertEqual(dict(self.stored().scenes[0].bindings), {"ink": "text.muted"})
        sheet = self.client.get(self.url("stage:paint")).content.decode()
        self.assertIn("--slot-ink: var(--text-muted)", sheet)
        refused = self.post("stage:command", command="bind-slot", slot="ink", token="radius.card")
        self.assertContains(refused, "ink takes a color", status_code=422)
        count = len(self.stored().pairings)
        self.post(
            "stage:command", command="add-pairing", foreground="text.link", background="veil.hover",
            page="surface.card", use="text",
        )  # fmt: skip
        self.assertEqual(len(self.stored().pairings), count + 1)

    def test_a_scene_is_made_of_pieces(self):
        self.make(quillhaven.document())
        page = self.client.post(
            self.url("stage:command"),
            {"command": "make-scene", "name": "Counter", "revision": 1},
            follow=True,
        )
        key = self.stored().scenes[-1].key
        self.assertContains(page, f'id="scene-own-{key}"')
        self.post("stage:command", command="set-pieces", own=key, pieces=["table", "chart", ""])
        pane = self.client.get(self.url("stage:pane"), {"scene": f"own-{key}"})
        self.assertContains(pane, "Osprey 2")
        self.assertContains(pane, "By hour")
        self.assertNotContains(pane, "Reserve")
        refused = self.post("stage:command", command="set-pieces", own=key, pieces=["../../x"])
        self.assertContains(refused, "is no piece of a scene", status_code=422)
        self.post("stage:command", command="remove-scene", own=key)
        page = self.get(scene=f"own-{key}")
        self.assertEqual(page.context["scene"].id, "departures")

    def test_a_card_takes_any_tokens(self):
        self.make(quillhaven.document())
        page = self.get(scene="card", ink="coral.7", fill="ink.2", ground="gone", at="1")
        self.assertContains(page, "coral.7")
        self.assertContains(page, "judge-ink=coral.7")
        query = {"judge-ink": "coral.7", "judge-fill": "x}{", "revision": "1"}
        sheet = self.client.get(self.url("stage:paint"), query).content.decode()
        self.assertIn("--slot-judge-ink: var(--coral-7)", sheet)
        self.assertNotIn("--slot-judge-fill", sheet)

    def test_a_pane_can_follow_the_system(self):
        self.make(quillhaven.document())
        page = self.get(panes="appearance:system~fit~100")
        self.assertIn('"data-appearance": "system"', page.context["panes"][0]["attributes"])
        self.assertIn("data-appearance", page.context["panes"][0]["fixed"])

    def test_foreign_projects_are_staged_under_their_own_name(self):
        for name in ("flat", "package-water", "package-infima"):
            built = roles.read(name).document
            self.make(built)
            page = self.get(dock="slots")
            self.assertContains(page, "Unbound slots")
            pane = self.client.get(self.url("stage:pane"), {"scene": "crew"})
            self.assertNotContains(pane, "Quillhaven")
            self.assertNotContains(pane, "<script")

    def test_an_empty_project_says_that_there_is_nothing_to_paint_with(self):
        self.make(document())
        self.assertContains(self.get(), "There is nothing to paint with yet.")

    def test_a_project_without_axes_has_one_pane(self):
        self.make(roles.read("flat").document)
        page = self.get()
        self.assertEqual(len(page.context["panes"]), 1)
        self.assertEqual(self.get(view="grid").status_code, 200)
        self.assertEqual(self.get(view="wipe").status_code, 200)

    def test_the_number_of_queries_does_not_grow(self):
        self.make(quillhaven.document())
        self.get()
        with self.assertNumQueries(5):
            self.get(panes="~fit~100|appearance:dark~fit~100")
        with self.assertNumQueries(5):
            self.get(panes="|".join(["appearance:dark~fit~100"] * 6), at="30", dock="slots")
