"""Projects, races, migrations and the tables behind the store."""

import io
import json
import threading
from dataclasses import replace
from importlib import import_module

from django.apps import apps
from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.db import connection
from django.test import TestCase, TransactionTestCase

from prism.compare.diff import diff
from prism.compare.rows import unflatten
from prism.model import schema
from prism.model.document import Pairing, Scene
from prism.model.values import Condition
from prism.sheet.cell_commands import SetValue
from prism.sheet.token_commands import RenameToken
from studio.store import projects as store
from studio.store import tables
from studio.store.models import JournalEntry, Part, Project
from tests.builders import document, observatory, token
from tests.studio.test_store import StoreCase, set_value

DARK = Condition.of({"appearance": "dark"})


class ProjectTests(StoreCase):
    def test_a_copy_is_whole_and_apart(self):
        project = store.create(self.maren, observatory())
        copy = store.copy(project, self.tove, "Mine")
        self.assertEqual(
            diff(replace(store.load(project).document, name="Mine"), store.load(copy).document), []
        )
        loaded = store.load(copy)
        key = loaded.document.tokens[0].key
        store.record(copy, loaded, set_value(loaded, "#000000", key=key), self.tove, "Black")
        self.assertEqual(self.fresh(project).document, observatory())
        self.assertEqual(copy.memberships.get().user, self.tove)

    def test_deleted_projects_go_for_good_after_their_time(self):
        project = self.make(token("a", "#111111"))
        store.delete(project)
        self.assertEqual(store.purge_deleted(), 0)
        Project.objects.filter(pk=project.pk).update(deleted_at=project.created_at - 2 * store.KEPT)
        self.assertEqual(store.purge_deleted(), 1)
        self.assertFalse(Project.objects.filter(pk=project.pk).exists())

    def test_rename_is_a_change_like_any_other(self):
        project = self.make(token("a", "#111111"))
        store.rename(project, self.maren, "Harbor")
        project.refresh_from_db()
        self.assertEqual((project.name, store.load(project).document.name), ("Harbor", "Harbor"))
        store.undo(project, self.maren)
        project.refresh_from_db()
        self.assertEqual(project.name, "Small")


class RaceTests(TransactionTestCase):
    """Two writers at the same revision, with and without the lock."""

    def setUp(self):
        store.forget_all()
        self.maren = get_user_model().objects.create_user("maren")
        self.project = store.create(
            self.maren, document(token("a", "#111111"), token("b", "#222222"))
        )
        self.loaded = store.load(self.project)

    def together(self, write):
        barrier, outcomes = threading.Barrier(2), []

        def run(key):
            try:
                barrier.wait(timeout=10)
                outcomes.append(write(key))
            except store.ClashError as error:
                outcomes.append(error)
            finally:
                connection.close()

        threads = [threading.Thread(target=run, args=(key,)) for key in ("a", "b")]
        for one in threads:
            one.start()
        for one in threads:
            one.join(timeout=20)
        return outcomes

    def test_without_the_lock_both_would_pass_the_check(self):
        barrier = threading.Barrier(2)

        def check_then_write(key):
            current = Project.objects.get(pk=self.project.pk)
            passed = current.revision == self.loaded.revision
            barrier.wait(timeout=10)
            Project.objects.filter(pk=self.project.pk).update(revision=current.revision + 1)
            return passed

        self.assertEqual(self.together(check_then_write), [True, True])
        self.project.refresh_from_db()
        self.assertEqual(self.project.revision, 2)

    def write(self, key, value):
        project = Project.objects.get(pk=self.project.pk)
        after = set_value(self.loaded, value, key=key)
        return store.record(project, self.loaded, after, self.maren, key)

    def values(self):
        self.project.refresh_from_db()
        store.forget_all()
        return [one.value().text for one in store.load(self.project).document.tokens]

    def test_with_the_lock_both_are_kept(self):
        outcomes = self.together(lambda key: self.write(key, "#999999"))
        self.assertEqual([type(outcome) for outcome in outcomes], [store.Loaded, store.Loaded])
        self.assertEqual(self.values(), ["#999999", "#999999"])
        self.assertEqual(JournalEntry.objects.filter(project=self.project).count(), 3)

    def test_with_the_lock_one_of_two_writes_of_the_same_is_refused(self):
        outcomes = self.together(lambda key: self.write("a", "#99999" + key))
        refused = [outcome for outcome in outcomes if isinstance(outcome, store.ClashError)]
        self.assertEqual((len(outcomes), len(refused)), (2, 1))
        self.assertEqual(JournalEntry.objects.filter(project=self.project).count(), 2)
        self.assertIn(self.values()[0], ("#99999a", "#99999b"))


class MigrationTests(TestCase):
    def test_bindings_become_rows_and_go_back(self):
        project = Project.objects.create(name="Board")
        row = {"name": "Hall", "markup": "", "bindings": [["page", "a"], ["ink", "b"]]}
        whole = json.dumps(row)
        scene = Part.objects.create(
            project=project, kind="scene", key="hall", position=0, text=whole
        )
        migration = import_module("studio.store.migrations.0006_binding_rows")
        migration.apart(apps, None)
        read = unflatten(tables.read(project)).scenes
        self.assertEqual(read, (Scene("hall", "Hall", "", (("page", "a"), ("ink", "b"))),))
        migration.together(apps, None)
        scene.refresh_from_db()
        self.assertEqual(json.loads(scene.text), row)
        self.assertFalse(Part.objects.filter(kind="binding").exists())


class TokensOfEntriesTests(TestCase):
    def test_the_journal_is_asked_by_token_by_those_stored_before_too(self):
        user = get_user_model().objects.create_user("maren")
        project = store.create(user, document(token("a", "#111111"), token("a1", "{a}")))
        store.save(project, SetValue("a", "#222222"), user)
        store.save(project, RenameToken("a1", "b"), user)
        labels = {key: [e.label for e in store.history(project, key)] for key in ("a", "a1", "x")}
        self.assertEqual(labels["a"][0], "Set a to #222222 for every mode")
        self.assertEqual(labels["a1"][0], "Renamed a1 to b")
        self.assertEqual([len(labels[key]) for key in labels], [2, 2, 0])
        stored = list(JournalEntry.objects.values_list("tokens", flat=True))
        JournalEntry.objects.update(tokens=[])
        import_module("studio.store.migrations.0014_keys_of_entries").fill(apps, None)
        self.assertEqual(list(JournalEntry.objects.values_list("tokens", flat=True)), stored)
        self.assertEqual(store.changed_since(project, 1), {"a", "a1"})


class MappingTests(TestCase):
    def test_every_kind_has_a_place(self):
        from prism.compare.rows import KINDS

        self.assertEqual(set(KINDS), {"document", *tables.MAPPINGS, *tables.PART_KINDS})


class ColumnTests(TestCase):
    def test_the_tables_have_a_column_for_every_field(self):
        columns = {kind: set(mapping.columns) for kind, mapping in tables.MAPPINGS.items()}
        self.assertEqual(set(tables.PROJECT_COLUMNS), set(schema.DOCUMENT))
        self.assertEqual(columns["token"], set(schema.TOKEN))
        self.assertEqual(columns["axis"], {*schema.AXIS, "follows"})
        self.assertEqual(columns["mode"], set(schema.MODE))
        self.assertEqual(columns["pairing"], set(schema.stored_fields(Pairing)))


class ModelTests(TestCase):
    def test_the_models_are_as_the_migrations_make_them(self):
        out = io.StringIO()
        call_command("makemigrations", "--check", "--dry-run", stdout=out)
        self.assertIn("No changes", out.getvalue())
