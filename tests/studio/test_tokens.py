"""The Tokens room over HTTP: many cells at once, links, names, axes, and what two people change."""

import json
import re

from django.contrib.auth import get_user_model
from django.db import connection
from django.test.utils import CaptureQueriesContext

from demo import quillhaven
from prism.model.values import Condition
from studio.store import projects as store
from studio.store.models import Membership, Project
from tests.builders import document, token
from tests.studio.cases import RoomCase

DARK = Condition.of({"appearance": "dark"})


class TokensCase(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def said(self, response):
        """What the page says after a post, followed to where it leads."""
        return self.client.get(response["Location"]).content.decode()


class BulkTests(TokensCase):
    def act(self, command, picks=("text.main", "text.muted"), modes=("light",), **more):
        return self.post(
            "mapping:bulk", command=command, pick=list(picks), mode=list(modes), **more
        )

    def test_every_act_and_its_undo(self):
        for act, more, check in (
            ("shift-cells?by=-1", {}, lambda: self.text("text.muted") == "{ink.7}"),
            ("shift-cells?by=1", {}, lambda: self.text("text.muted") == "{ink.9}"),
            ("mirror-cells", {}, lambda: self.text("text.muted") == "{ink.4}"),
            ("fill-cells", {}, lambda: self.text("text.muted") == "{ink.11}"),
            ("map-cells", {"ramp": "coral"}, lambda: self.text("text.main") == "{coral.11}"),
            ("set-cells", {"text": "lamp.3"}, lambda: self.text("text.muted") == "{lamp.3}"),
            ("set-opacity", {"text": "50%"}, lambda: "calc(alpha * 0.5)" in self.text("text.main")),
            (
                "copy-mode",
                {"source": "dark", "target": "light"},
                lambda: self.text("text.main") == "{ink.1}",
            ),
            (
                "replace-in-names",
                {"text": "text", "replacement": "word"},
                lambda: self.text("word.main"),
            ),
            ("move-to-group", {"text": "words"}, lambda: self.text("words.muted")),
            (
                "mark-tokens?text-is=description",
                {"text": "Read"},
                lambda: self.stored().token("text.main").description == "Read",
            ),
            (
                "mark-tokens?text-is=uses",
                {"text": "a, b"},
                lambda: self.stored().token("text.main").uses == ("a", "b"),
            ),
            ("mark-tokens?private=yes", {}, lambda: self.stored().token("text.main").private),
            ("mark-tokens?tier=raw", {}, lambda: self.stored().token("text.main").tier == "raw"),
            (
                "mark-tokens?tier=component",
                {},
                lambda: self.stored().token("text.main").tier == "component",
            ),
            (
                "reorder-tokens",
                {"after": "text.link"},
                lambda: self.order("text.link", "text.main"),
            ),
        ):
            with self.subTest(act):
                response = self.act(act, **more)
                self.assertEqual(response.status_code, 302)
                self.assertTrue(check(), self.said(response)[:2000])
                self.client.post(self.url("projects:undo"))
                self.assertEqual(self.stored(), quillhaven.document())

    def order(self, first, second):
        keys = [one.key for one in self.stored().tokens]
        return keys.index(second) == keys.index(first) + 1

    def test_deleting_is_refused_where_something_still_refers(self):
        page = self.said(self.act("delete-tokens", picks=["text.main"]))
        self.assertIn("is used by board.time", page)
        self.act("delete-tokens", picks=["board.time", "ticket.place", "field.text", "text.main"])
        self.assertIsNone(self.stored().token("text.main"))

    def test_what_is_left_alone_and_what_is_wrong_is_said(self):
        page = self.said(self.act("mirror-cells", picks=["text.main", "signal.hold"]))
        self.assertIn("Skipped: signal.hold.", page)
        for act, more, sentence in (
            ("set-cells", {"text": "nothing.here"}, "{nothing.here} does not exist."),
            ("set-opacity", {"text": "x"}, "is not a whole number"),
            ("fly", {}, "There is no such command here."),
            ("map-cells", {"ramp": "gone"}, "no longer there"),
        ):
            self.assertIn(sentence, self.said(self.act(act, **more)))
        self.assertIn("No row is selected.", self.said(self.act("mirror-cells", picks=[])))

    def test_a_range_comes_as_lists(self):
        said = {"tokens": json.dumps(["text.main"]), "modes": json.dumps(["dark", "dim"])}
        self.post("mapping:bulk", command="set-cells", text="ink.2", **said)
        self.assertEqual(self.text("text.main", DARK), "{ink.2}")
        self.assertEqual(self.text("text.main"), "{ink.11}")
        self.post("mapping:bulk", command="set-cells", text="x", tokens="{", modes="[1]")
        self.assertEqual(self.text("text.main", DARK), "{ink.2}")

    def test_ranges_and_named_values_are_pasted(self):
        keys = json.dumps(["text.main", "text.muted"])
        modes = json.dumps(["light", "dark"])
        self.post("mapping:paste", text="ink.9\tink.2\nink.6\tink.5", tokens=keys, modes=modes)
        self.assertEqual(self.text("text.muted", DARK), "{ink.5}")
        text = "--text-main: var(--ink-10); --nobody: #111;"
        page = self.post("mapping:paste", text=text, tokens=keys, modes=json.dumps(["dark"]))
        self.assertEqual(self.text("text.main", DARK), "{ink.10}")
        self.assertContains(page, "Skipped: --nobody.")
        self.assert_reads(page, "Add 1 token")
        self.post("tokens:add-pasted", text=text)
        self.assertEqual(self.text("nobody"), "#111")

    def test_modes_that_are_not_there_are_said(self):
        for name, said in (
            ("mapping:paste", {"text": "ink.1", "pick": "text.main"}),
            (
                "mapping:bulk",
                {"command": "set-cells", "text": "ink.1", "pick": "text.main", "mode": "noon"},
            ),
            (
                "mapping:bulk",
                {"command": "copy-mode", "pick": "text.main", "source": "noon", "target": "dim"},
            ),
        ):
            self.assertIn("That mode is no longer there.", self.said(self.post(name, **said)))

    def test_a_group_is_renamed_with_everything_that_refers_to_it(self):
        self.post("tokens:command", command="rename-group", group="accent", path="own.accent")
        self.assertEqual(self.text("text.link"), "{own.accent.8}")
        page = self.post("tokens:command", command="rename-group", group="none", path="x")
        self.assertContains(page, "There is no group", status_code=422)


class CellTests(TokensCase):
    def test_a_stored_cell_is_answered_by_the_sheet_as_it_is_now(self):
        said = {"token": "ink.8", "condition": "[]", "value": "#123456", "cell": "text.main:dark"}
        self.assertEqual(
            self.post("tokens:store", **said)["Location"][-22:], "?cell=text.main%3Adark"
        )
        said |= {"value": "#654321", "revision": self.project.revision + 1}
        region = {"X-Region": "room"}
        answer = self.client.post(self.url("tokens:store"), said, headers=region)
        self.assertEqual(self.text("ink.8"), "#654321")
        self.assertIn("#654321", answer.content.decode())
        page = self.client.get(answer["X-Address"], headers=region)
        tokens = [re.sub(r'value="[^"]{64}"', "", one.content.decode()) for one in (answer, page)]
        self.assertEqual(*tokens)

    def test_a_refused_cell_says_so_and_stores_nothing(self):
        said = {"token": "ink.8", "condition": "[]", "value": "{nothing}", "cell": "ink.8:light"}
        answer = self.post("tokens:store", **said)
        self.assertContains(answer, "{nothing} does not exist.", status_code=422)
        self.assertNotIn("X-Address", answer)
        said |= {"condition": '[["appearance","dark"]]', "keep": "1"}
        answer = self.post("tokens:store", **said)
        self.assertContains(answer, "That value is no longer there.", status_code=422)

    def store(self, value, **more):
        said = {"token": "text.link", "condition": "[]", "value": value, "cell": "text.link:light"}
        return self.post("tokens:store", **(said | more))

    def test_a_condition_on_two_axes_is_made_seen_and_cleared(self):
        said = {"at-appearance": "dark", "at-brand": "vexley", "condition": "chosen"}
        self.store("lamp.4", **said)
        condition = Condition.of({"appearance": "dark", "brand": "vexley"})
        self.assertEqual(self.text("text.link", condition), "{lamp.4}")
        page = self.client.get(
            self.url("tokens:room"),
            {"cell": "text.link:dark", "theme": "appearance:dark,brand:vexley"},
        )
        self.assert_reads(page, "appearance dark, brand Vexley (has a value)")
        self.store("", clear="1", **said)
        self.assertIsNone(self.text("text.link", condition))

    def test_the_value_box_says_what_a_token_of_its_type_takes(self):
        for cell, sentence in (
            ("text.link:light", "a color finds the nearest tokens"),
            ("copy.find:light", "The text itself"),
            ("show.map:light", "true or false"),
            ("space.row:light", "a value with its unit"),
            ("shadow.card:light", "x y blur spread color"),
            ("weight.loud:light", "a value as CSS writes it"),
        ):
            page = self.client.get(self.url("tokens:room"), {"cell": cell})
            self.assertContains(page, sentence)

    def test_what_a_value_comes_to_and_changes_is_said(self):
        url = self.url("tokens:impact")
        said = {"token": "text.link", "condition": "[]", "revision": 1}
        response = self.client.get(url, said | {"value": "ink.2"})
        self.assertContains(response, "Breaks 3 pairings.")
        self.assertContains(response, "#e9f2f1")
        response = self.client.get(url, said | {"value": "color-mix(in oklch, {ink.2}"})
        self.assertContains(response, "missing")
        self.assertContains(self.client.get(url, {"token": "x"}), "Type a value.")

    def test_two_people_change_one_cell_and_both_values_are_shown(self):
        other = get_user_model().objects.create_user("tove")
        Membership.objects.create(project=self.project, user=other, role="editor")
        revision = self.project.revision
        self.store("lamp.7")
        self.client.force_login(other)
        response = self.store("coral.7", revision=revision)
        self.assertContains(response, "maren stored <code>{lamp.7}</code>", status_code=409)
        self.assert_reads(
            response,
            "while you typed <code>{coral.7}</code>. Yours is not stored yet.",
        )
        self.assertEqual(self.text("text.link"), "{lamp.7}")
        self.store("coral.7")
        self.assertEqual(self.text("text.link"), "{coral.7}")
        labels = list(self.project.journal.values_list("label", flat=True))
        self.assertIn("{lamp.7}", labels[-2])
        self.assertIn("{coral.7}", labels[-1])

    def test_a_rename_and_an_edit_merge_and_a_removed_mode_asks(self):
        revision = self.project.revision
        self.post(
            "tokens:describe", token="text.link", path="text.way", description="A way", view="page"
        )
        self.store("lamp.7", revision=revision)
        stored = self.stored().token("text.link")
        self.assertEqual((stored.path, stored.value().text), ("text.way", "{lamp.7}"))
        revision = Project.objects.get(pk=self.project.pk).revision
        self.post("axes:command", command="remove-mode", axis="appearance", mode="dim")
        response = self.store("lamp.3", condition='[["appearance","dim"]]', revision=revision)
        self.assertContains(response, "The mode dim was removed by", status_code=409)

    def test_the_page_of_a_token_is_stored_and_shows_its_history(self):
        self.post(
            "tokens:describe", token="text.main", path="text.main", description="Words",
            uses="headings, times", export_name="--word", private="1", is_deprecated="1",
            deprecated="Use text.muted",
        )  # fmt: skip
        stored = self.stored().token("text.main")
        self.assertEqual(
            (
                stored.description,
                stored.uses,
                stored.export_names,
                stored.private,
                stored.deprecated,
            ),
            ("Words", ("headings", "times"), (("css", "word"),), True, "Use text.muted"),
        )
        page = self.client.get(self.url("tokens:room"), {"cell": "text.main:", "view": "page"})
        self.assertContains(page, "Described text.main")
        self.assertContains(page, "board.time")
        for said, sentence in (
            ({"path": "text.link"}, "There is a token"),
            ({"path": "text.main", "export_name": "-- {"}, "is not a custom property"),
        ):
            response = self.post("tokens:describe", token="text.main", cell="text.main:", **said)
            self.assertContains(response, sentence, status_code=422)


class SheetTests(RoomCase):
    def big(self, count):
        tokens = [token(f"g{i // 50}.t{i}", f"#{i:06x}") for i in range(count)]
        return self.make(document(*tokens))

    def test_two_thousand_rows_come_in_parts(self):
        self.big(2000)
        page = self.client.get(self.url("tokens:room")).content.decode()
        self.assertLess(page.count('class="pick"'), 200)
        self.assertEqual(page.count('class="later"'), 41)
        source = (
            page.split('class="later"')[-1]
            .split('data-source="')[1]
            .split('"')[0]
            .replace("&amp;", "&")
        )
        rows = self.client.get(source).content.decode()
        self.assertEqual(rows.count("<tr"), 50)
        self.assertIn("t1999", rows)

    def test_queries_do_not_grow_with_the_tokens(self):
        counts = []
        for count in (50, 1000):
            self.big(count)
            store.forget_all()
            self.client.get(self.url("projects:pulse"))
            with CaptureQueriesContext(connection) as queries:
                self.client.get(self.url("tokens:room"))
            counts.append(len(queries))
        self.assertEqual(counts[0], counts[1])

    def test_filters_and_folds_stand_in_the_address(self):
        self.make(quillhaven.document())
        page = self.client.get(self.url("tokens:room"), {"state": "literal"})
        self.assertContains(page, 'data-token="signal.hold"')
        self.assertNotContains(page, 'data-token="text.main"')
        page = self.client.get(self.url("tokens:room"), {"folded": "text~accent"})
        self.assertNotContains(page, 'data-token="text.main"')
        self.assertContains(page, 'data-token="surface.page"')

    def test_the_pulse_says_the_newest_revision(self):
        self.make(quillhaven.document())
        found = json.loads(self.client.get(self.url("projects:pulse")).content)
        self.assertEqual(found, {"revision": 1})
