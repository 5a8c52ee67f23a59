"""Damaged files and wrong input in every field: a sentence, never a server error."""

import io
import json
import random
import zipfile
from dataclasses import fields
from urllib.parse import urlencode

from django.contrib.auth import get_user_model
from django.test import SimpleTestCase
from django.urls import reverse
from PIL import Image

from bench.hostile import send
from bench.mutations import sources
from prism.errors import FormatError
from prism.formats import archive, files, plain, style_sheets
from prism.palette import pictures
from studio.numbers import whole
from studio.rooms.address import Address
from studio.store import projects as store
from studio.store.models import Project
from tests import CHANCE
from tests.builders import axis, counter_keys, document, saved, token
from tests.studio.cases import RoomCase

STRANGE = (
    "",
    "²",
    "٣",
    "9" * 40,
    "-1",
    "1e999",
    "NaN",
    "\0",
    "a\0b",
    "\x01\x1f\x7f",
    "a\r\nSet-Cookie: b",
    "\u202e\u2028\ufeff",
    "1:2:3,a=b,=,",
    "x" * 5000,
    "{",
    "..",
    "' or 1=1",
    "[[",
    "null",
)


class MutationTests(RoomCase):
    def test_damaged_files_of_every_format(self):
        self.make(document(token("a", "#111111")))
        room = f"/p/{self.project.code}/"
        for kind, make in sources().items():
            rng = random.Random(f"test {kind}")
            for number in range(100 if CHANCE else 35):
                name, data = make(rng)
                with self.subTest(kind=kind, number=number):
                    self.assertLess(send(self.client, room, kind, name, data), 500)
                Project.objects.exclude(pk=self.project.pk).delete()


def members_of_addresses():
    """The name of every member that some address has."""
    work, names = [Address], []
    while work:
        known = work.pop()
        work += known.__subclasses__()
        names += [field.name for field in fields(known)]
    return names


class FieldTests(RoomCase):
    """Every address of a project, with strange texts in every field that it reads."""

    def setUp(self):
        super().setUp()
        self.make(document(token("a", "#111111"), axes=(axis("look", "light", "night"),)))

    def test_strange_texts_in_every_field_of_every_address(self):
        from tests.studio.test_access import TABLE, WITHOUT_PROJECT

        self.client.raise_request_exception = False
        names = (
            "revision", "token", "mode", "axis", "condition", "value", "picks", "tokens", "modes",
            "command", "token", "into", "text", "name", "find", "columns", "cell", "theme", "pinned", "since",
            "state", "from", "count", "swatch", "ramp", "lightness", "chroma", "hue", "seed",
            "scheme", "source", "target", "foreground", "background", "use", "required", "take",
            "q", "write", "folded", "kind", "group", "path", "words-0", "next",
        )  # fmt: skip
        names = (*dict.fromkeys((*names, *members_of_addresses())),)
        rng = random.Random("fields")
        for name, methods in TABLE.items():
            if ":" not in name or name.startswith("accounts:"):
                continue
            extra = {"projects:remove-member": [9],
                     "exchange:export": ["csv"], "report:file": ["json"], "importing:image": ["none"],
                     "work:state": ["none"], "work:stop": ["none"], "work:file": ["none"]}.get(name, [])  # fmt: skip
            if name in (*WITHOUT_PROJECT, "projects:delete"):
                continue
            for method in methods:
                for _ in range(4):
                    said = {one: rng.choice(STRANGE) for one in names}
                    if rng.random() < 0.5:
                        said["revision"] = self.project.revision
                    send = self.client.get if method == "GET" else self.client.post
                    answer = send(self.url(name, *extra), said)
                    with self.subTest(name=name, method=method, said=said):
                        self.assertLess(answer.status_code, 500)
                        if name.endswith("paint") and answer.status_code not in (302, 400):
                            self.assertIn("text/css", answer["Content-Type"])

    def test_a_question_that_is_too_long_for_an_address_comes_in_the_body(self):
        key = self.stored().tokens[0].key
        value = "calc(" + " " * 3_980 + ")"
        said = {"token": key, "condition": "[]", "value": value}
        url = self.url("tokens:impact")
        straight = self.client.get(url, said)
        answer = self.client.post(
            url,
            urlencode(said),
            content_type="application/x-www-form-urlencoded",
            headers={"X-Query": "body"},
        )
        self.assertEqual((answer.status_code, answer.content), (200, straight.content))
        store_url = self.url("tokens:store")
        sent = self.client.post(
            store_url,
            urlencode(said),
            content_type="application/x-www-form-urlencoded",
            headers={"X-Query": "body"},
        )
        self.assertEqual(sent.status_code, 405, "it is never a write")

    def test_a_pasted_text_as_long_as_the_form_says_is_read(self):
        text = ":root { --a: red; }\n/*" + "é" * (4_000_000 - 25) + "*/"
        answer = self.post("exchange:import", text=text, into="new", name="Long")
        self.assertEqual(answer.status_code, 302, answer.content[:300])
        answer = self.post("exchange:import", text=text + "é" * 30, into="new", name="Long")
        self.assertContains(answer, "at most 4000000 characters", status_code=400)

    def test_control_characters_in_any_path_and_query(self):
        self.client.raise_request_exception = False
        code = self.project.code
        for path in ("/p/%00/", f"/p/{code}/%00", f"/p/{code}/tokens/%00", f"/p/{code}/exchange/export/%00",
                     f"/p/{code}/palette/import/picture/%00", "/static/%00", "/static/ui/%00.js", "/%00", "/account/%00",
                     f"/p/{code}/tasks/%00", "/p/%ff%fe/", "/p/%ed%a0%80/"):  # fmt: skip
            for query in ("", "?a=%00", "?next=%00", "?theme=%ed%a0%80", "?%00=1"):
                with self.subTest(path + query):
                    self.assertLess(self.client.get(path + query).status_code, 500)
        for path in (f"/p/{code}/tokens/", "/account/sign-in", "/projects/", "/alive"):
            for query in ("?find=%00", "?%00=%00", "?next=/%00", "?next=%0d%0aa:b", "?theme=%ff"):
                with self.subTest(path + query):
                    self.assertLess(self.client.get(path + query).status_code, 500)

    def test_a_style_sheet_of_what_is_not_there_is_css_to_the_browser(self):
        for name in ("axes:proposed-paint", "ideas:paint"):
            answer = self.client.get(self.url(name), {"words": "", "axis": "none"})
            self.assertEqual((answer.status_code, answer.content), (422, b""), name)
            self.assertIn("text/css", answer["Content-Type"])
        answer = self.client.get(
            reverse("projects:paint"), {"color-name": "a", "color-value": "no color"}
        )
        self.assertEqual((answer.status_code, answer.content), (422, b""))
        self.assertIn("text/css", answer["Content-Type"])

    def test_only_known_color_schemes_are_stored(self):
        answer = self.post(
            "axes:command", command="add-mode", axis="look", name="dim", color_scheme="purple"
        )
        self.assertContains(answer, "light, dark or none", status_code=422)
        self.assertEqual(len(self.stored().axes[0].modes), 2)

    def test_two_people_see_an_empty_project(self):
        other = get_user_model().objects.create_user("bo")
        project = store.create(other, document(axes=()))
        self.assertEqual(self.client.get(f"/p/{project.code}/tokens/").status_code, 404)


class NumberTests(SimpleTestCase):
    def test_only_plain_digits_are_numbers(self):
        for text, number in (
            ("7", 7),
            (" 40 ", 40),
            ("²", None),
            ("٣", None),
            ("9" * 5000, None),
            ("-1", None),
        ):
            self.assertEqual(whole(text), number, text)


class LimitTests(SimpleTestCase):
    def refused(self, sentence, name, data):
        with self.assertRaisesMessage(FormatError, sentence):
            found = archive.read(data, name)[0] if name.endswith(".zip") else {name: data}
            files.read(found, counter_keys())

    def packed(self, kind, **members):
        held = io.BytesIO()
        with zipfile.ZipFile(held, "w", kind) as out:
            for name, data in members.items():
                out.writestr(name.replace("__", "."), data)
        return held.getvalue()

    def test_only_stored_and_deflated_members_are_unpacked(self):
        for kind in (zipfile.ZIP_BZIP2, zipfile.ZIP_LZMA):
            data = self.packed(kind, a__json=b"0" * 1_000_000)
            self.refused("compression of this archive is not supported", "x.zip", data)
        data = self.packed(zipfile.ZIP_DEFLATED, a__json=b"0" * 30_000_000)
        self.assertLess(len(data), 50_000)
        self.refused("unpacks to more than 24 MB", "x.zip", data)

    def test_a_corrupt_stream_and_too_many_members(self):
        data = bytearray(self.packed(zipfile.ZIP_DEFLATED, a__json=b'{"a": 1}' * 99))
        data[45:60] = b"\xff" * 15
        self.refused("not a zip archive that can be read", "x.zip", bytes(data))
        many = self.packed(zipfile.ZIP_STORED, **{f"f{i}": b"" for i in range(1300)})
        self.refused("more than 300 files", "x.zip", many)

    def test_texts_that_nothing_can_hold(self):
        for text in ('"\\u0000"', '"\\ud800"'):
            tree = b'{"a": {"$type": "string", "$value": %s}}' % text.encode()
            self.refused("a character that text cannot contain", "x.tokens.json", tree)
        whole_pair = b'{"a": {"$type": "string", "$value": "\\ud83d\\ude00"}}'
        self.assertEqual(
            len(files.read({"x.tokens.json": whole_pair}, counter_keys()).document.tokens), 1
        )

    def test_names_that_are_too_long_and_numbers_that_are_too_large(self):
        self.refused(
            "A name has 1 to 200 characters",
            "x.tokens.json",
            json.dumps({"a" * 700: {"$type": "color", "$value": "#111"}}).encode(),
        )
        color = {"colorSpace": "srgb", "components": [1e308, 0, 0]}
        self.refused(
            "A color component is a number",
            "x.tokens.json",
            json.dumps({"a": {"$type": "color", "$value": color}}).encode(),
        )

    def test_an_alias_chain_of_2000(self):
        tree = {"$type": "color", "t0": {"$value": "#123456"}}
        tree |= {f"t{i}": {"$value": f"{{t{i - 1}}}"} for i in range(1, 2000)}
        built = files.read({"x.tokens.json": json.dumps(tree).encode()}, counter_keys()).document
        self.assertEqual(len(built.tokens), 2000)

    def test_deep_nesting_in_a_style_sheet(self):
        for text in (
            ":root { --a: " + "calc(" * 400 + "1px" + ")" * 400 + " }",
            "@media all {" * 300,
        ):
            with self.assertRaisesMessage(FormatError, "nested deeper than 200 levels"):
                style_sheets.read(text.encode(), "x.css", counter_keys())

    def test_formulas_are_guarded_in_csv_and_come_back(self):
        texts = ("=1+1", "+1", "-2", "@x", "'=1", "''@", "plain", "-4px", "'quoted'")
        built = document(
            *(token(f"c.{i}", text, type="string", tier="raw") for i, text in enumerate(texts)),
            axes=(),
        )
        written = plain.write_csv(built)
        for cell in written.replace("\n", ",").split(","):
            self.assertNotRegex(cell.strip('"'), r"^([=+@\t\r]|-[^0-9]|-\d+[^0-9.])", cell)
        back = plain.read_csv(written.encode(), "x.csv", counter_keys())
        self.assertEqual([one.value().text for one in back.tokens], list(texts))

    def test_a_small_file_of_a_huge_picture(self):
        data = saved(Image.new("RGB", (6000, 4000)), "WEBP", lossless=True)
        self.assertLess(len(data), 5000)
        with self.assertRaisesMessage(FormatError, "at most 12 megapixels are read"):
            pictures.read(data, "x.webp")
