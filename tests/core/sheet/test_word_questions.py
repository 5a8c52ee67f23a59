"""Questions about the words of names: what an answer is said to make is what it makes, and few questions settle much."""

from functools import cache
from unittest import mock

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.analysis import Analysis
from prism.contrast.rule_commands import AnswerWords
from prism.resolution.contrast import audit
from prism.resolution.resolver import Resolver
from prism.roles import rules
from prism.roles.guess import guess
from prism.sheet import word_view
from prism.sheet.word_meanings import NAME
from prism.sheet.word_questions import answers, asked_words
from tests import asked, roles, tried


@cache
def answered(name):
    """The steps of a person with the key of a document."""
    return list(asked.steps(roles.read(f"untaught/{name}")))


def stacks(pairings):
    return {(p.foreground, *p.backgrounds) for p in pairings}


class AnyDocumentTests(SimpleTestCase):
    @tried(40)
    @given(st.integers(0, 10**6))
    def test_an_answer_makes_what_it_is_said_to_make(self, seed):
        document = roles.random_document(seed)
        analysis = Analysis(document)
        for question in analysis.once(asked_words):
            for token in question.tokens:
                self.assertFalse(analysis.roles[token.key].is_sure)
            for answer in answers(analysis, question):
                after = AnswerWords(question.words, answer.meaning).apply(document)
                known = guess(after, Resolver(after))
                self.assertEqual(known, dict(answer.every))
                before = stacks(rules.demanded(document, analysis.roles))
                added = stacks(rules.demanded(after, known)) - before
                self.assertEqual(stacks(answer.added), added)
                resolver = Resolver(after)
                short = {
                    pairing.key
                    for pairing in answer.added
                    if any(one.fails for one in audit(resolver, [pairing], list(resolver.themes())))
                }
                self.assertEqual(answer.failing.keys(), short)

    @tried(40)
    @given(st.integers(0, 10**6))
    def test_questions_end(self, seed):
        """Whatever is answered: a word that has been answered is not asked about again."""
        document = roles.random_document(seed)
        seen = set()
        for _ in range(60):
            every = Analysis(document).once(asked_words)
            if not every:
                return
            first = every[0]
            self.assertTrue(seen.isdisjoint(first.words))
            seen.update(first.words)
            document = AnswerWords(first.words, first.meanings[-1]).apply(document)
        self.fail("sixty questions")

    @tried(25)
    @given(st.integers(0, 10**6), st.booleans())
    def test_every_question_can_be_drawn(self, seed, is_large):
        """Of a large document words are listed without a try of each answer; those of the question are tried."""
        analysis = Analysis(roles.random_document(seed))
        if is_large:
            with mock.patch("prism.sheet.word_questions._MOST_GUESSED", 0):
                analysis.once(asked_words)
        for question in analysis.once(asked_words):
            drawn = word_view.question(analysis, question.key, [])
            self.assertEqual(drawn.asked, question)
            self.assertTrue(all(one.pictures for one in drawn.answers))


class UntaughtTests(SimpleTestCase):
    """Documents of words that no rule was taught, answered by a person who has the key."""

    def test_few_questions_settle_a_document_of_114_colors(self):
        keyed = roles.read("untaught/kiosk")
        every = answered("kiosk")
        self.assertEqual(every[0].right, 0)
        self.assertEqual(every[0].sure, 0)
        self.assertLessEqual(len(every) - 1, 12)
        last = every[-1]
        self.assertGreaterEqual(last.right, 0.85 * len(keyed.roles))
        self.assertGreaterEqual(last.sure, 0.95 * len(keyed.roles))

    def test_words_that_take_each_others_place_are_asked_about_together(self):
        every = answered("kiosk")
        lines, parts = [step for step in every if len(step.words) > 1]
        self.assertEqual({*parts.words}, {"board", "gate", "desk"})
        self.assertEqual({*lines.words}, {"ferry", "tram", "night", "cargo"})
        self.assertEqual(lines.answer, NAME)

    def test_most_answers_of_such_a_person_are_on_offer(self):
        counted = [
            step.offered for name in ("quay", "kort", "kiosk") for step in answered(name)[1:]
        ]
        self.assertGreaterEqual(sum(counted), 0.5 * len(counted), counted)

    def test_names_without_words_are_asked_about_one_by_one(self):
        analysis = Analysis(roles.read("untaught/notes").document)
        self.assertEqual(analysis.once(asked_words), ())
