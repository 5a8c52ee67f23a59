"""The Tokens room over HTTP: many cells at once, links, names, axes, and what two people change."""

import json
import re

from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test.utils import CaptureQueriesContext

from demo import quillhaven
from prism.model.document import Document
from prism.model.values import Condition, Expression
from prism.resolution.resolver import Resolver
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
        page = self.said(
            self.post(
                "mapping:paste",
                text="--text-main: var(--ink-10); --nobody: #111;",
                tokens=keys,
                modes=json.dumps(["dark"]),
            )
        )
        self.assertEqual(self.text("text.main", DARK), "{ink.10}")
        self.assertIn("Skipped: --nobody.", page)

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
        response = self.post("measures:store", token="text.main", value="#111", mode="sky noon")
        self.assertContains(response, "That mode is no longer there.", status_code=422)

    def test_a_group_is_renamed_with_everything_that_refers_to_it(self):
        self.post("mapping:rename-group", renamed="accent", path="own.accent")
        self.assertEqual(self.text("text.link"), "{own.accent.8}")
        page = self.said(self.post("mapping:rename-group", renamed="none", path="x"))
        self.assertIn("There is no group", page)


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
            ("shadow.card:light", "the parts as shown above"),
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
        self.assertContains(response, "The mode dim was removed by somebody else", status_code=409)

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


class LinkTests(RoomCase):
    def test_fifty_four_literals_are_linked_in_one_review(self):
        colors = [f"#{i * 4:02x}{200 - i * 3:02x}{i * 2:02x}" for i in range(50)]
        raw = {str(i): {"$type": "color", "$value": color} for i, color in enumerate(colors)}
        names = [f"Area {i // 9}.role {i}" for i in range(54)]
        meaning = {}
        for i, name in enumerate(names):
            group, leaf = name.split(".")
            color = colors[i % 50] if i < 51 else f"#ff00{i:02x}"
            meaning.setdefault(group, {})[leaf] = {"$type": "color", "$value": color}
        data = json.dumps({"palette": raw, **meaning}).encode()
        self.make(Document(name="Empty"))
        file = SimpleUploadedFile("all.tokens.json", data)
        self.client.post(
            self.url("exchange:import"), {"files": file, "into": "here", "revision": 0}
        )
        stored = self.stored()
        self.assertEqual(len(stored.tokens), 104)
        page = self.client.get(self.url("mapping:link"))
        self.assertContains(page, "What counts as palette")
        self.project.refresh_from_db()
        groups = list(meaning)
        said = {"revision": self.project.revision, "tier": "semantic", "groups": groups}
        self.assertEqual(self.client.post(self.url("mapping:store-tier"), said).status_code, 302)
        page = self.client.get(self.url("mapping:link"))
        self.assertContains(page, "51 literals could refer to the palette")
        self.assertContains(page, "3 without a match")
        for name in names[51:]:
            self.assertContains(page, f"<td>{name}</td>")
        self.project.refresh_from_db()
        said = {"revision": self.project.revision, "take": [str(i) for i in range(51)]}
        self.assertEqual(self.client.post(self.url("mapping:store-links"), said).status_code, 302)
        linked = self.stored()
        self.assertEqual([one.path for one in linked.tokens], [one.path for one in stored.tokens])
        values = [linked.token_at(name).value().text for name in names]
        self.assertEqual(values[:51], [f"{{palette.{i % 50}}}" for i in range(51)])
        self.assertTrue(all(value.startswith("#ff00") for value in values[51:]))
        before, after = Resolver(stored), Resolver(linked)
        for one in stored.tokens:
            self.assertEqual(before.resolve(one.key, ()).hex, after.resolve(one.key, ()).hex)

    def test_nothing_ticked_is_said(self):
        self.make(quillhaven.document())
        response = self.client.post(self.url("mapping:store-links"), {"revision": 1})
        self.assertContains(response, "No link is selected.", status_code=422)


class NameTests(TokensCase):
    def test_a_scheme_is_kept_and_makes_the_names_that_are_not_struck(self):
        lines = {
            "part-0": "area",
            "words-0": "panel chip",
            "part-1": "state",
            "words-1": "rest hover",
        }
        self.post("naming:store", scheme="plain", name="Ours", **lines)
        scheme = self.stored().schemes[0]
        page = self.client.get(self.url("naming:room"), {"scheme": scheme.key})
        self.assertContains(page, "4 names")
        self.post("naming:add", scheme=scheme.key, take=["panel.rest", "chip.hover"])
        found = [one.path for one in self.stored().tokens if one.path.startswith(("panel", "chip"))]
        self.assertEqual(found, ["panel.rest", "chip.hover"])
        self.assertTrue(self.text("chip.hover").startswith("{"))

    def test_what_is_wrong_is_said_with_what_was_typed(self):
        response = self.post("naming:store", name="", **{"part-0": "a", "words-0": "b c"})
        self.assertContains(response, "A scheme needs a name.", status_code=422)
        self.assertContains(response, 'value="b c"', status_code=422)
        response = self.post("naming:add", scheme="plain")
        self.assertContains(response, "None of the selected names is new", status_code=422)


class AxisTests(TokensCase):
    def test_axes_and_modes_are_made_named_ordered_and_removed(self):
        for said, check in (
            ({"command": "add-axis", "name": "season", "modes": "summer, winter"},
             lambda d: [m.name for m in d.axes[-1].modes] == ["summer", "winter"]),
            ({"command": "rename-axis", "axis": "brand", "name": "carrier"},
             lambda d: d.axis("brand").name == "carrier"),
            ({"command": "move-axis?by=-1", "axis": "brand"}, lambda d: d.axes[0].key == "brand"),
            ({"command": "move-axis?by=1", "axis": "brand"}, lambda d: d.axes[2].key == "brand"),
            ({"command": "add-mode", "axis": "appearance", "name": "noon", "source": "dark"},
             lambda d: d.axes[0].modes[-1].name == "noon"),
            ({"command": "rename-mode", "axis": "appearance", "mode": "dim", "name": "cabin"},
             lambda d: d.axes[0].mode("dim").name == "cabin"),
            ({"command": "move-mode?by=-1", "axis": "appearance", "mode": "dim"},
             lambda d: d.axes[0].modes[1].key == "dim"),
            ({"command": "move-mode?by=1", "axis": "appearance", "mode": "light"},
             lambda d: d.axes[0].modes[1].key == "light"),
            ({"command": "change-default", "axis": "appearance", "mode": "dark"},
             lambda d: d.axes[0].default == "dark"),
            ({"command": "set-color-scheme", "axis": "brand", "mode": "vexley", "color_scheme": "dark"},
             lambda d: d.axis("brand").mode("vexley").color_scheme == "dark"),
            ({"command": "follow-preference", "axis": "density", "mode": "compact", "preference": "prefers-contrast: more"},
             lambda d: d.axis("density").follows.modes == (("more", "compact"),)),
            ({"command": "remove-mode", "axis": "appearance", "mode": "dim"},
             lambda d: len(d.axes[0].modes) == 2),
            ({"command": "remove-axis", "axis": "brand", "stays": "vexley"},
             lambda d: d.axis("brand") is None),
        ):  # fmt: skip
            with self.subTest(said["command"]):
                response = self.post("axes:command", **said)
                self.assertEqual(response.status_code, 302, response.content[:2000])
                self.assertTrue(check(self.stored()))
                self.client.post(self.url("projects:undo"))
                self.assertEqual(self.stored(), quillhaven.document())

    def test_bad_acts_are_said(self):
        for said, sentence in (
            ({"command": "add-axis", "name": "", "modes": "a"}, "An axis needs a name."),
            ({"command": "add-axis", "name": "x", "modes": " "}, "at least one mode"),
            ({"command": "remove-axis", "axis": "gone", "stays": "x"}, "no longer there"),
            (
                {
                    "command": "follow-preference",
                    "axis": "brand",
                    "mode": "vexley",
                    "preference": "moon: full",
                },
                "not one",
            ),
            ({"command": "fly"}, "There is no such command here."),
        ):
            self.assertContains(self.post("axes:command", **said), sentence, status_code=422)

    def test_a_mode_is_proposed_reviewed_and_taken(self):
        said = {"axis": "appearance", "source": "light", "name": "night", "scheme": "dark"}
        page = self.client.get(self.url("axes:propose"), said)
        self.assertContains(page, "night, derived from light")
        self.assertContains(page, "step 8 of 11 becomes 4")
        self.assert_reads(page, "2 pairings fall short in night, 9 in light.")
        self.assertContains(page, 'fill="#323c3b"')  # surface.raised, a mix of two steps
        self.post("axes:take", **said, take=["text.main", "surface.page"])
        stored = self.stored()
        mode = stored.axis("appearance").modes[-1]
        self.assertEqual((mode.name, mode.color_scheme), ("night", "dark"))
        condition = Condition.of({"appearance": mode.key})
        self.assertEqual(stored.token("text.main").value(condition), Expression("{ink.1}"))
        self.assertIsNone(stored.token("text.muted").value(condition))

    def test_a_mode_from_one_that_is_gone_is_said(self):
        said = {"axis": "appearance", "source": "gone", "name": "night", "scheme": "dark"}
        for response in (
            self.client.get(self.url("axes:propose"), said),
            self.post("axes:take", **said),
        ):
            self.assertContains(response, "no longer there", status_code=422)

    def test_a_mark_of_the_ladder_is_moved(self):
        page = self.client.get(self.url("mapping:ladder"))
        self.assertContains(page, 'data-step="ink.11"')
        self.post("mapping:move-mark", token="text.main", mode="dark", step="ink.2")
        self.assertEqual(self.text("text.main", DARK), "{ink.2}")
        response = self.post("mapping:move-mark", token="text.main", mode="dark", step="gone")
        self.assertContains(response, "no longer there", status_code=422)
