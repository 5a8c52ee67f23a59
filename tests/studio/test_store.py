"""The store: one writer, its journal, undo and redo, stale writes, copies."""

from dataclasses import replace
from types import SimpleNamespace
from unittest import mock

from django.contrib.auth import get_user_model
from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext

from demo import quillhaven
from prism.changes import values as edit
from prism.errors import ConflictError, PrismError
from prism.model.values import BASE, Condition, Expression
from prism.modes.commands import RenameAxis
from prism.sheet.cell_commands import SetValue
from studio.store import loading, tables
from studio.store import projects as store
from studio.store.models import JournalEntry
from tests.builders import document, observatory, random_document, token
from tests.studio.cases import RoomCase

DARK = Condition.of({"appearance": "dark"})


def set_value(loaded, text, condition=BASE, key="a"):
    return edit.set_value(loaded.document, key, condition, Expression(text))


class StoreCase(TestCase):
    def setUp(self):
        store.forget_all()
        people = get_user_model().objects
        self.maren, self.tove = people.create_user("maren"), people.create_user("tove")

    def make(self, *tokens):
        return store.create(self.maren, document(*tokens))

    def fresh(self, project):
        """The document read from the tables, past the cache."""
        store.forget_all()
        project.refresh_from_db()
        return store.load(project)


class OrderTests(StoreCase):
    """An order alone is a change like any other: it is in the tables, and undone from there."""

    def assert_stored(self, reordered):
        project = store.create(self.maren, observatory())
        loaded = store.load(project)
        after = reordered(loaded.document)
        self.assertNotEqual(after, loaded.document)
        store.record(project, loaded, after, self.maren, "Reordered")
        self.assertEqual(self.fresh(project).document, after)
        store.forget_all()
        store.undo(project, self.maren)
        self.assertEqual(self.fresh(project).document, loaded.document)

    def test_tokens(self):
        self.assert_stored(lambda d: replace(d, tokens=d.tokens[1:] + d.tokens[:1]))

    def test_axes(self):
        self.assert_stored(lambda d: replace(d, axes=d.axes[::-1]))

    def test_modes(self):
        self.assert_stored(
            lambda d: replace(
                d, axes=tuple(replace(axis, modes=axis.modes[::-1]) for axis in d.axes)
            )
        )


class SaveTests(StoreCase):
    def test_any_document_is_read_back_as_it_was_stored(self):
        for built in (observatory(), quillhaven.document(), *map(random_document, range(8))):
            with self.subTest(built.name):
                project = store.create(self.maren, built)
                self.assertEqual(self.fresh(project).document, built)

    def test_any_change_is_read_back_as_it_was_stored(self):
        project = store.create(self.maren, replace(random_document(0), name="R"))
        for seed in range(1, 12):
            before = store.load(project)
            after = replace(random_document(seed, count=6 + seed), name="R")
            store.record(project, before, after, self.maren, "Another")
            self.assertEqual(self.fresh(project).document, after)

    def test_order_of_numbers_as_names_is_kept(self):
        built = document(*(token(f"basalt.{n}", "#000000") for n in (950, 900, 50, 100)))
        project = store.create(self.maren, built)
        paths = [one.path for one in self.fresh(project).document.tokens]
        self.assertEqual(paths, ["basalt.950", "basalt.900", "basalt.50", "basalt.100"])

    def test_a_change_has_one_journal_entry_and_one_more_revision(self):
        project = self.make(token("a", "#111111"))
        loaded = store.load(project)
        store.record(project, loaded, set_value(loaded, "#222222"), self.maren, "Darker")
        entry = project.journal.last()
        self.assertEqual((entry.revision, entry.label, entry.actor), (2, "Darker", self.maren))
        self.assertEqual([one.after for one in store.operations_of(entry)], ['"#222222"'])

    def test_nothing_changed_is_nothing_stored(self):
        project = self.make(token("a", "#111111"))
        loaded = store.load(project)
        store.record(project, loaded, set_value(loaded, "#111111"), self.maren, "Same")
        self.assertEqual(project.journal.count(), 1)

    def test_a_stale_write_of_another_thing_is_merged(self):
        project = self.make(token("a", "#111111"), token("b", "#222222"))
        old = store.load(project)
        store.record(project, old, set_value(old, "#333333"), self.tove, "First")
        store.record(project, old, set_value(old, "#444444", key="b"), self.maren, "Second")
        values = [one.value().text for one in self.fresh(project).document.tokens]
        self.assertEqual(values, ["#333333", "#444444"])
        labels = list(project.journal.values_list("label", flat=True))
        self.assertEqual(labels[1:], ["First", "Second"])

    def test_a_stale_write_of_the_same_thing_names_both_and_stores_nothing(self):
        project = self.make(token("a", "#111111"))
        old = store.load(project)
        store.record(project, old, set_value(old, "#333333"), self.tove, "First")
        with self.assertRaises(store.ClashError) as caught:
            store.record(project, old, set_value(old, "#444444"), self.maren, "Second")
        (clash,) = caught.exception.clashes
        self.assertEqual((clash.mine, clash.theirs), ('"#444444"', '"#333333"'))
        self.assertEqual(self.fresh(project).document.token("a").value(), Expression("#333333"))

    def test_two_changes_that_make_a_circle_together_are_refused(self):
        project = self.make(token("a", "#111111"), token("b", "#222222"))
        old = store.load(project)
        store.record(project, old, set_value(old, "{b}"), self.tove, "First")
        with self.assertRaisesMessage(PrismError, "Circular reference: a → b → a."):
            store.record(project, old, set_value(old, "{a}", key="b"), self.maren, "Second")
        self.assertEqual(self.fresh(project).document.token("b").value(), Expression("#222222"))

    def test_any_revision_is_found_again(self):
        project = self.make(token("a", "#111111"))
        documents = [store.load(project).document]
        for shade in ("#222222", "#333333", "#444444"):
            loaded = store.load(project)
            store.record(project, loaded, set_value(loaded, shade), self.maren, shade)
            documents.append(store.load(project).document)
        for revision, was in enumerate(documents, 1):
            self.assertEqual(store.at(project, revision).document, was)
        self.assertEqual(store.at(project, 0).document.tokens, ())
        for revision in (-1, 9):
            with self.assertRaises(store.StaleError):
                store.at(project, revision)

    def test_a_failure_half_way_leaves_nothing(self):
        project = self.make(token("a", "#111111"))
        loaded = store.load(project)
        after = replace(loaded.document, tokens=(*loaded.document.tokens, token("b", "#222222")))
        with (
            mock.patch.object(tables, "_add", side_effect=RuntimeError),
            self.assertRaises(RuntimeError),
        ):
            store.record(project, loaded, after, self.maren, "Broken")
        self.assertEqual(self.fresh(project).document, loaded.document)

    def test_a_document_that_is_not_whole_is_never_stored(self):
        project = self.make(token("a", "#111111"))
        loaded = store.load(project)
        twice = replace(
            loaded.document, tokens=(*loaded.document.tokens, token("a", "#2", key="b"))
        )
        with self.assertRaisesMessage(store.NotWholeError, "Two tokens are called a."):
            store.record(project, loaded, twice, self.maren, "Twice")
        self.assertEqual(self.fresh(project).document, loaded.document)

    def test_queries_of_a_load_do_not_grow_with_the_document(self):
        counts = []
        for size in (3, 300):
            project = self.make(
                *(
                    token(f"t.{i}", "#111111", ({"appearance": "dark"}, "#222222"))
                    for i in range(size)
                )
            )
            store.forget_all()
            with CaptureQueriesContext(connection) as queries:
                store.load(project)
            counts.append(len(queries))
        self.assertEqual(counts[0], counts[1])

    def test_queries_of_a_small_change_do_not_grow_with_the_document(self):
        counts = []
        for size in (3, 300):
            project = self.make(
                token("a", "#111111"), *(token(f"t.{i}", "#111111") for i in range(size))
            )
            loaded = store.load(project)
            with CaptureQueriesContext(connection) as queries:
                store.record(project, loaded, set_value(loaded, "#222222"), self.maren, "One")
            counts.append(len(queries))
        self.assertEqual(counts[0], counts[1])

    def test_a_note_changes_nothing_and_stands_in_the_history(self):
        project = self.make(token("a", "#111111"))
        behind = store.load(project)
        store.note_kept(project, self.tove, "a", BASE, "Kept it")
        self.assertEqual(project.revision, 2)
        self.assertIsNone(store.undoable(project, self.tove))
        self.assertEqual(store.history(project, "a")[0].label, "Kept it")
        self.assertEqual(self.fresh(project).document, behind.document)
        loading._cache[project.place] = behind
        caught_up = store.load(project)
        self.assertEqual((caught_up.document, caught_up.revision), (behind.document, 2))
        self.assertEqual(store.at(project, 1).document, behind.document)
        with self.assertRaisesMessage(store.StaleError, "no longer there"):
            store.note_kept(project, self.tove, "a", DARK, "Kept nothing")

    def test_a_worker_that_is_behind_catches_up_by_the_journal(self):
        project = self.make(token("a", "#111111"))
        behind = store.load(project)
        for text in ("#222222", "#333333"):
            now = store.load(project)
            store.record(project, now, set_value(now, text), self.maren, text)
        loading.remember(project, behind)
        loading._cache[project.place] = behind
        with CaptureQueriesContext(connection) as queries:
            caught_up = store.load(project)
        self.assertEqual(len(queries), 1)
        self.assertEqual(caught_up.document.token("a").value(), Expression("#333333"))
        self.assertEqual(caught_up.document, self.fresh(project).document)


class UndoTests(StoreCase):
    def setUp(self):
        super().setUp()
        self.project = self.make(token("a", "#111111"), token("b", "#222222"))

    def set(self, text, actor=None, key="a"):
        loaded = store.load(self.project)
        after = set_value(loaded, text, key=key)
        store.record(self.project, loaded, after, actor or self.maren, f"{key} to {text}")

    def values(self):
        built = self.fresh(self.project).document
        return [one.value().text for one in built.tokens]

    def test_back_and_forth_through_several_steps(self):
        for text in ("#aaaaaa", "#bbbbbb", "#cccccc"):
            self.set(text)
        seen = []
        for act in (store.undo, store.undo, store.redo, store.undo, store.undo):
            act(self.project, self.maren)
            seen.append(self.values()[0])
        self.assertEqual(seen, ["#bbbbbb", "#aaaaaa", "#bbbbbb", "#aaaaaa", "#111111"])
        self.assertIsNone(store.undo(self.project, self.maren))
        for _ in range(3):
            store.redo(self.project, self.maren)
        self.assertEqual(self.values()[0], "#cccccc")
        self.assertIsNone(store.redo(self.project, self.maren))

    def test_a_new_edit_ends_what_could_be_done_again(self):
        self.set("#aaaaaa")
        store.undo(self.project, self.maren)
        self.set("#bbbbbb")
        self.assertIsNone(store.redo(self.project, self.maren))
        self.assertEqual(self.values()[0], "#bbbbbb")

    def test_each_person_takes_back_her_own(self):
        self.set("#aaaaaa")
        self.set("#bbbbbb", self.tove, key="b")
        store.undo(self.project, self.maren)
        self.assertEqual(self.values(), ["#111111", "#bbbbbb"])

    def test_what_somebody_has_changed_since_is_not_taken_back(self):
        self.set("#aaaaaa")
        self.set("#bbbbbb", self.tove)
        with self.assertRaises(ConflictError):
            store.undo(self.project, self.maren)
        self.assertEqual(self.values()[0], "#bbbbbb")

    def test_making_the_project_cannot_be_taken_back(self):
        self.assertIsNone(store.undo(self.project, self.maren))

    def test_a_replaced_document_is_taken_back_whole(self):
        before = self.fresh(self.project)
        after = replace(observatory(), name=before.document.name)
        store.record(self.project, before, after, self.maren, "Brought")
        store.undo(self.project, self.maren)
        self.assertEqual(self.fresh(self.project).document, before.document)
        store.redo(self.project, self.maren)
        self.assertEqual(self.fresh(self.project).document, after)


class KeptTests(RoomCase):
    def test_the_oldest_revision_is_given_up_first(self):
        self.make(quillhaven.document())
        for number in range(loading._OLDER + 2):
            store.save(self.project, SetValue("text.link", f"#{number:06x}"), self.user)
        for revision in range(1, loading._OLDER + 2):
            store.at(self.project, revision, 1000)
        kept = [revision for _, revision in loading._older]
        self.assertEqual(len(kept), loading._OLDER)
        self.assertNotIn(1, kept)
        self.assertIn(loading._OLDER + 1, kept)

    def test_what_changed_is_tokens_and_values(self):
        self.make(quillhaven.document())
        store.save(self.project, SetValue("text.link", "#123456"), self.user)
        store.save(self.project, RenameAxis("brand", "carrier"), self.user)
        self.assertEqual(store.changed_since(self.project, 1), {"text.link"})

    def test_who_wrote_last_is_named_where_nobody_wrote_the_same(self):
        first, last = JournalEntry(operations="[]"), JournalEntry(operations="[]")
        clash = SimpleNamespace(rows=())
        self.assertIs(store._writer([first, JournalEntry(operations="[]"), last], clash), last)
        self.assertIsNone(store._writer([], clash))
