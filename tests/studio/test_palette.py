"""The palette over HTTP: what is stored, what is refused, and that nothing is lost by it."""

import json

from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection
from django.test.utils import CaptureQueriesContext
from PIL import Image

from demo import quillhaven
from prism import edits
from prism.color import space
from prism.model.document import Document
from prism.model.values import Expression
from prism.palette.ramps import oklch
from prism.resolution.resolver import Resolver
from prism.starters import STARTERS
from studio.store import pictures
from studio.store import projects as store
from studio.store.models import Picture, Project
from tests.builders import areas, document, resolved, saved, small_picture, token
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


class BringTests(PaletteCase):
    def test_text_is_looked_at_and_stored_only_when_told(self):
        response = self.client.post(
            self.url("importing:preview"), {"text": "tide: #036\nspruce.8: #111\nwhite: #fff"}
        )
        self.assertContains(response, "3 colors found")
        self.assertContains(response, "the same color is there")
        self.assertEqual(Project.objects.get(pk=self.project.pk).revision, 1)
        rows = {
            "take-0": "1", "path-0": "tide", "text-0": "#036",
            "take-1": "1", "path-1": "spruce.8", "text-1": "#111", "action-1": "replace",
            "path-2": "white", "text-2": "#fff",
        }  # fmt: skip
        self.post("importing:store", count=3, purpose="chart", **rows)
        self.assertEqual((self.text("tide"), self.text("spruce.8")), ("#036", "#111"))

    def test_clashes_are_asked_again_with_everything_still_there(self):
        rows = {"take-0": "1", "path-0": "spruce.8", "text-0": "#111", "action-0": "add"}
        response = self.post("importing:store", count=1, group="", **rows)
        self.refused(response, "“spruce.8” already exists.")
        self.assertContains(response, 'value="#111"', status_code=422)
        self.refused(self.post("importing:store", count=1), "No color is selected.")
        self.refused(self.post("importing:store"), "Nothing was stored.", 400)

    def test_files_and_bad_text(self):
        gpl = SimpleUploadedFile("a.gpl", b"GIMP Palette\n 35 107 83\tFir\n")
        response = self.client.post(self.url("importing:preview"), {"file": gpl})
        self.assertContains(response, 'value="Fir"')
        for said, sentence, status in (
            ({"text": "nothing"}, "There is no color in this text.", 422),
            ({"text": ""}, "There is nothing to import.", 400),
            ({"file": SimpleUploadedFile("a.txt", b"\xff\xff")}, "The file is not text.", 422),
            ({"file": SimpleUploadedFile("a.txt", b"x" * 26_000_000)}, "at most 25 MB", 400),
        ):
            self.refused(self.client.post(self.url("importing:preview"), said), sentence, status)

    def test_many_colors_come_at_once(self):
        rows = {}
        for i in range(1500):
            rows |= {f"take-{i}": "1", f"path-{i}": f"many.{i}", f"text-{i}": f"#{i:06x}"}
        self.assertEqual(self.post("importing:store", count=1500, **rows).status_code, 302)
        self.assertEqual(sum(t.path.startswith("many.") for t in self.stored().tokens), 1500)


class PictureTests(PaletteCase):
    def import_files(self, data=None, name="harbor.png", count=8):
        file = SimpleUploadedFile(name, small_picture() if data is None else data)
        return self.client.post(self.url("importing:read-picture"), {"file": file, "count": count})

    def test_a_picture_is_kept_shown_and_its_colors_find_their_places(self):
        response = self.import_files()
        kept = Picture.objects.get()
        self.assertRedirects(response, self.url("importing:picture") + f"?picture={kept.code}")
        page = self.client.get(response["Location"])
        self.assertContains(page, "<image href=")
        for color in kept.colors:
            self.assertContains(page, color["hex"])
        image = self.client.get(self.url("importing:image", kept.code))
        self.assertEqual(
            (image["Content-Type"], image.content[:3]), ("image/jpeg", b"\xff\xd8\xff")
        )
        said = {"kind-0": "ramp", "target-0": "glow", "kind-1": "token", "target-1": "text.link"}
        self.post("importing:assign", picture=kept.code, **said)
        stored = self.stored()
        self.assertEqual(stored.ramps[-1].name, "glow")
        link = resolved(stored, "text.link").hex
        self.assertEqual(link, kept.colors[1]["hex"])
        self.project.refresh_from_db()
        self.assertEqual(self.project.revision, 2)

    def test_bad_pictures_are_refused_in_words(self):
        for data, sentence, status in (
            (b"not a picture", "This picture cannot be read.", 422),
            (b"", "This picture cannot be read.", 422),
            (b"\0" * 25_400_000, "has 25 MB; at most 25 MB are read.", 400),
            (b"\0" * 101_000_000, "The upload has 101 MB; at most 26 MB are accepted.", 413),
        ):
            self.refused(self.import_files(data), sentence, status)
        self.refused(self.import_files(count=99), "5 to 12 colors", 400)
        self.assertEqual(Picture.objects.count(), 0)
        self.assertContains(
            self.client.post(self.url("importing:read-picture"), {"count": 8}),
            "There is no picture.",
            status_code=400,
        )

    def test_one_for_print_says_so(self):
        printed = saved(Image.new("CMYK", (30, 30), (200, 0, 90, 0)), "JPEG")
        page = self.client.get(self.import_files(printed, "print.jpg")["Location"])
        self.assertContains(page, "made for print (CMYK)")

    def test_assigning_says_what_is_wrong(self):
        self.import_files()
        code = Picture.objects.get().code
        for said, sentence, status in (
            ({}, "Every color is left out.", 422),
            ({"kind-0": "token", "target-0": "no.such"}, "There is no color token", 422),
            ({"kind-0": "ramp", "target-0": ""}, "A ramp needs a name.", 422),
            ({"picture": "gone", "kind-0": "ramp"}, "no longer there", 422),
        ):
            said = {"picture": code} | said
            self.refused(self.post("importing:assign", **said), sentence, status)

    def test_one_that_cannot_be_is_not_there(self):
        for code in ("gone", "\0", "../x"):
            page = self.client.get(self.url("importing:picture"), {"picture": code})
            self.assertEqual(page.status_code, 200)

    def test_only_so_many_are_kept(self):
        from prism.palette.pictures import read

        picture = read(saved(areas(((9, 9, 9, 1),), (8, 8))), "x")
        codes = [pictures.keep(self.project, self.user, "x", picture) for _ in range(33)]
        self.assertEqual(Picture.objects.count(), pictures.KEPT)
        self.assertIsNone(pictures.find(self.project, codes[0]))


class IdeaTests(PaletteCase):
    def test_ideas_are_shown_held_looked_at_and_taken(self):
        page = self.client.get(self.url("ideas:room"), {"words": WORDS})
        self.assertContains(page, "small stand-in that ships with this application")
        self.assertContains(page, "More like this", count=6)
        held = {"words": WORDS, "held": "main:236b53:spruce", "idea": "1"}
        page = self.client.get(self.url("ideas:room"), held)
        self.assertContains(page, "#236b53")
        self.assertContains(page, "<iframe", count=2)
        sheet = self.client.get(self.url("ideas:paint"), held)
        present = self.client.get(self.url("stage:paint"))
        self.assertNotEqual(sheet.content, present.content)
        self.assertEqual(Project.objects.get(pk=self.project.pk).revision, 1)
        self.post("ideas:take", **held)
        names = [ramp.name for ramp in self.stored().ramps]
        self.assertIn("spruce 2", names)
        self.assertGreaterEqual(len(names), 18)

    def test_the_new_scene_is_framed_by_the_application_alone(self):
        pane = self.client.get(self.url("ideas:pane"), {"words": WORDS, "idea": "0"})
        self.assertIn("frame-ancestors 'self'", pane["Content-Security-Policy"])
        self.assertEqual(self.client.get(self.url("ideas:paint"), {"words": ""}).status_code, 400)

    def test_what_cannot_be_taken_is_said(self):
        self.refused(self.post("ideas:take", words=WORDS, idea="99"), "cannot be found again")
        left = {
            f"plan-{role}": "leave" for role in ("neutral", "main", "second", "accent", "quiet")
        }
        self.refused(
            self.post("ideas:take", words=WORDS, idea="0", **left), "Every color is left out."
        )
        long = self.client.get(self.url("ideas:room"), {"words": "x" * 300})
        self.assertContains(long, "At most 200 characters", status_code=422)


class MeasureTests(PaletteCase):
    def test_a_scale_is_added_and_follows_its_base(self):
        self.post("measures:scale", kind="space", group="gap", base="4px", values="0 1 2 4")
        self.assertEqual(self.text("gap.2"), "calc({gap.base} * 2)")
        base = self.stored().token_at("gap.base").key
        self.post("measures:store", token=base, value="6px")
        page = self.client.get(self.url("measures:room"))
        self.assertContains(page, "<code>12px</code>")

    def test_single_measures_and_copy_by_mode(self):
        self.post("measures:add", path="speed.fast", type="duration", value="90ms")
        self.assertEqual(self.text("speed.fast"), "90ms")
        self.post("measures:add", page="copy", path="copy.title", type="string", value="Departures")
        title = self.stored().token_at("copy.title").key
        response = self.post(
            "measures:store", page="copy", token=title, value="Abfahrten", mode="brand osprelle"
        )
        self.assertRedirects(response, self.url("measures:copy"))
        stored = self.stored()
        resolver = Resolver(stored)
        self.assertEqual(
            [resolver.resolve(title, (0, brand, 0)).css for brand in (0, 1)],
            ['"Departures"', '"Abfahrten"'],
        )

    def test_bad_measures_are_refused_in_words(self):
        for name, said, sentence, status in (
            ("measures:add", {"path": "a", "type": "dimension", "value": "red"}, "red", 422),
            ("measures:add", {"path": "text", "type": "dimension", "value": "1px"}, "text", 422),
            ("measures:add", {"path": "a", "type": "color", "value": "red"}, "type:", 400),
            ("measures:scale", {"kind": "moon", "group": "a", "values": "1"}, "no such scale", 422),
            (
                "measures:scale",
                {"kind": "space", "group": "a", "base": "4px", "values": "x"},
                "not a number",
                422,
            ),
            ("measures:store", {"token": "gone", "value": "1px"}, "no longer there", 422),
        ):
            self.refused(self.post(name, **said), sentence, status)


class BeginTests(RoomCase):
    def test_a_project_begins_empty_from_a_file_a_picture_or_a_starting_point(self):
        for start, room in (
            ("", "palette:room"), ("empty", "palette:room"), ("file", "exchange:room"),
            ("picture", "importing:picture"), *((one.id, "palette:room") for one in STARTERS),
        ):  # fmt: skip
            response = self.client.post("/projects/new", {"name": f"By {start}.", "start": start})
            self.project = Project.objects.latest("pk")
            self.assertRedirects(response, self.url(room))
            stored = store.load(self.project).document
            self.assertEqual(stored.name, f"By {start}.")
            self.assertEqual(bool(stored.tokens), start in {one.id for one in STARTERS})
        response = self.client.post("/projects/new", {"name": "x", "start": "moon"}, follow=True)
        self.assertContains(response, "moon is not one of the available choices")

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
