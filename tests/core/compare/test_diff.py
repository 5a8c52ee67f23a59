"""Differences: they apply, invert, and refuse what has moved on."""

from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from prism.compare.diff import apply, diff, diff_tables, inverse
from prism.compare.match import describe
from prism.compare.rows import flatten, rows_of, unflatten
from prism.errors import ConflictError
from prism.model.document import Scene
from prism.model.values import BASE, Expression
from tests import tried
from tests.builders import document, observatory, random_document, token

quick = tried(40)
seeds = st.integers(0, 10_000)


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

    def test_the_rows_kept_with_a_result_are_its_rows(self):
        for seed in range(30):
            before = random_document(seed)
            for after in edits(before):
                result = apply(before, diff(before, after))
                plain = diff_tables(flatten(before), flatten(after))
                self.assertEqual(diff(before, result), plain)
                self.assertEqual(rows_of(result).rows, flatten(after).rows)

    def test_a_value_is_one_operation(self):
        before = document(token("a", "#111111"), token("b", "#222222"))
        changed = replace(before.tokens[0], values=((BASE, Expression("#333333")),))
        operations = diff(before, replace(before, tokens=(changed, before.tokens[1])))
        self.assertEqual(
            [
                (operation.op, operation.kind, operation.key, operation.before, operation.after)
                for operation in operations
            ],
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
        self.assertEqual([operation.op for operation in operations], ["order"])
        self.assertEqual(apply(before, operations), after)

    def test_what_has_changed_since_is_refused(self):
        before = document(token("a", "#111111"))
        after = replace(before, tokens=(token("a", "#222222"),))
        moved_on = replace(before, tokens=(token("a", "#999999"),))
        with self.assertRaisesMessage(ConflictError, "has changed since"):
            apply(moved_on, diff(before, after))
        with self.assertRaisesMessage(ConflictError, "no longer there"):
            apply(document(), diff(before, after))


class SharedRowsTests(SimpleTestCase):
    @quick
    @given(seeds, st.data())
    def test_tables_made_beside_others_are_the_same_as_those_made_alone(self, seed, data):
        built = random_document(seed)
        known = (built, flatten(built))
        before = flatten(built)
        after = data.draw(st.sampled_from(edits(built)))
        shared, alone = flatten(after, known), flatten(after)
        self.assertEqual((shared.rows, shared.order), (alone.rows, alone.order))
        self.assertEqual(unflatten(shared), after)
        self.assertEqual((known[1].rows, known[1].order), (before.rows, before.order))
        self.assertEqual(diff_tables(known[1], shared), diff(built, after))


def edits(built):
    """Documents that share most tokens with ``built``."""
    first, *rest = built.tokens
    changed = replace(first, description="changed", values=first.values[:1])
    added = replace(first, key="fresh", path="fresh.one")
    return [
        built,
        replace(built, tokens=(changed, *rest)),
        replace(built, tokens=tuple(rest)),
        replace(built, pairings=built.pairings[1:], name="changed"),
        replace(built, tokens=(*rest, first)),
        replace(built, tokens=(*built.tokens, added)),
        replace(built, tokens=()),
        replace(built, pairings=(), tokens=(added, *reversed(rest))),
    ]


class GoingTogetherTests(SimpleTestCase):
    def test_a_binding_of_a_token_that_goes_too(self):
        one = replace(token("night.sky", "#111111"), key="k7")
        scene = Scene("s", "Board", "", (("page", "k7"),))
        before = replace(document(one, axes=()), scenes=(scene,))
        after = replace(document(axes=()), scenes=(replace(scene, bindings=()),))
        for was, now in ((before, after), (after, before)):
            told = [describe(one, was, now) for one in diff(was, now) if one.kind == "binding"]
            self.assertEqual(len(told), 1)
            self.assertIn("night.sky", told[0])

    def test_a_value_that_goes_with_its_token(self):
        before = document(token("night.sky", "#111111"), axes=())
        told = [describe(one, before, document(axes=())) for one in diff(before, document(axes=()))]
        self.assertTrue(any("night.sky" in words for words in told), told)
