"""Colors that come into the Palette room: pasted, from pictures, from ideas, and measures."""

from urllib.parse import urlsplit

from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from prism.resolution.resolver import Resolver
from studio.store import pictures
from studio.store.models import Picture, Project
from tests.builders import areas, resolved, saved, small_picture
from tests.studio.test_palette import PaletteCase

WORDS = "calm harbor at dusk, one warm light"


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
        page = self.post("importing:assign", picture=kept.code, **said)
        self.assertContains(page, "What would be written")
        self.assertNotIn("glow", [ramp.name for ramp in self.stored().ramps])
        again = self.post("importing:assign", picture=kept.code, store="1", **said)
        self.assertContains(again, "What would be written")
        digest = page.context["review"]["digest"]
        self.post("importing:assign", picture=kept.code, store="1", reviewed=digest, **said)
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
        for code, status in (("gone", 200), ("\0", 400), ("../x", 200)):
            page = self.client.get(self.url("importing:picture"), {"picture": code})
            self.assertEqual(page.status_code, status)

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
        self.assertContains(page, "<iframe", count=14)
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
        self.assertEqual(self.client.get(self.url("ideas:paint"), {"words": ""}).status_code, 422)

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
        cell = {"only": "measures", "columns": "density", "token": base, "condition": "cell"}
        self.post("tokens:store", **cell, mode="roomy", value="6px")
        page = self.client.get(self.url("measures:room"), {"find": "gap"})
        self.assert_reads(page, '<code class="result">12px</code>')
        self.assertNotContains(page, 'title="spruce')

    def test_single_measures_and_texts_by_mode(self):
        self.post("tokens:add", only="measures", path="speed.fast", value="90ms")
        self.assertEqual(self.text("speed.fast"), "90ms")
        self.post("tokens:add", only="measures", path="heavy", value="700", new_type="fontWeight")
        self.assertEqual(self.stored().token_at("heavy").type, "fontWeight")
        response = self.post("tokens:add", only="texts", path="copy.title", value="Departures")
        self.assertEqual(urlsplit(response.url).path, self.url("measures:copy"))
        title = self.stored().token_at("copy.title").key
        cell = {"only": "texts", "columns": "brand", "token": title, "condition": "cell"}
        response = self.post("tokens:store", **cell, mode="osprelle", value="Abfahrten")
        self.assertEqual(urlsplit(response.url).path, self.url("measures:copy"))
        stored = self.stored()
        resolver = Resolver(stored)
        self.assertEqual(
            [resolver.resolve(title, (0, brand, 0)).css for brand in (0, 1)],
            ['"Departures"', '"Abfahrten"'],
        )
        page = self.client.get(self.url("measures:copy"))
        self.assertContains(page, "Abfahrten")
        self.assertNotContains(page, 'title="speed.fast"')

    def test_bad_measures_are_refused_in_words(self):
        for name, said, sentence, status in (
            ("tokens:add", {"path": "a", "new_type": "dimension", "value": "red"}, "red", 422),
            (
                "tokens:add",
                {"path": "text.main", "new_type": "dimension", "value": "1px"},
                "text",
                422,
            ),
            ("tokens:add", {"path": "a", "new_type": "moon", "value": "1px"}, "no type", 422),
            ("measures:scale", {"kind": "moon", "group": "a", "values": "1"}, "no such scale", 422),
            (
                "measures:scale",
                {"kind": "space", "group": "a", "base": "4px", "values": "x"},
                "not a number",
                422,
            ),
            (
                "tokens:store",
                {"only": "measures", "token": "gone", "value": "1px", "condition": "cell"},
                "no longer there",
                422,
            ),
        ):
            self.refused(self.post(name, **said), sentence, status)
