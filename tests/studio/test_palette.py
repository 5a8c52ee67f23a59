"""The palette over HTTP: what is stored, what is refused, and that nothing is lost by it."""

import json

from django.db import connection
from django.test import SimpleTestCase
from django.test.utils import CaptureQueriesContext

from demo import quillhaven
from prism import edits
from prism.color import space
from prism.errors import PrismError
from prism.model.document import Document
from prism.model.values import Expression
from prism.palette.ideas import Brief
from prism.palette.ramps import oklch
from studio.standins import word_ideas
from studio.standins.word_ideas import WordIdeas
from studio.store import projects as store
from studio.store.models import Project
from tests.builders import document, resolved, token
from tests.studio.cases import RoomCase

WORDS = "calm harbor at dusk, one warm light"


class PaletteCase(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def refused(self, response, sentence, status=422):
        """A refusal in words, with nothing stored."""
        self.assertContains(response, sentence, status_code=status)
        self.assertEqual(Project.objects.get(pk=self.project.pk).revision, 1)


class RampTests(PaletteCase):
    def test_a_ramp_is_made_retuned_and_undone(self):
        response = self.post("palette:store-ramp", name="moss", seed="#556b2f", purpose="chart")
        ramp = self.stored().ramps[-1]
        self.assertRedirects(response, self.url("palette:room") + f"?ramp={ramp.key}")
        self.assertEqual((ramp.name, ramp.purpose, len(ramp.steps)), ("moss", "chart", 11))
        self.post("palette:store-ramp", ramp=ramp.key, seed="#556b2f", count="7")
        self.assertEqual(len(self.stored().ramps[-1].steps), 7)
        for _ in range(2):
            self.client.post(self.url("projects:undo"))
        self.assertEqual(self.stored(), quillhaven.document())

    def test_bad_recipes_are_said_and_what_was_typed_stays(self):
        for said, sentence in (
            ({"name": "moss", "seed": "#556b2f", "count": "0"}, "1 to 60 steps, not 0"),
            ({"name": "moss", "seed": "#556b2f", "count": "1000"}, "1 to 60 steps, not 1000"),
            (
                {"name": "moss", "seed": "oklch(0.6 0.4 140)", "keep-seed": "yes"},
                "lies outside sRGB",
            ),
            ({"name": "spruce", "seed": "#556b2f"}, "already exists"),
            ({"name": "moss", "seed": "nothing"}, "is not a color"),
        ):
            response = self.post("palette:store-ramp", view="new", **said)
            self.refused(response, sentence)
            self.assertContains(response, f'value="{said["seed"]}"', status_code=422)
        self.refused(self.post("palette:store-ramp", ramp="gone", seed="#111"), "no longer there")

    def test_the_preview_shows_a_ramp_or_what_is_wrong(self):
        url = self.url("palette:preview")
        shown = self.client.get(url, {"seed": "#236b53", "keep-seed": "yes"})
        self.assertContains(shown, "236b53")
        self.assertContains(shown, 'class="step ', count=11)
        self.assertContains(self.client.get(url, {"seed": ""}), "No color was given.")

    def test_a_step_is_moved_by_its_point_and_put_back(self):
        self.post("palette:store-point", token="spruce.3", lightness="0.9", chroma="0.2", hue="167")
        stored = self.stored()
        self.assertEqual(stored.ramps[1].moved, ("spruce.3",))
        color = resolved(stored, "spruce.3").color
        self.assertEqual(color.space, "srgb")
        self.post("palette:command", command="release-step", token="spruce.3")
        self.assertEqual(self.stored(), quillhaven.document())
        self.project.refresh_from_db()
        response = self.post(
            "palette:store-point", token="spruce.3", lightness="7", chroma="0", hue="0"
        )
        self.assertContains(response, "Nothing was stored.", status_code=400)

    def test_numbers_are_said_as_json(self):
        url = self.url("palette:numbers")
        said = {"lightness": "0.5", "chroma": "0.2", "hue": "160", "gamut": "srgb"}
        found = json.loads(self.client.get(url, said).content)
        lightness, _, hue = oklch(space.parse(found["hex"]))
        self.assertAlmostEqual(lightness, 0.5, delta=0.003)
        self.assertAlmostEqual(hue, 160, delta=1)
        self.assertEqual((found["in_srgb"], found["in_p3"]), (False, False))
        self.assertEqual(self.client.get(url, said | {"lightness": "nan"}).status_code, 400)
        self.assertEqual(self.client.get(url, said | {"gamut": "x"}).status_code, 400)

    def test_every_command_on_the_palette(self):
        for command, fields, check in (
            (
                "insert-step",
                {"token": "spruce.3", "name": "3-5"},
                lambda d: d.token_at("spruce.3-5"),
            ),
            (
                "rename-step",
                {"token": "spruce.3", "name": "thin"},
                lambda d: d.token_at("spruce.thin"),
            ),
            ("remove-step", {"token": "spruce.3"}, lambda d: d.token("spruce.3") is None),
            (
                "move-step?by=1",
                {"token": "spruce.1"},
                lambda d: d.ramps[1].steps[1] == "spruce.1",
            ),
            ("move-step?by=-1", {"token": "spruce.2"}, lambda d: d.ramps[1].steps[0] == "spruce.2"),
            ("rename-token", {"token": "white", "path": "chalk"}, lambda d: d.token_at("chalk")),
            (
                "remove-token",
                {"token": "white", "into": "ink.1"},
                lambda d: d.token("white") is None,
            ),
            (
                "add-overlays",
                {"token": "spruce.8", "percents": "8 50%"},
                lambda d: d.token_at("veil.8.50"),
            ),
            (
                "rename-steps",
                {"ramp": "spruce", "names": "a b c d e f g h i j k"},
                lambda d: d.token_at("spruce.k"),
            ),
            ("rename-ramp", {"ramp": "spruce", "name": "fir"}, lambda d: d.token_at("fir.8")),
            ("move-ramp?by=1", {"ramp": "spruce"}, lambda d: d.ramps[1].name == "lamp"),
            ("move-ramp?by=-1", {"ramp": "lamp"}, lambda d: d.ramps[1].name == "lamp"),
            (
                "assign-purpose",
                {"group": "spruce", "purpose": "chart"},
                lambda d: d.ramps[1].purpose == "chart",
            ),
            ("add-purpose", {"name": "weather"}, lambda d: d.purposes[-1].name == "weather"),
            (
                "rename-purpose",
                {"purpose": "ink", "name": "words"},
                lambda d: d.purposes[1].name == "words",
            ),
            ("remove-purpose", {"purpose": "ink"}, lambda d: len(d.purposes) == 5),
            ("move-purpose?by=-1", {"purpose": "ink"}, lambda d: d.purposes[0].key == "ink"),
            ("move-purpose?by=1", {"purpose": "ink"}, lambda d: d.purposes[2].key == "ink"),
            (
                "add-missing",
                {"need": "label action.fill.pressed"},
                lambda d: len(d.pairings) == 68,
            ),
        ):
            with self.subTest(command):
                response = self.post("palette:command", command=command, **fields)
                self.assertEqual(response.status_code, 302, response.content[:3000])
                self.assertTrue(check(self.stored()))
                entry = self.project.journal.last()
                self.assertEqual(edits.read(entry.command).id, command.partition("?")[0])
                self.client.post(self.url("projects:undo"))
                self.assertEqual(self.stored(), quillhaven.document())

    def test_commands_that_cannot_be_run_are_said(self):
        for fields, sentence in (
            ({"command": "fly", "token": "x"}, "There is no such command here."),
            ({"command": "add-axis", "name": "x", "modes": "a"}, "There is no such command here."),
            ({"command": "rename-step"}, "token: This is needed."),
            ({"command": "add-purpose", "name": "x" * 5000}, "The text has 5000 characters"),
            ({"command": "move-step?by=far", "token": "spruce.3"}, "is not a whole number"),
            ({"command": "release-step", "token": "spruce.3"}, "was not moved by hand"),
            ({"command": "remove-token", "token": "spruce.8"}, "is used by"),
            (
                {"command": "rename-step", "token": "spruce.1", "name": "2"},
                "There is a token",
            ),
            ({"command": "add-missing", "need": "moon"}, "Nothing by that name is missing."),
        ):
            self.refused(self.post("palette:command", ramp="spruce", **fields), sentence)
        stale = self.post("palette:command", command="release-step", token="x", revision=99)
        self.refused(stale, "cannot be found")

    def test_a_stale_form_is_refused_with_what_was_typed(self):
        response = self.post(
            "palette:store-color", token="spruce.8", swatch="spruce.8", value="#123456", revision=99
        )
        self.refused(response, "cannot be found any more")
        self.assertContains(response, 'value="#123456"', status_code=422)


class ImpactTests(PaletteCase):
    def said(self, **query):
        return self.client.get(self.url("palette:impact"), query)

    def test_what_a_color_changes_is_said_before_it_is_stored(self):
        response = self.said(token="spruce.8", value="#cccccc")
        self.assertContains(response, "Breaks")
        self.assertContains(response, "text.link on surface.page")
        self.assertContains(response, "of 288 themes")
        self.assertContains(self.said(token="spruce.8", value="#236b53"), "Changes nothing")
        self.assertContains(self.said(token="spruce.8", value="nope"), "is not a color")

    def test_what_a_removal_changes_is_said(self):
        self.assertContains(self.said(token="spruce.8", removed="1"), "is used by")
        response = self.said(token="spruce.8", removed="1", into="spruce.7")
        self.assertContains(response, "Removes 1 token.")

    def test_a_color_is_stored_in_any_notation(self):
        for value in ("#123456", "rgb(18 52 86)", "hsl(210 65.4% 20.4%)", "oklch(0.32 0.07 250)"):
            self.post("palette:store-color", token="spruce.8", value=value)
            self.assertEqual(self.text("spruce.8"), value)


class BeginTests(RoomCase):
    def test_two_hundred_colors_take_as_many_queries_as_two(self):
        counts = []
        for size in (2, 200):
            self.make(document(*(token(f"many.{i}", f"#{i:06x}", tier="raw") for i in range(size))))
            store.forget_all()
            with CaptureQueriesContext(connection) as queries:
                self.client.get(self.url("palette:room"))
            counts.append(len(queries))
        self.assertEqual(counts[0], counts[1])

    def test_an_empty_palette_shows_the_ways_in(self):
        self.make(Document(name="Empty"))
        page = self.client.get(self.url("palette:room"))
        for words in ("Add first ramp", "Import colors", "From a picture", "Ideas"):
            self.assertContains(page, words)

    def test_colors_beyond_srgb_are_marked_and_shown_in_the_notation_asked_for(self):
        wide = Document(
            name="Wide",
            gamut="display-p3",
            tokens=(token("wide", "color(display-p3 0 1 0)", tier="raw"),),
        )
        self.make(wide)
        page = self.client.get(self.url("palette:room"), {"notation": "p3"})
        self.assertContains(page, "outside sRGB")
        self.assertContains(page, "0 1 0")
        self.assertEqual(self.stored().tokens[0].value(), Expression("color(display-p3 0 1 0)"))


class WordIdeaTests(SimpleTestCase):
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
