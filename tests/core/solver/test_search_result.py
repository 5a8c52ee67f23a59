"""What a search found, put in again without searching: the same proposal and the same fixes."""

import json

from django.test import SimpleTestCase

from demo import quillhaven
from prism import checks
from prism.analysis import Analysis
from prism.contrast import fix_all_view
from prism.errors import PrismError
from prism.model.document import Mode
from prism.modes import review_view
from prism.modes.review import Asked, review
from prism.resolution.contrast import audit
from prism.solver import Watch

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
            shown = review_view.proposal(self.analysis, theme, asked, UNUSED, searched.search)
            self.assertEqual(shown.proven, searched.solved.proven)
        self.assertTrue(searched.contradictions, "the second has some")

    def test_fixes_come_out_the_same(self):
        scope = fix_all_view.Scope(frozenset(["text.faint"]))
        text = fix_all_view.searched(self.analysis, scope)
        self.assertTrue(json.loads(text)["moves"])
        searched, again = (
            fix_all_view.fix_all(self.analysis, scope),
            fix_all_view.fix_all(self.analysis, scope, UNUSED, text),
        )
        self.assertEqual(again.rows, searched.rows)
        self.assertEqual(again.short, searched.short)
        self.assertEqual(again.contradictions, searched.contradictions)
        self.assertEqual(again.made.document, searched.made.document)

    def test_a_search_can_be_stopped_before_it_begins(self):
        self.assertEqual(
            fix_all_view.searched(self.analysis, fix_all_view.Scope(), Watch(stopped=lambda: True)),
            "",
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


class ScopeTests(SimpleTestCase):
    """One token, one mode or the levels of surfaces fixed alone; what is aside gets no worse."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        cls.analysis = Analysis(quillhaven.document())

    def fixed(self, **scope):
        made = fix_all_view.fix_all(self.analysis, fix_all_view.Scope(**scope))
        return made, Analysis(made.made.document)

    def assert_nothing_is_worse(self, after):
        pairs = self.analysis.paired.pairings
        themes = list(self.analysis.resolver.themes())[::7]
        was = audit(self.analysis.resolver, pairs, themes)
        now = audit(after.resolver, pairs, themes)
        for one, then in zip(was, now, strict=True):
            self.assertFalse(then.fails and then.ratio < one.ratio - 1e-9)

    def test_one_token(self):
        made, after = self.fixed(token="text.faint")
        self.assertEqual((made.before > 0, made.short), (True, ()))
        self.assertEqual({row.path for row in made.rows}, {"text.faint"})
        self.assert_nothing_is_worse(after)
        everything = fix_all_view.fix_all(after, fix_all_view.Scope())
        self.assertGreater(everything.before, 0, "others still fall short")

    def test_one_mode(self):
        made, after = self.fixed(axis="appearance", mode="dim")
        self.assertEqual(made.short, ())
        for row in made.rows:
            self.assertIn("dim", row.where)
        pairs = self.analysis.paired.pairings
        dim = [t for t in after.resolver.themes() if after.resolver.picks(t)["appearance"] == "dim"]
        self.assertEqual([one for one in audit(after.resolver, pairs, dim[::5]) if one.fails], [])
        self.assert_nothing_is_worse(after)

    def test_levels_of_surfaces(self):
        self.assertTrue([f for f in self.analysis.once(checks.findings) if f.check == "elevation"])
        _, after = self.fixed(levels=True)
        self.assertEqual([f for f in after.once(checks.findings) if f.check == "elevation"], [])
        self.assert_nothing_is_worse(after)
        again = fix_all_view.fix_all(after, fix_all_view.Scope(levels=True))
        self.assertEqual(again.rows, (), "levels that rise are left alone")
