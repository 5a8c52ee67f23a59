"""The page of a token: what is said of it, as Markdown that nothing else gets through."""

import re
from dataclasses import replace

from demo import quillhaven
from studio.store import projects as store
from tests.studio.cases import RoomCase


class DescriptionTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(quillhaven.document())

    def page(self, text):
        self.project.refresh_from_db()
        built = self.stored()
        one = replace(built.token("text.main"), description=text)
        tokens = tuple(one if token.key == "text.main" else token for token in built.tokens)
        store.record(
            self.project, store.load(self.project), replace(built, tokens=tokens), self.user, "Said"
        )
        address = self.url("tokens:room") + "?cell=text.main:light&view=page"
        page = self.client.get(address).content.decode()
        return re.search(r'id="said">(.*?)</div>', page, re.DOTALL)[1]

    def test_what_a_new_name_changes_is_shown_before_it_is_saved(self):
        before = self.stored()
        fields = {"token": "surface.card", "path": "panel.front", "type": "color"}
        page = self.post("tokens:preview-description", **fields)
        self.assert_reads(page, "surface.card")
        self.assert_reads(page, "panel.front")
        self.assert_reads(page, "its name")
        fields["path"] = "surface.page"
        self.assert_reads(self.post("tokens:preview-description", **fields), "surface.page")
        self.assertEqual(self.stored(), before)

    def test_markdown_is_shown(self):
        said = self.page(
            "# On cards\n\n*Never* on `surface.inverse`.\n\n- [why](https://example.org/)"
        )
        self.assertInHTML("<h4>On cards</h4>", said)
        self.assertInHTML("<p><em>Never</em> on <code>surface.inverse</code>.</p>", said)
        self.assertInHTML(
            '<li><a href="https://example.org/" target="_blank" rel="noopener noreferrer">why</a></li>',
            said,
        )

    def test_nothing_else_becomes_markup(self):
        for text in (
            "<script>alert(1)</script>",
            "<img src=x onerror=alert(1)>",
            "[x](javascript:alert(1))",
            "[x](JAVA&#115;cript:alert(1))",
            "[x](/p/other/delete)",
            "![x](data:text/html,hi)",
            "<javascript:alert(1)>",
            "[a]: data:text/html,hi\n\n[a]",
            '```x" onclick="alert(1)\ny\n```',
            ">" * 4000,
            "[" * 4000,
        ):
            with self.subTest(text[:40]):
                said = self.page(text)
                left = re.sub(r"</?(p|pre|blockquote)>|<code class=\"[^\"<>]*\">|</code>", "", said)
                self.assertNotIn("<", left)
