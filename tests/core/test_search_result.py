"""What a search found, put in again without searching: the same proposal and the same fixes."""

import json

from django.test import SimpleTestCase

from demo import quillhaven
from prism.analysis import Analysis
from prism.derive.reviewing import Asked, review
from prism.derive.solving import Watch
from prism.errors import PrismError
from prism.model.document import Mode
from prism.view_models import fixing, proposing

NIGHT = Mode("night", "night", color_scheme="dark")


def never(*_):
    raise AssertionError("There was a search.")


UNUSED = Watch(searching=never)


class SearchResultTests(SimpleTestCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.analysis = Analysis(quillhaven.document())

    def test_a_proposal_comes_out_the_same(self):
        for decided in ((), (("text.link", None), ("text.muted", "ink.3"))):
            asked = Asked("appearance", "light", NIGHT, decided)
            searched = review(self.analysis.document, asked)
            again = review(self.analysis.document, asked, UNUSED, searched.search)
            self.assertEqual(again.rows, searched.rows)
            self.assertEqual(again.document, searched.document)
            self.assertEqual(again.short, searched.short)
            self.assertEqual(again.contradictions, searched.contradictions)
            theme = self.analysis.resolver.default_theme
            shown = proposing.proposal(self.analysis, theme, asked, UNUSED, searched.search)
            self.assertEqual(shown.proven, searched.solved.proven)
        self.assertTrue(searched.contradictions, "the second has some")

    def test_fixes_come_out_the_same(self):
        held = frozenset(["text.faint"])
        text = fixing.searched(self.analysis, held)
        self.assertTrue(json.loads(text)["moves"])
        searched, again = (
            fixing.fix_all(self.analysis, held),
            fixing.fix_all(self.analysis, held, UNUSED, text),
        )
        self.assertEqual(again.rows, searched.rows)
        self.assertEqual(again.short, searched.short)
        self.assertEqual(again.contradictions, searched.contradictions)
        self.assertEqual(again.made.document, searched.made.document)

    def test_a_search_can_be_stopped_before_it_begins(self):
        self.assertEqual(
            fixing.searched(self.analysis, frozenset(), Watch(stopped=lambda: True)), ""
        )

    def test_other_text_is_refused(self):
        asked = Asked("appearance", "light", NIGHT)
        good = json.loads(review(self.analysis.document, asked).search)
        contradiction = {"pairings": [10_000], "free": []}
        for text in (
            "{",
            "[]",
            json.dumps(good | {"version": 0}),
            json.dumps(good | {"moves": [{"token": "a"}]}),
            json.dumps(good | {"contradictions": [contradiction]}),
        ):
            with self.subTest(text=text[:40]), self.assertRaisesRegex(PrismError, "Solve it again"):
                review(self.analysis.document, asked, UNUSED, text)
