"""The rooms Checks and Exchange, and the settings of a project."""

import io
import json
import re
import zipfile

from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from demo import quillhaven
from prism.changes import structure
from prism.formats import archive
from prism.model.document import Pairing
from prism.model.values import Expression
from studio.store import projects as store
from studio.store.models import Project
from tests.builders import axis, document, observatory_files, token
from tests.studio.cases import RoomCase


class PairingTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(
            document(
                token("text.main", "#777777"),
                token("page.$root", "#ffffff"),
                token("page.low", "#eeeeee"),
            )
        )

    def add(self, **data):
        data = {
            "foreground": "text.main",
            "background": "page",
            "use": "text",
            "revision": 1,
        } | data
        return self.client.post(self.url("checks:add-pairing"), data)

    def test_a_pairing_is_measured_and_counted_where_it_fails(self):
        self.assertRedirects(self.add(), self.url("checks:room"))
        response = self.client.get(self.url("checks:room"))
        self.assertContains(response, "text.main")
        self.assertContains(response, "4.47")
        self.assert_reads(response, "1 falls short in some theme")

    def test_what_is_wrong_is_said_in_the_form(self):
        response = self.add(background="pag")
        self.assertContains(response, "{pag} does not exist", status_code=422)
        self.add()
        self.assertContains(self.add(revision=2), "already exists", status_code=422)

    def run_command(self, command, **fields):
        self.project.refresh_from_db()
        data = {"command": command, "revision": self.project.revision} | fields
        return self.client.post(self.url("checks:command"), data)

    def test_a_pattern_is_kept_as_a_rule(self):
        self.assertRedirects(self.add(background="page*"), self.url("checks:room"))
        (rule,) = self.stored().rules
        self.assertEqual((rule.foreground, rule.background), ("text.main", "page*"))
        page = self.client.get(self.url("checks:room"))
        self.assert_reads(page, "2 known pairings: ")
        self.assertContains(page, "text.main on page*")
        refused = self.add(background="gone.*", revision=2)
        self.assertContains(refused, "No color fits “gone.*”", status_code=422)

    def test_a_presumed_pairing_is_told_apart_and_made_known_or_dropped(self):
        self.make(
            document(
                token("page", "#ffffff"),
                token("text.main", "#111111"),
                token("text.zorp", "#bbbbbb"),
                axes=(),
            )
        )
        self.run_command("pair-by-rule")
        page = self.client.get(self.url("checks:room"))
        self.assert_reads(page, "1 known pairing: each has enough contrast; 1 <span")
        self.assert_reads(page, "presumed</span>, 1 of them falls short")
        opened = self.client.get(self.url("checks:room"), {"pairing": "text.zorp page"})
        self.assertContains(opened, "presumed, as it is not sure what text.zorp is for")
        self.assertContains(opened, "Do these two meet?")
        self.run_command(
            "require-of-pairing", pairing="text.zorp page", required="0", reason="They never meet"
        )
        page = self.client.get(self.url("checks:room"))
        self.assert_reads(page, "2 known pairings: each has enough contrast")
        self.assertNotContains(page, "presumed</span>")

    def test_rules_are_offered_kept_and_removed(self):
        page = self.client.get(self.url("checks:room"))
        self.assertContains(page, "no pairing yet, so nothing is judged")
        self.assertContains(page, "rules make\n    2 pairings. They will pair new colors")
        self.assertRedirects(self.run_command("pair-by-rule"), self.url("checks:room"))
        self.assertEqual(self.stored().pairings, ())
        page = self.client.get(self.url("checks:room"))
        self.assert_reads(page, "2 known pairings: ")
        self.assertNotContains(page, "pair-by-rule")
        again = self.run_command("pair-by-rule")
        self.assertContains(again, "All of these rules are kept already.", status_code=422)
        opened = self.client.get(self.url("checks:room"), {"rule": "texts"})
        self.assertContains(opened, "2 pairings</span>")
        self.run_command("require-by-rule", rule="texts", required="3")
        page = self.client.get(self.url("checks:room"))
        self.assertContains(page, "each has enough contrast")
        wrong = self.run_command("require-by-rule", rule="texts", required="99")
        self.assertContains(wrong, "A contrast ratio lies between 1 and 21.", status_code=422)
        self.run_command("remove-rule", rule="texts")
        self.assertNotIn("texts", [rule.key for rule in self.stored().rules])

    def test_one_pairing_of_a_rule_is_said_otherwise(self):
        self.run_command("pair-by-rule")
        key = "text.main page.low"
        opened = self.client.get(self.url("checks:room"), {"pairing": key})
        self.assertContains(opened, "by the rule: Texts on the page")
        data = {"pairing": key, "required": "0", "reason": "a mark"}
        stored = self.run_command("require-of-pairing", **data)
        self.assertRedirects(stored, self.url("checks:room"))
        (own,) = self.stored().pairings
        self.assertEqual((own.required, own.reason), (0, "a mark"))
        page = self.client.get(self.url("checks:room"))
        self.assertContains(page, "exempt")
        self.assert_reads(page, "short in some theme")

    def test_what_was_typed_stays_where_it_is_refused(self):
        self.run_command("pair-by-rule")
        data = {"pairing": "text.main page.low", "required": "abc", "reason": "a long reason"}
        refused = self.client.post(
            self.url("checks:command"),
            {"command": "require-of-pairing", "revision": 2, **data},
        )
        self.assertContains(refused, "“abc” is not a number.", status_code=422)
        self.assertContains(refused, 'value="a long reason"', status_code=422)

    def test_a_pairing_is_removed(self):
        self.add()
        key = self.stored().pairings[0].key
        self.assertContains(self.client.get(self.url("checks:room"), {"pairing": key}), "by hand")
        self.run_command("remove-pairing", pairing=key)
        self.assertEqual(self.stored().pairings, ())


class ExchangeTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(document(token("text", "#111111")))

    def import_files(self, *files, into="here", **more):
        uploads = [SimpleUploadedFile(name, data) for name, data in files]
        data = {"files": uploads, "into": into, "revision": self.project.revision} | more
        return self.sure(self.client.post(self.url("exchange:import"), data))

    def sure(self, answer, **how):
        """Import what was kept to be looked at, where there is such a thing."""
        _, _, task = answer.get("Location", "").partition("task=")
        if not task:
            return answer
        return self.client.post(self.url("exchange:take-import"), {"task": task}, **how)

    def test_a_set_of_files_becomes_a_new_project(self):
        response = self.import_files(*observatory_files().items(), into="new")
        project = Project.objects.exclude(pk=self.project.pk).get()
        self.assertRedirects(response, reverse("exchange:room", args=[project.code]))
        self.assertEqual(project.name, "Corvane Observatory")
        self.assertEqual(len(store.load(project).document.tokens), 63)

    def test_an_archive_takes_the_place_of_the_tokens_and_can_be_undone(self):
        before = self.stored()
        files = {f"set/{name}": data.decode() for name, data in observatory_files().items()}
        self.import_files(("set.zip", archive.write(files)))
        self.assertEqual(len(self.stored().tokens), 63)
        self.assertEqual(self.stored().name, before.name)
        self.client.post(self.url("projects:undo"))
        self.assertEqual(self.stored(), before)

    def test_what_an_import_in_place_replaces_is_said_before_it_does(self):
        self.make(
            document(
                token("text", "#111111", description="Words"),
                token("page", "#ffffff", ({"look": "night"}, "#000000"), role="page"),
                token("gone.one", "{text}"),
                axes=(axis("look", "light", "night"),),
                pairings=(Pairing("p", "text", ("page",)),),
            )
        )
        before = self.stored()
        css = b":root { --text: #111111; --page: #eeeeee; --fresh: red; --odd }"
        answer = self.client.post(
            self.url("exchange:import"),
            {"files": SimpleUploadedFile("a.css", css), "into": "here", "revision": 1},
        )
        self.assertEqual(self.stored(), before)
        page = self.client.get(answer["Location"])
        words = (
            "1 value stays as it is.", "1 new token", "fresh", "1 token deleted", "gone.one",
            "2 values change", "look night", "#eeeeee", "1 answered role, 1 description, 2 modes, 1 pairing",
            "Skipped --odd",
        )  # fmt: skip
        for sentence in words:
            self.assert_reads(page, sentence)
        self.assertEqual(self.sure(answer).status_code, 302)
        self.assertEqual([one.path for one in self.stored().tokens], ["text", "page", "fresh"])
        self.post("projects:undo")
        self.assertEqual(self.stored(), before)
        gone = self.client.post(self.url("exchange:take-import"), {"task": "nothing"})
        self.assertContains(gone, "no longer kept. Choose it again.", status_code=410)

    def test_what_was_pasted_is_there_again_where_an_import_is_cancelled(self):
        before = self.stored()
        answer = self.post("exchange:import", text=":root { --pasted: red }", into="here")
        page = self.client.get(answer["Location"])
        self.assertContains(page, "Replace tokens")
        page = self.client.get(answer["Location"] + "&cancelled=1")
        self.assertNotContains(page, "Replace tokens")
        self.assertContains(page, "--pasted: red")
        self.assertEqual(self.stored(), before)

    def test_bad_files_are_refused_with_one_sentence_and_nothing_is_stored(self):
        color = {"a": {"$type": "color", "$value": "#12345"}}
        for files, sentence in (
            ([("x.tokens.json", b"{ not json")], "The file is not JSON"),
            ([("x.tokens.json", json.dumps(color).encode())], "“#12345” is not a color."),
            ([("x.zip", archive.write({"../x.json": "{}"}))], "points outside the archive"),
            ([("x.zip", b"PK\x03\x04 nothing")], "not a zip archive"),
            ([("x.json", b"")], "The file is empty."),
            ([("x.json", b"{}"), ("y.zip", b"")], "The file is empty."),
            ([("x.json", b"{}"), ("x.json", b"{}")], "Two files have this name."),
            ([], "There is nothing to import."),
        ):
            with self.subTest(sentence):
                before = self.stored()
                response = self.import_files(*files)
                self.assertIn(response.status_code, (400, 422))
                text = response.content.decode().replace("&lt;", "<").replace("&#x27;", "'")
                self.assertIn(sentence, text)
                self.assertEqual(self.stored(), before)
                self.assertEqual(Project.objects.count(), 1)

    def test_a_file_of_50_mb_is_refused(self):
        response = self.import_files(("big.tokens.json", b" " * (50 * 1024 * 1024)))
        self.assertContains(response, "The upload has 52 MB", status_code=413)
        self.assertContains(response, "Nothing was stored", status_code=413)
        response = self.import_files(("big.tokens.json", b" " * 25_600_000))
        self.assertContains(response, "big.tokens.json: the upload has 26 MB", status_code=400)

    def test_an_import_from_an_older_page_keeps_what_was_stored_meanwhile(self):
        revision = self.project.revision
        fresh = store.load(self.project)
        added = structure.add_tokens(fresh.document, [token("fresh.one", "#010203")])
        store.record(self.project, fresh, added, self.user, "Added")
        self.import_files(
            ("x.json", b'{"a": {"$type": "color", "$value": "#000"}}'), revision=revision
        )
        self.assertEqual({one.path for one in self.stored().tokens}, {"a", "fresh.one"})
        response = self.import_files(
            ("x.json", b'{"a": {"$type": "color", "$value": "#000"}}'), revision=99
        )
        self.assertContains(response, "cannot be found any more", status_code=422)

    def test_references_to_nothing_and_circles_are_kept_shown_and_listed(self):
        tree = {
            "$type": "color",
            "a": {"$value": "{b}"},
            "b": {"$value": "{a}"},
            "c": {"$value": "{x}"},
        }
        response = self.import_files(("x.tokens.json", json.dumps(tree).encode()))
        self.assertEqual(response.status_code, 302)
        self.assertEqual(self.text("c"), "{x}")
        page = self.client.get(self.url("exchange:room"))
        self.assertContains(page, "a has no result: Circular reference: a → b → a.")
        self.assertContains(page, "c has no result: {x} does not exist.")
        for name in ("palette", "tokens", "stage", "checks"):
            self.assertEqual(self.client.get(self.url(f"{name}:room")).status_code, 200)

    def test_what_is_taken_is_what_is_stored(self):
        css = self.client.get(self.url("exchange:export", "css"))
        self.assertIn('filename="small.css"', css["Content-Disposition"])
        self.assertIn("--text: #111111;", css.content.decode())
        self.assertIn(
            "--text: #111111;",
            self.client.get(self.url("exchange:export", "flat-css")).content.decode(),
        )
        data = self.client.get(self.url("exchange:export", "design-tokens")).content
        with zipfile.ZipFile(io.BytesIO(data)) as taken:
            self.assertEqual(taken.namelist(), ["small.resolver.json", "tokens.tokens.json"])

    def test_other_formats_are_taken_and_brought(self):
        for kind, ending in (("json", ".json"), ("csv", ".csv"), ("gpl", ".gpl"), ("svg", ".svg")):
            with self.subTest(kind):
                taken = self.client.get(self.url("exchange:export", kind)).content
                self.import_files((f"again{ending}", taken))
                (again,) = self.stored().tokens
                self.assertEqual((again.path, again.value()), ("text", Expression("#111111")))
        self.assertEqual(self.client.get(self.url("exchange:export", "exe")).status_code, 404)

    def test_a_style_sheet_comes_with_a_list_of_what_was_skipped(self):
        css = b":root { --ink: #111; --shade: 0 1px 2px #000 } .dark { --ink: #eee } .odd { --ink: red }"
        answer = self.client.post(
            self.url("exchange:import"),
            {"files": SimpleUploadedFile("a.css", css), "into": "here", "revision": 1},
        )
        response = self.sure(answer, follow=True)
        self.assertContains(
            response, "2 tokens imported (1 raw, 1 semantic), with axis appearance (light, dark)."
        )
        self.assertContains(response, "Skipped --ink (line 1): the class .odd names no mode.")

    def test_a_long_list_of_what_was_skipped_is_cut_with_its_count(self):
        classes = " ".join(f".odd-{i} {{ --a: red }}" for i in range(50))
        broken = "; ".join(f"--b{i} #fff" for i in range(120))
        css = f":root {{ --a: #111; {broken} }} {classes}".encode()
        answer = self.client.post(
            self.url("exchange:import"),
            {"files": SimpleUploadedFile("a.css", css), "into": "here", "revision": 1},
        )
        response = self.sure(answer, follow=True)
        self.assertContains(response, "--b99 #fff (line 1) and 20 more: cannot be read")
        self.assertNotContains(response, "--b100")
        self.assertContains(response, "More was skipped, for 11 other reasons.")

    def test_its_findings_are_shown(self):
        self.import_files(*observatory_files().items())
        response = self.client.get(self.url("exchange:room"))
        self.assertContains(response, "Glow.rim is there only under sky night and red light.")


class ProjectTests(RoomCase):
    def test_made_copied_renamed_deleted_and_brought_back(self):
        self.client.post(reverse("projects:new"), {"name": "Harbor"})
        self.project = Project.objects.get()
        self.client.post(self.url("projects:settings"), {"name": "Quay"})
        self.client.post(self.url("projects:copy"))
        names = [project.name for project in Project.objects.all()]
        self.assertEqual(names, ["Quay", "Quay, copy"])
        listed = self.client.post(self.url("projects:delete"), follow=True)
        self.assertNotContains(listed, self.url("open"))
        self.assertContains(listed, 'id="restore-here">Undo')
        self.client.post(self.url("projects:restore"))
        self.assertContains(self.client.get(reverse("projects:list")), self.url("open"))

    def test_members_are_invited_by_name_and_an_owner_remains(self):
        self.make(document(token("a", "#111111")))
        tove = get_user_model().objects.create_user("tove")
        invite = self.url("projects:invite")
        response = self.client.post(invite, {"username": "nobody here", "role": "editor"})
        self.assertContains(response, "There is no account named “nobody here”", status_code=400)
        self.client.post(invite, {"username": "tove", "role": "editor"})
        self.assertEqual(self.project.memberships.get(user=tove).role, "editor")
        mine = self.project.memberships.get(user=self.user)
        response = self.client.post(self.url("projects:remove-member", mine.pk), follow=True)
        self.assertContains(response, "A project needs an owner.")
        self.client.post(invite, {"username": "maren", "role": "viewer"})
        self.assertEqual(self.project.memberships.get(user=self.user).role, "owner")

    def test_an_account_is_made_and_signs_in(self):
        self.client.logout()
        word = "a long made-up word"
        self.client.post(
            reverse("accounts:join"), {"username": "ylva", "password1": word, "password2": word}
        )
        self.assertContains(self.client.get(reverse("projects:list")), "ylva")
        self.client.post(reverse("accounts:sign-out"))
        response = self.client.post(
            reverse("accounts:sign-in"), {"username": "ylva", "password": "no"}
        )
        self.assertContains(response, "No account has this name and password.")

    def test_signs_of_life_and_a_missing_page(self):
        self.assertContains(self.client.get(reverse("alive")), "alive")
        response = self.client.get("/p/nothing/tokens/")
        self.assertContains(response, "There is no such page", status_code=404)


class FixAllTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def test_everything_is_fixed_at_once_and_reviewed_first(self):
        self.assertContains(self.client.get(self.url("checks:room")), 'id="fix-all"')
        page = self.client.get(self.url("checks:fix-all"))
        self.assert_reads(page, "11 values would change")
        self.assert_reads(page, "21 readings fall short now, <strong>none would</strong> then")
        self.assertContains(page, "so that focus.ring on surface.page reads 4.32, not 2.86")
        everything = [str(number) for number in range(11)]
        self.post("checks:take-fixes", take=everything)
        room = self.client.get(self.url("checks:room"))
        self.assert_reads(room, "each has enough contrast")
        self.assertNotContains(room, 'id="fix-all"')
        self.assertContains(
            self.client.get(self.url("checks:fix-all")), "Nothing that was judged falls short."
        )

    def test_a_row_is_kept_and_what_cannot_pass_then_is_said(self):
        page = self.client.get(self.url("checks:fix-all"))
        rows = re.findall(
            r'name="take" value="(\d+)"[^>]*aria-label="use ([\w.]+) for', page.content.decode()
        )
        others = [number for number, path in rows if path != "action.label.disabled"]
        again = self.post("checks:take-fixes", take=others, again="1")
        self.assert_reads(again, "Kept: action.label.disabled.")
        self.assert_reads(again, "What cannot pass together")
        self.assert_reads(again, "another value for action.label.disabled")
        rows = re.findall(r'name="take" value="(\d+)"', again.content.decode())
        self.post("checks:take-fixes", take=rows, held="action.label.disabled")
        self.assertEqual(
            self.stored().token("action.label.disabled"),
            quillhaven.document().token("action.label.disabled"),
        )
        page = self.post("checks:take-fixes", take=[])
        self.assertContains(page, "No row is selected.", status_code=422)
