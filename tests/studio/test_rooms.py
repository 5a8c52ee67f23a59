"""The rooms over HTTP: what they show, what they store, what they refuse."""

import re

from django.contrib.auth.models import User
from django.db import connection
from django.test.utils import CaptureQueriesContext

from demo import quillhaven
from prism.model.document import Document
from prism.model.values import Expression
from prism.sheet.cell_commands import SetValue
from studio.store import projects as store
from tests.builders import document, token
from tests.studio.cases import RoomCase

ROOMS = ("palette", "tokens", "stage", "checks", "exchange")


class ShowTests(RoomCase):
    def test_every_room_shows_full_empty_and_small_projects(self):
        for built in (
            quillhaven.document(),
            Document(name="Empty"),
            document(token("a", "#111111"), axes=()),
        ):
            self.make(built)
            for room in ROOMS:
                with self.subTest(project=built.name, room=room):
                    response = self.client.get(self.url(f"{room}:room"))
                    self.assertContains(response, 'aria-current="page"', count=1)

    def test_a_fragment_is_the_part_that_the_page_holds(self):
        self.make(quillhaven.document())
        page = self.client.get(self.url("checks:room")).content.decode()
        region = self.client.get(self.url("checks:room"), headers={"X-Region": "room"})
        self.assertEqual(region["X-Region"], "room")
        self.assertNotIn("<html", region.content.decode())
        start = region.content.decode().split("csrfmiddlewaretoken")[0]
        self.assertIn(start, page)

    def test_queries_do_not_grow_with_the_number_of_tokens(self):
        for room in ROOMS:
            counts = []
            for size in (4, 200):
                tokens = [token(f"ink.{i}", "#111111", tier="raw") for i in range(size)]
                self.make(document(*tokens, token("text", "{ink.1}")))
                store.forget_all()
                with CaptureQueriesContext(connection) as queries:
                    self.client.get(self.url(f"{room}:room"))
                counts.append(len(queries))
            with self.subTest(room):
                self.assertEqual(counts[0], counts[1])

    def test_the_theme_of_the_address_is_the_theme_shown(self):
        self.make(quillhaven.document())
        response = self.client.get(
            self.url("tokens:room"), {"theme": "brand:osprelle", "find": "accent.8"}
        )
        self.assertContains(response, "brine.8")
        self.assertNotContains(response, "spruce.8")

    def test_what_is_unknown_in_an_address_is_skipped(self):
        self.make(quillhaven.document())
        for query in ("theme=sky:green", "columns=none", "cell=nope:dark", "pinned=x"):
            response = self.client.get(self.url("tokens:room") + "?" + query)
            self.assertEqual(response.status_code, 200)
        response = self.client.get(self.url("tokens:room") + "?theme=%00")
        self.assertContains(response, "holds the character NUL", status_code=400)

    def test_the_policy_allows_no_inline_style_or_script(self):
        self.make(quillhaven.document())
        for room in ROOMS:
            response = self.client.get(self.url(f"{room}:room"))
            policy = response["Content-Security-Policy"]
            self.assertNotIn("unsafe", policy)
            self.assertIn("default-src 'none'", policy)
            self.assertNotIn("style=", response.content.decode())
            self.assertNotIn("<style", response.content.decode())


class CellTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(
            document(
                token("ink.1", "#f4f9f9", tier="raw"),
                token("ink.11", "#1d2121", tier="raw"),
                token("text", "{ink.11}"),
            )
        )

    def store(self, value, condition="[]", **more):
        data = {
            "token": "text",
            "condition": condition,
            "value": value,
            "revision": self.project.revision,
        }
        return self.client.post(self.url("tokens:store"), data | {"cell": "text:light"} | more)

    def test_a_name_is_stored_as_a_reference_under_its_condition(self):
        response = self.store("ink.1", '[["appearance","dark"]]')
        self.assertRedirects(response, self.url("tokens:room") + "?cell=text%3Alight")
        values = dict(self.stored().token("text").values)
        self.assertEqual([value.text for value in values.values()], ["{ink.11}", "{ink.1}"])
        self.assertEqual(
            self.project.journal.last().label, "Set text to {ink.1} for appearance dark"
        )

    def test_what_cannot_be_stored_is_said_and_what_was_typed_stays(self):
        response = self.store("{ink.12}")
        self.assertContains(response, "{ink.12} does not exist.", status_code=422)
        self.assertContains(response, 'value="{ink.12}"', status_code=422)
        self.assertEqual(self.stored().token("text").value(), Expression("{ink.11}"))

    def test_a_condition_that_is_no_condition_is_refused(self):
        for condition in ("{", '[["appearance","dusk"]]', "[1]", '[["x"]]'):
            with self.subTest(condition):
                self.assertIn(self.store("ink.1", condition).status_code, (400, 422))

    def test_a_stale_write_is_refused_and_kept_in_the_field(self):
        response = self.store("ink.1", revision=99)
        self.assertContains(response, "cannot be found any more", status_code=422)
        self.assertContains(response, 'value="ink.1"', status_code=422)

    def test_clearing_lets_a_mode_inherit_again(self):
        self.store("ink.1", '[["appearance","dark"]]')
        self.project.refresh_from_db()
        self.store("", '[["appearance","dark"]]', clear="1", revision=2)
        self.assertEqual(len(self.stored().token("text").values), 1)

    def test_undo_and_redo_over_http(self):
        self.store("ink.1")
        room = self.url("tokens:room")
        self.client.post(self.url("projects:undo"), {"next": room})
        self.assertEqual(self.stored().token("text").value(), Expression("{ink.11}"))
        response = self.client.post(self.url("projects:redo"), {"next": room})
        self.assertRedirects(response, room)
        self.assertEqual(self.stored().token("text").value(), Expression("{ink.1}"))

    def test_nobody_is_sent_to_another_site(self):
        for target in ("https://example.org/", "//example.org/", "open", "javascript:alert(1)"):
            response = self.client.post(self.url("projects:undo"), {"next": target})
            self.assertRedirects(response, self.url("open"), fetch_redirect_response=False)

    def test_completion_offers_tokens_of_the_type(self):
        response = self.client.get(self.url("tokens:complete"), {"token": "text", "q": "ink"})
        self.assertContains(response, 'role="option"', count=2)


class BeginningTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def test_a_project_opens_where_work_begins(self):
        self.assertRedirects(self.client.get(self.url("open")), self.url("tokens:room"))
        self.make(document())
        self.assertRedirects(self.client.get(self.url("open")), self.url("palette:room"))

    def test_colors_alone_are_offered_for_pairings(self):
        page = self.client.get(self.url("checks:room")).content.decode()
        colors = page.split('<datalist id="colors"')[1].partition(">")[2].split("</datalist>")[0]
        self.assertIn('value="text.main"', colors)
        self.assertNotIn('value="space.', colors)

    def test_each_tier_has_one_heading_and_the_open_row_is_marked(self):
        page = self.client.get(self.url("tokens:room"), {"cell": "text.main:light"})
        text = page.content.decode()
        self.assertEqual(text.count('<tr class="tier">'), 3)
        self.assertEqual(len(re.findall('<tr data-row="[^"]*" class="on" ', text)), 1)
        self.assertEqual(
            text.count('aria-current="true" title') + text.count('id="cell-text.main:light"'), 1
        )

    def test_links_of_the_theme_bar_lead_to_their_modes(self):
        page = self.client.get(self.url("stage:room"), {"theme": "appearance:dark"})
        self.assertContains(page, 'href="?theme=appearance%3Adim"')
        self.assertRegex(page.content.decode(), r'id="mode-appearance-light" href="\?"')

    def test_a_pinned_default_theme_stays_pinned(self):
        page = self.client.get(self.url("stage:room"), {"pinned": "base"})
        self.assertContains(page, "pinned=base")
        page = self.client.get(self.url("stage:room"), {"pinned": "appearance:dark"})
        self.assertContains(page, "pinned=appearance%3Adark")

    def test_what_was_typed_for_a_measure_stays_where_it_is_refused(self):
        response = self.post(
            "tokens:add", only="measures", add="raw:", path="a{b", new_type="dimension", value="4px"
        )
        self.assertContains(response, 'value="a{b"', status_code=422)
        self.assertRegex(response.content.decode(), r"<option\s+selected>dimension")

    def test_a_scale_is_offered_and_what_was_typed_for_it_stays(self):
        page = self.client.get(self.url("measures:room")).content.decode()
        self.assertIn("scale=space", page)
        response = self.post(
            "measures:scale",
            scale="size",
            kind="size",
            group="a{b",
            base="9px",
            factor="2",
            values="1 2",
        )
        for typed in ('value="a{b"', 'value="9px"', 'value="1 2"'):
            self.assertContains(response, typed, status_code=422)

    def test_the_place_for_colors_answers_as_a_page(self):
        self.assertEqual(self.client.get(self.url("importing:room")).status_code, 200)


class GoneTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def test_keeping_a_value_that_is_gone_is_refused(self):
        for key, condition in (("gone", "[]"), ("text.main", '[["density","compact"]]')):
            response = self.post(
                "tokens:store", token=key, condition=condition, value="#123456", keep="1"
            )
            self.assertContains(response, "no longer there", status_code=422)

    def test_an_undo_that_cannot_be_is_said(self):
        store.save(self.project, SetValue("text.link", "#123456"), self.user)
        other = User.objects.create_user("jon")
        store.save(self.project, SetValue("text.link", "#654321"), other)
        response = self.client.post(
            self.url("projects:undo"), {"next": self.url("tokens:room")}, follow=True
        )
        self.assertContains(response, "This was not undone, as others have changed the same since")
