"""Differences: they apply, invert, and refuse what has moved on."""

from dataclasses import replace

from django.test import SimpleTestCase

from prism.compare.diff import apply, diff, inverse
from prism.compare.rows import flatten, unflatten
from prism.errors import ConflictError
from prism.tokens.model import BASE, Expression
from tests.builders import document, observatory, random_document, token


class DiffTests(SimpleTestCase):
    def test_a_document_survives_its_rows(self):
        for built in (observatory(), *(random_document(seed) for seed in range(20))):
            self.assertEqual(unflatten(flatten(built)), built)

    def test_applied_it_gives_the_target_and_inverted_the_source(self):
        for seed in range(30):
            before, after = random_document(seed), random_document(seed + 100)
            operations = diff(before, after)
            self.assertEqual(apply(before, operations), after)
            self.assertEqual(apply(after, inverse(operations)), before)

    def test_a_value_is_one_operation(self):
        before = document(token("a", "#111111"), token("b", "#222222"))
        changed = replace(before.tokens[0], values=((BASE, Expression("#333333")),))
        operations = diff(before, replace(before, tokens=(changed, before.tokens[1])))
        self.assertEqual(
            [(one.op, one.kind, one.key, one.before, one.after) for one in operations],
            [("set", "value", "a []", '"#111111"', '"#333333"')],
        )

    def test_a_rename_touches_the_path_alone(self):
        before = document(token("a", "#111111"))
        after = replace(before, tokens=(replace(before.tokens[0], path="z"),))
        self.assertEqual([(o.op, o.field) for o in diff(before, after)], [("set", "path")])

    def test_order_is_a_difference_of_its_own(self):
        before = document(token("a", "#111111"), token("b", "#222222"), token("c", "#333333"))
        after = replace(before, tokens=before.tokens[::-1])
        operations = diff(before, after)
        self.assertEqual([one.op for one in operations], ["order"])
        self.assertEqual(apply(before, operations), after)

    def test_what_has_changed_since_is_refused(self):
        before = document(token("a", "#111111"))
        after = replace(before, tokens=(token("a", "#222222"),))
        moved_on = replace(before, tokens=(token("a", "#999999"),))
        with self.assertRaisesMessage(ConflictError, "has changed since"):
            apply(moved_on, diff(before, after))
        with self.assertRaisesMessage(ConflictError, "no longer there"):
            apply(document(), diff(before, after))
