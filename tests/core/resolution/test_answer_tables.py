"""Tables of all answers, what an edit leaves standing, and the survey over them."""

import random
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.model.document import Document, Pairing
from prism.model.values import BASE, Expression
from prism.resolution.answer_tables import AnswerTables, find, holds
from prism.resolution.contrast import audit
from prism.resolution.contrast_table import ContrastTable
from prism.resolution.resolver import Resolver
from tests import tried
from tests.builders import APPEARANCE, BRAND, document, random_document, token

seeds = st.integers(0, 10_000)
quick = tried(60)


class TableTests(SimpleTestCase):
    @quick
    @given(seeds)
    def test_every_theme_lies_in_one_part_with_the_answer_of_a_plain_resolver(self, seed):
        built = random_document(seed)
        tables = AnswerTables(Resolver(built))
        themes = list(Resolver(built).themes())
        for one in built.tokens:
            rows = tables.of(one.key)
            for theme in themes:
                plain = Resolver(built)
                self.assertEqual(sum(holds(fixed, theme) for fixed, _ in rows), 1)
                self.assertEqual(find(rows, theme), plain.resolve(one.key, theme))
                self.assertEqual(tables.resolver.resolve(one.key, theme), find(rows, theme))
            self.assertEqual(sum(tables.share(fixed) for fixed, _ in rows), len(themes))

    @quick
    @given(seeds)
    def test_the_order_of_tokens_plays_no_part(self, seed):
        built = random_document(seed)
        shuffled = list(built.tokens)
        random.Random(seed).shuffle(shuffled)
        one, other = Resolver(built), Resolver(replace(built, tokens=tuple(shuffled)))
        for theme in one.themes():
            for each in built.tokens:
                self.assertEqual(
                    one.resolve(each.key, theme).value, other.resolve(each.key, theme).value
                )

    def test_an_alias_costs_no_evaluation(self):
        built = document(
            token("ink", "#111111", ({"appearance": "dark"}, "#eeeeee"), tier="raw"),
            *(token(f"use.{i}", "{ink}") for i in range(50)),
        )
        tables = AnswerTables(Resolver(built))
        self.assertEqual(tables.all(), 102)
        self.assertEqual(tables.resolver.evaluations, 2)


class EditTests(SimpleTestCase):
    @quick
    @given(seeds)
    def test_after_an_edit_only_what_it_reaches_is_evaluated_again(self, seed):
        built = random_document(seed)
        rng = random.Random(seed)
        before = Resolver(built)
        AnswerTables(before).all()
        one = rng.choice([t for t in built.tokens if t.type == "color"])
        changed = replace(one, values=((BASE, Expression("#102030")),))
        after = replace(
            built, tokens=tuple(changed if t.key == one.key else t for t in built.tokens)
        )
        kept, fresh = Resolver(after, before), Resolver(after)
        reached = fresh.graph.users([one.key]) | before.graph.users([one.key])
        for theme in fresh.themes():
            for each in after.tokens:
                self.assertEqual(kept.resolve(each.key, theme), fresh.resolve(each.key, theme))
        for each in after.tokens:
            for reach in ("users", "reach"):
                near, plain = (getattr(r.graph, reach)([each.key]) for r in (kept, fresh))
                self.assertEqual(near, plain)
        untouched = [t.key for t in after.tokens if t.key not in reached]
        again = Resolver(after, before)
        for theme in fresh.themes():
            for key in untouched:
                again.resolve(key, theme)
        self.assertEqual(again.evaluations, 0)

    def test_other_axes_keep_nothing(self):
        built = document(token("a", "#111111"))
        before = Resolver(built)
        AnswerTables(before).all()
        after = Resolver(replace(built, axes=(BRAND, APPEARANCE)), before)
        after.resolve("a", (0, 0))
        self.assertEqual(after.evaluations, 1)


class SurveyTests(SimpleTestCase):
    @quick
    @given(seeds)
    def test_it_says_what_the_audit_says_in_every_theme(self, seed):
        built = random_document(seed)
        rng = random.Random(seed)
        colors = [t.key for t in built.tokens if t.type == "color"]
        pairings = [
            Pairing(
                f"p{i}",
                *(lambda keys: (keys[0], tuple(keys[1:])))(
                    rng.sample(colors, rng.choice((2, 2, 3)))
                ),
            )
            for i in range(8)
        ]
        resolver = Resolver(built)
        survey = ContrastTable(AnswerTables(resolver), pairings)
        themes = list(resolver.themes())
        for pairing in pairings:
            short = 0
            for reading in audit(resolver, [pairing], themes):
                found = survey.reading(pairing.key, reading.theme)
                self.assertEqual(
                    (found.shown, found.fails, found.missing),
                    (reading.shown, reading.fails, reading.missing),
                )
                short += reading.fails
            self.assertEqual(sum(part.themes for part in survey.failing(pairing.key)), short)
            self.assertEqual(survey.failing(pairing.key).themes, short)
            self.assertEqual(survey.falls_short(pairing.key), short > 0)

    def test_without_pairings_there_is_nothing_to_say(self):
        survey = ContrastTable(AnswerTables(Resolver(Document())), [])
        self.assertEqual(dict(survey.pairings), {})
