"""A second line of revisions beside the main one: each is stored, kept, undone and asked about by itself."""

from demo import quillhaven
from prism.changes import values as edit
from prism.errors import ConflictError
from prism.model.values import BASE, Expression
from studio.store import projects as store
from studio.store import tasks
from studio.store.models import LongTask
from tests.builders import token
from tests.studio.test_store import StoreCase, set_value


def color(loaded, key="a"):
    return next(one for one in loaded.document.tokens if one.key == key).value().text


class LineTests(StoreCase):
    def setUp(self):
        super().setUp()
        self.main = self.make(token("a", "#111111"), token("b", "#222222"))
        self.line = store.begin_line(self.main, "calmer")

    def write(self, project, text, key="a", actor=None):
        loaded = store.load(project)
        return store.record(
            project, loaded, set_value(loaded, text, key=key), actor or self.maren, text
        )

    def again(self, project):
        """The document read past every cache."""
        store.forget_all()
        if project.line is None:
            project.refresh_from_db()
        return store.load(project)

    def test_each_is_written_and_read_by_itself(self):
        self.write(self.line, "#333333")
        self.write(self.main, "#444444")
        for _ in range(2):
            self.assertEqual(color(store.load(self.line)), "#333333")
            self.assertEqual(color(store.load(self.main)), "#444444")
            store.forget_all()
        self.assertEqual((self.main.revision, self.line.revision), (2, 2))

    def test_a_line_keeps_what_it_left_with(self):
        for text in ("#444444", "#555555"):
            self.write(self.main, text)
        self.assertEqual(color(self.again(self.line)), "#111111")

    def test_each_has_its_own_journal_and_undo(self):
        self.write(self.line, "#333333")
        self.write(self.main, "#444444")
        self.assertEqual([entry.label for entry in self.line.journal], ["#333333"])
        self.assertEqual([e.label for e in self.main.journal], ["Made the project", "#444444"])
        store.undo(self.line, self.maren)
        self.assertEqual(color(self.again(self.line)), "#111111")
        self.assertEqual(color(self.again(self.main)), "#444444")
        store.redo(self.line, self.maren)
        self.assertEqual(color(self.again(self.line)), "#333333")

    def test_older_revisions_are_of_their_line(self):
        self.write(self.line, "#333333")
        self.write(self.line, "#333334")
        self.write(self.main, "#444444")
        self.write(self.main, "#444445")
        self.assertEqual(color(store.at(self.line, 2)), "#333333")
        self.assertEqual(color(store.at(self.main, 2)), "#444444")

    def test_another_process_catches_up_with_its_line(self):
        held = store.load(self.line)
        line = self.main.lines.get()
        other = self.main.on(line)
        self.write(other, "#333333")
        store.forget_all()
        store.remember(self.line, held)
        self.assertEqual(color(store.load(self.main.on(self.main.lines.get()))), "#333333")

    def test_writes_of_two_people_on_it_are_merged_or_clash(self):
        old = store.load(self.line)
        store.record(self.line, old, set_value(old, "#333333"), self.tove, "First")
        store.record(self.line, old, set_value(old, "#666666", key="b"), self.maren, "Second")
        self.assertEqual(color(self.again(self.line), "b"), "#666666")
        with self.assertRaises(ConflictError):
            store.record(self.line, old, set_value(old, "#999999"), self.maren, "Third")
        self.assertEqual(color(self.again(self.main)), "#111111")

    def test_it_brings_any_document_back_as_it_was_stored(self):
        project = store.create(self.maren, quillhaven.document())
        line = store.begin_line(project, "renamed")
        loaded = store.load(line)
        key = loaded.document.tokens[0].key
        after = edit.set_value(loaded.document, key, BASE, Expression("#123456"))
        store.record(line, loaded, after, self.maren, "One value")
        self.assertEqual(self.again(line).document, after)
        self.assertEqual(self.again(project).document, quillhaven.document())

    def test_the_same_question_about_another_line_is_another(self):
        self.write(self.line, "#333333")
        self.write(self.main, "#444444")
        asked = tasks.ask(self.main, "export", 2, {"target": "css"}, self.maren)
        again = tasks.ask(self.line, "export", 2, {"target": "css"}, self.maren)
        self.assertTrue(asked[1] and again[1])
        task = LongTask.objects.get(code=again[0].code)
        self.assertEqual(color(store.at(task.asked_about, task.revision)), "#333333")
        self.assertFalse(tasks.ask(self.line, "export", 2, {"target": "css"}, self.maren)[1])
