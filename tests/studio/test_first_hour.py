"""The first hour over HTTP: a project from colors, single tokens, a brand more, a step that passes."""

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from demo import quillhaven
from prism.analysis import Analysis
from prism.model.document import Document
from prism.model.values import Condition
from prism.resolution.resolver import Resolver
from studio.store import projects as store
from studio.store.models import Project
from tests.builders import APPEARANCE, document, small_picture, token
from tests.studio.cases import RoomCase

DARK = Condition.of({"appearance": "dark"})
WITH = ["dark", "statuses", "overlays", "measures"]


class StartTests(RoomCase):
    def begin(self, **fields):
        """Post the page on which a project is begun."""
        given = {"name": "Copper Lane", "start": "one-product", "naming": "plain", "with": WITH}
        return self.client.post(reverse("projects:new"), given | fields)

    def test_who_has_no_project_begins_one(self):
        page = self.client.get(reverse("home"))
        for words in ("New project", "What you get", "open the demo", "import files", "Sign out"):
            self.assertContains(page, words)
        self.make(document())
        self.assertContains(self.client.get(reverse("home")), 'id="new-project"')

    def test_a_scheme_of_colors_is_created(self):
        fields = {"color-name": ["teal", ""], "color-value": ["#0b6e75", "#e0b13c"]}
        response = self.begin(**fields)
        self.project = Project.objects.get()
        self.assertRedirects(response, self.url("tokens:room"))
        built = self.stored()
        self.assertEqual(built.name, "Copper Lane")
        self.assertEqual([ramp.name for ramp in built.ramps][:3], ["teal", "yellow", "neutral"])
        self.assertEqual(Analysis(built).failing, {})

    def test_what_was_filled_in_stays_where_it_is_refused(self):
        for fields, sentence in (
            ({"name": " "}, "A project needs a name."),
            ({"color-name": ["a"], "color-value": ["nope"]}, "a: “nope” is not a color."),
            ({"more": "no color"}, "There is no color in this text."),
            ({"name_prefix": "a{b"}, "cannot be a path"),
            ({"start": "moon"}, "moon is not one of the available choices"),
        ):
            response = self.begin(**({"color-name": ["sea"], "color-value": ["#0b6e75"]} | fields))
            with self.subTest(sentence=sentence):
                self.assertContains(response, sentence, status_code=422)
                self.assertContains(response, 'name="color-value"', status_code=422)
        self.assertFalse(Project.objects.exists())

    def test_a_color_that_was_typed_and_not_entered_counts(self):
        self.begin(more="plum #7a3b69")
        self.project = Project.objects.get()
        self.assertEqual(self.stored().ramps[0].name, "plum")

    def test_nothing_and_files_lead_where_work_begins(self):
        self.begin(start="nothing")
        self.project = Project.objects.latest("pk")
        self.assertEqual(self.stored().tokens, ())
        response = self.begin(name="", then="import")
        self.project = Project.objects.latest("pk")
        self.assertRedirects(response, self.url("exchange:room"))

    def test_names_do_not_repeat(self):
        for _ in range(2):
            self.begin(start="nothing")
        names = list(Project.objects.order_by("pk").values_list("name", flat=True))
        self.assertEqual(names, ["Copper Lane", "Copper Lane 2"])

    def test_the_preview_says_what_is_wrong_and_keeps_the_rest(self):
        good = self.client.get(
            reverse("projects:preview"),
            {"color-value": ["#0b6e75"], "color-name": [""], "with": WITH},
        )
        self.assertContains(good, "all\n          pass in every theme")
        bad = self.client.get(
            reverse("projects:preview"), {"color-value": ["x"], "color-name": ["a"]}
        )
        self.assertContains(bad, "is not a color")
        self.assertNotContains(bad, 'id="preview-ramps"')

    def test_a_small_interface_is_painted_in_each_look(self):
        asked = {"color-value": ["#0b6e75"], "color-name": ["sea"], "with": WITH, "name": "Mill"}
        page = self.client.get(reverse("projects:scene"), asked | {"theme": "appearance:dark"})
        self.assertContains(page, 'data-appearance="dark"')
        self.assertContains(page, "Mill")
        self.assertIn("frame-ancestors 'self'", page["Content-Security-Policy"])
        sheet = self.client.get(reverse("projects:paint"), asked)
        self.assertContains(sheet, "--sea-8")
        bad = self.client.get(
            reverse("projects:paint"), {"color-value": ["x"], "color-name": ["a"]}
        )
        self.assertEqual(bad.status_code, 422)

    def test_colors_come_from_text_files_and_pictures(self):
        for sent, words in (
            ({"text": "moss: #4c6b1f"}, "moss"),
            ({"file": SimpleUploadedFile("a.css", b":root { --fern: #2f7d4a }")}, "fern"),
            ({"file": SimpleUploadedFile("a.png", small_picture())}, "yellow"),
        ):
            self.assertContains(self.client.post(reverse("projects:colors"), sent), words)
        response = self.client.post(reverse("projects:colors"), {"text": "hello there"})
        self.assertContains(response, "There is no color", status_code=422)
        self.assertEqual(self.client.post(reverse("projects:colors"), {}).status_code, 422)

    def test_the_demo_is_opened_as_a_copy_of_ones_own(self):
        self.client.post(reverse("projects:demo"))
        self.project = Project.objects.get()
        self.assertEqual(self.stored().tokens, quillhaven.document().tokens)


class SingleTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def test_a_token_is_added_with_its_values_behind_its_group(self):
        response = self.post(
            "tokens:add", path="text.new", **{"value-light": "ink.5", "value-dark": "#123456"},
            new_tier="semantic", add="semantic:text",
        )  # fmt: skip
        self.assertRedirects(response, self.url("tokens:room") + "?add=semantic%3Atext")
        self.assertEqual(
            (self.text("text.new"), self.text("text.new", DARK)), ("{ink.5}", "#123456")
        )
        paths = [known.path for known in self.stored().tokens]
        self.assertEqual(paths[paths.index("text.new") - 1].partition(".")[0], "text")
        self.assertContains(self.client.get(response["Location"]), 'id="adder-path"')

    def test_what_was_typed_stays_where_it_is_refused(self):
        for path, value, sentence in (
            ("text.new", "ink.99", "{ink.99} does not exist"),
            ("text.main", "ink.5", "There is a token “text.main” already."),
            ("text.new", "", "A token needs a value."),
            ("te{xt", "ink.5", "cannot be a path"),
        ):
            fields = {"path": path, "value-light": value, "add": "semantic:text"}
            response = self.post("tokens:add", **fields)
            with self.subTest(sentence=sentence):
                self.assertContains(response, sentence, status_code=422)
                self.assertContains(response, f'value="{path}"', status_code=422)

    def test_a_token_that_starts_a_path_becomes_the_root_of_its_group(self):
        self.post("tokens:add", path="text.link.hover", **{"value-light": "accent.9"})
        built = self.stored()
        self.assertEqual(built.token("text.link").path, "text.link.$root")
        self.assertEqual(self.text("text.link.hover"), "{accent.9}")

    def test_groups_and_tokens_are_copied_moved_and_deleted(self):
        self.post("tokens:command", command="duplicate-group", group="text", path="words")
        self.assertEqual(self.text("words.main"), self.text("text.main"))
        self.post("tokens:command", command="move-group?by=1", group="text")
        tops = list(dict.fromkeys(t.top for t in self.stored().tokens if t.tier == "semantic"))
        self.assertGreater(tops.index("text"), 0)
        self.post("tokens:command", command="delete-group", group="words")
        self.assertIsNone(self.stored().token_at("words.main"))
        refused = self.post("tokens:command", command="delete-group", group="accent")
        self.assertContains(refused, "is used by", status_code=422)
        self.post("tokens:command", command="duplicate-tokens", tokens="text.main")
        self.assertEqual(self.text("text.main copy"), self.text("text.main"))

    def test_what_was_stored_is_said_with_an_undo_beside(self):
        response = self.post("tokens:command", command="duplicate-tokens", tokens="text.main")
        page = self.client.get(response["Location"])
        self.assertContains(page, "Duplicated text.main.")
        self.assertContains(page, 'id="undo-here"')

    def test_find_goes_over_names_values_and_results(self):
        for words, path in (
            ("text main", "text.main"),
            ("spruce.8", "accent.8"),
            ("#236b53", "spruce.8"),
        ):
            page = self.client.get(self.url("tokens:room"), {"find": words})
            leaf = path.rpartition(".")[2]
            self.assertContains(page, f"</span>{leaf}")

    def test_flat_names_are_grouped_and_their_groups_renamed(self):
        self.make(
            document(*(token(f"acme-{a}-{b}", "#123456") for a in ("text", "line") for b in "xyz"))
        )
        page = self.client.get(self.url("tokens:room"))
        self.assertContains(page, 'id="fold-semantic-acme-text"')
        self.post("tokens:command", command="rename-group", group="acme-text", path="acme-word")
        self.assertIsNotNone(self.stored().token_at("acme-word-x"))


class BrandTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def test_a_brand_is_previewed_and_added(self):
        asked = {"name": "Moor", "colors": "#8a2f6b"}
        preview = self.client.get(self.url("axes:preview-brand"), asked | {"revision": 1})
        self.assertContains(preview, "differ")
        self.assertContains(preview, "moor.8")
        self.post("axes:add-brand", **asked, corners="")
        brand = next(axis for axis in self.stored().axes if axis.name == "brand")
        self.assertEqual(brand.modes[-1].name, "Moor")

    def test_what_is_wrong_is_said_and_stays(self):
        for fields, sentence in (
            ({"name": "", "colors": "#123456"}, "A brand needs a name."),
            ({"name": "Moor", "colors": "plaid"}, "There is no color"),
            ({"name": "Vexley", "colors": "#123456"}, "Two modes have the same name."),
        ):
            response = self.post("axes:add-brand", **fields)
            self.assertContains(response, sentence, status_code=422)
            preview = self.client.get(self.url("axes:preview-brand"), fields | {"revision": 1})
            self.assertContains(preview, sentence)

    def test_a_mode_is_added_one_way(self):
        fields = {"axis": "appearance", "source": "dark", "adding": "mode:appearance"}
        self.post("axes:add-mode", name="night", how="copy", **fields)
        built = self.stored()
        night = built.axes[0].modes[-1]
        self.assertEqual((night.name, night.color_scheme), ("night", "dark"))
        same = self.text("text.main", Condition.of({"appearance": night.key}))
        self.assertEqual(same, self.text("text.main", DARK))
        response = self.post("axes:add-mode", name="dusk", how="counterpart", **fields)
        self.assertIn(
            "propose?axis=appearance&source=dark&name=dusk&scheme=light", response["Location"]
        )
        again = self.post("axes:add-mode", name="night", how="empty", **fields)
        self.assertContains(again, "Two modes have the same name.", status_code=422)

    def test_a_dark_mode_is_proposed_where_there_is_no_axis(self):
        self.make(
            document(
                token("page", "#ffffff"),
                token("text", "#222222"),
                token("card", "#f7f7f7"),
                axes=(),
            )
        )
        asked = {"name": "dark", "scheme": "dark"}
        page = self.client.get(self.url("axes:propose"), asked)
        self.assertContains(page, "dark, derived from light")
        keys = [known.key for known in self.stored().tokens]
        self.post("axes:take", **asked, axis="", source="", take=keys)
        (axis,) = self.stored().axes
        self.assertEqual([mode.name for mode in axis.modes], ["light", "dark"])
        self.assertEqual([mode.color_scheme for mode in axis.modes], ["light", "dark"])


class FixTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())
        self.key = "signal.go/signal.surface.go"

    def test_a_failing_pairing_offers_the_nearest_step_and_takes_it(self):
        page = self.client.get(self.url("checks:room"), {"pairing": self.key})
        self.assert_reads(page, "Falls short in 48 of 288 themes.")
        self.assertContains(page, "signal.go to go.8")
        response = self.post(
            "checks:command", command="fix-pairing", pairing=self.key, side="foreground",
            shown="signal.go to go.8",
        )  # fmt: skip
        self.assertEqual(response.status_code, 302)
        self.assertEqual(self.text("signal.go"), "{go.8}")
        self.assertNotIn(self.key, Analysis(self.stored()).failing)

    def test_a_fix_that_is_another_by_now_is_not_taken(self):
        response = self.post(
            "checks:command", command="fix-pairing", pairing=self.key, shown="signal.go to go.9"
        )
        self.assertContains(response, "The fix is another by now", status_code=422)
        for fields, sentence in (
            ({"pairing": "gone"}, "no longer there"),
            (
                {"pairing": self.key, "side": "background"},
                "No single step of the background passes",
            ),
        ):
            response = self.post("checks:command", command="fix-pairing", **fields)
            self.assertContains(response, sentence, status_code=422)


class ImportTests(RoomCase):
    def test_text_of_any_kind_is_pasted(self):
        for text, path in (
            (":root { --fern: #2f7d4a }", "fern"),
            ('{"moss": "#4c6b1f"}', "moss"),
            ("plum #7a3b69, straw #e0b13c", "plum"),
            ("name,value\nreed,#6b7d2f", "reed"),
        ):
            self.make(Document(name="x"))
            self.post("exchange:import", text=text, into="here")
            with self.subTest(text=text):
                self.assertIsNotNone(self.stored().token_at(path))
        response = self.post("exchange:import", text="hello", into="here")
        self.assertContains(response, "There is no color in this text.", status_code=422)

    def test_links_are_selected_up_to_a_distance(self):
        self.make(
            document(
                token("sea.1", "#2b5d8a", tier="raw"),
                token("same", "#2b5d8b"),
                token("near", "#32648f"),
                axes=(APPEARANCE,),
            )
        )
        page = self.client.get(self.url("mapping:link")).content.decode()
        self.assertEqual(page.count('name="take"'), 2)
        self.assertEqual(page.count("            checked"), 1)
        for upto, count in (("5", 2), ("0.0001", 0), ("many", 1), ("nan", 1)):
            page = self.client.get(self.url("mapping:link"), {"upto": upto}).content.decode()
            self.assertEqual(page.count("            checked"), count, upto)

    def test_roles_of_a_picture_become_ramps_and_values(self):
        self.make(quillhaven.document())
        picture = {"file": SimpleUploadedFile("a.png", small_picture()), "count": "5"}
        response = self.client.post(self.url("importing:read-picture"), picture)
        code = response["Location"].rpartition("=")[2]
        page = self.client.get(response["Location"])
        self.assertContains(page, "the value of surface.page")
        said = {"by-role": "1", "role-page": "1", "role-brand": "0", "color-0": "#123456"}
        before = self.stored()
        page = self.post("importing:assign", picture=code, **said, **{"at-appearance": "dark"})
        self.assertContains(page, "What would be written")
        self.assertContains(page, "dark, ")
        self.assertNotContains(page, "<div>light")
        self.assertEqual(self.stored(), before)
        digest = page.context["review"]["digest"]
        dark = {"at-appearance": "dark", "store": "1", "reviewed": digest}
        self.post("importing:assign", picture=code, **said, **dark)
        after = self.stored()
        light = Resolver(after).theme({"appearance": "light"})
        self.assertEqual(
            Resolver(after).resolve("surface.page", light).hex,
            Resolver(before).resolve("surface.page", light).hex,
            "the mode that was not named stays as it was",
        )
        self.post("projects:undo")
        gone = self.post("importing:assign", picture=code, **said, **{"at-appearance": "gone"})
        self.assertContains(gone, "That mode is no longer there.", status_code=422)
        page = self.post("importing:assign", picture=code, **said)
        digest = page.context["review"]["digest"]
        self.post("importing:assign", picture=code, store="1", reviewed=digest, **said)
        built = self.stored()
        steps = [known.value().text for known in built.tokens if known.top == "brand"]
        self.assertIn("#123456", steps)
        self.assertNotEqual(self.text("surface.page"), "{ink.1}")
        self.assertEqual(store.load(self.project).revision, 4)
