"""Small things that people would notice and nothing else held: limits, defaults, what is kept for how long."""

import io
import re
from types import SimpleNamespace

from django.contrib.auth.models import User
from django.core.management import call_command
from django.db import OperationalError
from django.http import QueryDict
from django.test import RequestFactory, SimpleTestCase, TestCase

from demo import quillhaven
from prism.analysis import Analysis
from prism.errors import PrismError
from prism.modes.commands import RenameAxis
from prism.palette.ideas import Brief
from prism.sheet.cell_commands import SetValue
from studio.rooms.palette.address import PaletteAddress
from studio.rooms.palette.ideas.address import IdeasAddress
from studio.rooms.palette.measures.forms import ScaleForm
from studio.rooms.tokens.axes.forms import ProposalForm
from studio.rooms.tokens.forms import DescribeForm
from studio.rooms.tokens.mapping.forms import CellsForm, MarkForm
from studio.standins import word_ideas
from studio.standins.word_ideas import WordIdeas
from studio.store import loading
from studio.store import projects as store
from studio.store.models import JournalEntry
from studio.ui import views as ui
from studio.ui.templatetags import commands, prism
from tests.builders import document
from tests.studio.cases import RoomCase


def refused(form, name, limit):
    """Whether a form takes a text of ``limit`` characters in a field, and refuses one more."""
    longest, more = (form({name: "x" * size}) for size in (limit, limit + 1))
    longest.is_valid()
    more.is_valid()
    return name not in longest.errors and name in more.errors


class LimitTests(SimpleTestCase):
    def test_no_field_takes_more_than_is_stored(self):
        frame = SimpleNamespace(address=SimpleNamespace(columns=""), analysis=Analysis(document()))
        for form, name, limit in (
            (lambda data: MarkForm(data, frame, ()), "step", 200),
            (DescribeForm, "role", 60),
            (ScaleForm, "group", 200),
        ):
            with self.subTest(name=name):
                self.assertTrue(refused(form, name, limit))

    def test_addresses_are_cut(self):
        long = "x" * 300
        known = PaletteAddress.read({"ramp": long, "swatch": long})
        self.assertEqual((len(known.ramp), len(known.swatch)), (200, 200))
        planned = IdeasAddress.read({"plan-main": long})
        self.assertEqual([len(name) for _, name in planned.plan], [200])

    def test_text_that_is_pasted_keeps_its_blanks(self):
        frame = SimpleNamespace(address=SimpleNamespace(columns=""), analysis=Analysis(document()))
        form = CellsForm(QueryDict("text=%20a%09b%20&revision=1"), frame, ())
        self.assertTrue(form.is_valid())
        self.assertEqual(form.cleaned_data["text"], " a\tb ")

    def test_a_mode_may_be_proposed_without_a_color_scheme(self):
        form = ProposalForm({"axis": "a", "source": "b", "name": "c"})
        self.assertTrue(form.is_valid(), form.errors)


class TagTests(SimpleTestCase):
    def test_hints_show_as_code_what_stands_between_marks(self):
        hint = str(prism.hint("color"))
        self.assertTrue(hint.startswith("A color") or "<code>" in hint)
        plain, code = hint.split("<code>")[0], hint.split("<code>")[1]
        self.assertNotIn("#", plain)
        self.assertRegex(code, r"^[#a-z]")

    def test_a_color_function_is_shown_without_its_name(self):
        self.assertEqual(prism.short("oklch(0.5 0.1 30)"), "0.5 0.1 30")
        self.assertEqual(prism.short("#123456"), "#123456")

    def test_a_field_without_a_value_is_sent_empty(self):
        frame = SimpleNamespace(state={}, loaded=SimpleNamespace(revision=3))
        made = commands._form({"frame": frame}, "x", {"a": None, "b": "c"})
        self.assertEqual(made["fields"], {"a": "", "b": "c"})


class FailureTests(TestCase):
    def failed(self, error):
        store.STORED.set(None)  # as a request begins
        request = RequestFactory().get("/")
        request.user = User()
        try:
            raise error
        except type(error):
            with self.assertLogs("studio.errors", "ERROR"):
                return ui.failed(request)

    def test_a_failure_says_whether_the_database_is_why(self):
        self.assertContains(
            self.failed(OperationalError("gone")), "does not answer", status_code=503
        )
        response = self.failed(ValueError("x"))
        self.assertContains(response, "Nothing was changed", status_code=500)
        self.assertNotIn("Retry-After", response)

    def test_the_models_are_as_the_migrations_make_them(self):
        out = io.StringIO()
        call_command("makemigrations", "--check", "--dry-run", stdout=out)
        self.assertIn("No changes", out.getvalue())


class KeptTests(RoomCase):
    def test_the_oldest_revision_is_given_up_first(self):
        self.make(quillhaven.document())
        for number in range(loading._OLDER + 2):
            store.save(self.project, SetValue("text.link", f"#{number:06x}"), self.user)
        for revision in range(1, loading._OLDER + 2):
            store.at(self.project, revision, 1000)
        kept = [revision for _, revision in loading._older]
        self.assertEqual(len(kept), loading._OLDER)
        self.assertNotIn(1, kept)
        self.assertIn(loading._OLDER + 1, kept)

    def test_what_changed_is_tokens_and_values(self):
        self.make(quillhaven.document())
        store.save(self.project, SetValue("text.link", "#123456"), self.user)
        store.save(self.project, RenameAxis("brand", "carrier"), self.user)
        self.assertEqual(store.changed_since(self.project, 1), {"text.link"})

    def test_who_wrote_last_is_named_where_nobody_wrote_the_same(self):
        first, last = JournalEntry(operations="[]"), JournalEntry(operations="[]")
        clash = SimpleNamespace(rows=())
        self.assertIs(store._writer([first, JournalEntry(operations="[]"), last], clash), last)
        self.assertIsNone(store._writer([], clash))


class RoomTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def test_a_project_opens_where_work_begins(self):
        self.assertRedirects(self.client.get(self.url("open")), self.url("tokens:room"))
        self.make(document())
        self.assertRedirects(self.client.get(self.url("open")), self.url("palette:room"))

    def test_colors_alone_are_offered_for_pairings(self):
        page = self.client.get(self.url("checks:room")).content.decode()
        colors = page.split('<datalist id="colors">')[1].split("</datalist>")[0]
        self.assertIn('value="text.main"', colors)
        self.assertNotIn('value="space.', colors)

    def test_each_tier_has_one_heading_and_the_open_row_is_marked(self):
        page = self.client.get(self.url("tokens:room"), {"cell": "text.main:light"})
        text = page.content.decode()
        self.assertEqual(text.count('<tr class="tier">'), 3)
        self.assertEqual(len(re.findall('<tr data-row="[^"]*" class="on">', text)), 1)
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


class IdeaTests(SimpleTestCase):
    def test_third_look_is_one_family(self):
        """The quiet color of the third set lies as far before the main hue as the stand-in says."""
        self.assertEqual(word_ideas._TURNS[2], (15, 90, -20))

    def test_an_idea_as_deep_as_can_be_is_found_and_no_deeper(self):
        deepest = "-".join(["0"] * (word_ideas.MAX_DEPTH - 1))
        self.assertEqual(len(WordIdeas().ideas(Brief("sea", like=deepest))), 6)
        with self.assertRaisesMessage(PrismError, "cannot be found again"):
            WordIdeas().ideas(Brief("sea", like=f"{deepest}-0"))

    def test_what_is_said_of_the_accent_names_no_other_color(self):
        for idea in WordIdeas().ideas(Brief("moss and pine, one warm lamp")):
            named = {color.role: color.name for color in idea.colors}
            self.assertNotIn("lamp", [named["main"], named["second"], named["quiet"]])
