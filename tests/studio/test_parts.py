"""Parts of a page that a browser holds: what is sent again, and what is not."""

from __future__ import annotations

import re

from demo import quillhaven
from studio.rooms.palette import strips
from tests.builders import document, token
from tests.studio.cases import RoomCase

DIGEST = re.compile(r'data-as="([^"]+)"( data-held)?')


class PartsTests(RoomCase):
    def region(self, name, query=None, held=()):
        headers = {"X-Region": "room", "X-Held": " ".join(held)}
        return self.client.get(self.url(name), query or {}, headers=headers).content.decode()

    def digests(self, text):
        return [digest for digest, held in DIGEST.findall(text) if not held]

    def test_the_same_page_again_comes_without_what_is_held(self):
        self.make(quillhaven.document())
        for room in ("palette", "tokens", "checks"):
            with self.subTest(room):
                whole = self.region(f"{room}:room")
                again = self.region(f"{room}:room", held=self.digests(whole))
                self.assertEqual(self.digests(again), [])
                self.assertLess(len(again), len(whole) / 3)

    def test_an_open_cell_sends_its_row_and_no_other(self):
        built = quillhaven.document()
        self.make(built)
        key = built.token_at("surface.card").key
        held = self.digests(self.region("tokens:room"))
        opened = self.region("tokens:room", {"cell": f"{key}:"}, held)
        rows = re.findall(r'<tr data-row="([^"]+)"[^>]* data-as', opened)
        self.assertEqual(rows, [key])

    def test_a_stored_value_sends_the_rows_that_it_reaches(self):
        built = document(
            token("ink", "#111111", tier="raw"),
            token("other", "#222222", tier="raw"),
            token("text.main", "{ink}"),
            token("text.quiet", "{other}"),
        )
        self.make(built)
        held = self.digests(self.region("tokens:room"))
        self.post("tokens:store", token="ink", condition="[]", value="#333333")
        fresh = self.region("tokens:room", held=held)
        rows = re.findall(r'<tr data-row="([^"]+)"[^>]* data-as', fresh)
        self.assertEqual(sorted(rows), ["ink", "text.main"])

    def test_no_answer_with_a_key_that_nobody_holds_is_empty(self):
        self.make(quillhaven.document())
        whole = self.region("tokens:room")
        again = self.region("tokens:room", held=["nothing", "<script>", "AAAAAAAA"])
        self.assertEqual(self.digests(again), self.digests(whole))

    def test_very_many_single_colors_come_as_they_are_scrolled_to(self):
        count = strips.MOST + 3 * strips.SOME + 7
        colors = [token(f"c{n}", f"#{n * 4099 % 0xFFFFFF:06x}", tier="raw") for n in range(count)]
        self.make(document(*colors, axes=()))
        page = self.region("palette:room")
        self.assertEqual(page.count('class="step '), strips.MOST)
        sources = re.findall(r'data-source="([^"]+)"', page)
        more = [
            self.client.get(source.replace("&amp;", "&")).content.decode() for source in sources
        ]
        keys = re.findall(r'id="swatch-([^"]+)"', page + "".join(more))
        self.assertEqual(keys, [color.key for color in colors])
        held = [digest for text in (page, *more) for digest in self.digests(text)]
        self.assertNotIn("np-more", self.region("palette:room", held=held))
        last = self.region("palette:room", {"swatch": colors[-1].key})
        self.assertIn(f'id="swatch-{colors[-1].key}"', last)
