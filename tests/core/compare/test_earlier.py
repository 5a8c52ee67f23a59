"""Journals that earlier versions wrote are read as operations of today."""

import json
from dataclasses import replace

from django.test import SimpleTestCase

from prism.compare.diff import apply, diff, inverse
from prism.compare.earlier import operations_from
from prism.model.document import Scene
from tests.builders import document, token

BOARD = Scene("board", "Board", bindings=(("page", "a"), ("ink", "b"), ("line", "b")))


def built(*scenes):
    return document(token("a", "#fff"), token("b", "#000"), scenes=scenes)


def row(scene):
    """A scene's row as it was while it held its bindings."""
    return {
        "name": scene.name,
        "markup": scene.markup,
        "bindings": [list(binding) for binding in scene.bindings],
    }


class EarlierBindingsTests(SimpleTestCase):
    def holds(self, before, after, *members):
        """The members turn the one document into the other, and back."""
        operations = operations_from(members)
        self.assertEqual(apply(before, operations), after)
        self.assertEqual(apply(after, inverse(operations)), before)

    def test_a_list_of_bindings_that_was_changed(self):
        for bindings in (
            (("page", "b"), ("ink", "b"), ("line", "b")),
            (("ink", "b"),),
            (("line", "b"), ("ink", "b"), ("page", "a")),
            (("new", "a"), ("page", "a"), ("ink", "a"), ("last", "b")),
            (),
        ):
            with self.subTest(bindings):
                after = replace(BOARD, bindings=bindings)
                member = {
                    "op": "set", "kind": "scene", "key": "board", "field": "bindings",
                    "before": row(BOARD)["bindings"], "after": row(after)["bindings"],
                }  # fmt: skip
                self.holds(built(BOARD), built(after), member)

    def test_a_scene_that_was_added_and_removed_with_its_bindings(self):
        member = {"op": "add", "kind": "scene", "key": "board", "row": row(BOARD)}
        self.holds(built(), built(BOARD), member)
        self.holds(built(BOARD), built(), member | {"op": "remove"})

    def test_what_is_written_today_is_read_as_it_is(self):
        renamed = replace(BOARD, name="Hall", bindings=(("page", "b"),))
        for after in (built(renamed), built()):
            operations = diff(built(BOARD), after)
            self.assertEqual(
                operations_from(operation.plain() for operation in operations), operations
            )


class EarlierTokensTests(SimpleTestCase):
    def test_rows_of_tokens_without_a_role(self):
        before, after = document(), document(token("a", "#fff"))
        members = json.loads(json.dumps([operation.plain() for operation in diff(before, after)]))
        for member in members:
            if member["kind"] == "token":
                member["row"].pop("role")
        operations = operations_from(members)
        self.assertEqual(apply(before, operations), after)
        self.assertEqual(apply(after, inverse(operations)), before)
