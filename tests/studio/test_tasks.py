"""Long tasks: asked for once, told, stopped, taken up again after a crash, and shown on the pages that ask."""

import json
import time
from datetime import timedelta
from unittest import mock

from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import OperationalError, connection
from django.test import Client, TestCase, TransactionTestCase
from django.urls import reverse
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from demo import quillhaven
from prism.errors import PrismError
from studio import solving
from studio.rooms.checks.report import views as reports
from studio.rooms.exchange import views as exchange
from studio.rooms.tokens.axes.tasks import PROPOSE
from studio.store import projects as store
from studio.store import tasks
from studio.store.models import LongTask, Membership
from studio.work import kinds
from studio.work.tasks import ALONE, ask, perform, put_back
from tests.builders import document, token

NIGHT = {
    "axis": "appearance", "source": "light", "name": "night", "scheme": "dark",
    "intent": "counterpart", "decided": [], "hues": [], "factor": 1.0,
}  # fmt: skip


class AskingTests(TestCase):
    def setUp(self):
        store.forget_all()
        self.user = get_user_model().objects.create_user("maren")
        self.project = store.create(self.user, document(token("a", "#111111")))

    def ask(self, **fields):
        return tasks.ask(self.project, "export", 1, fields, self.user)

    def test_the_same_is_done_once(self):
        first, new = self.ask(target="css")
        again, newer = self.ask(target="css")
        self.assertEqual((new, newer, again.code), (True, False, first.code))
        tasks.end(first, "done")
        self.assertEqual(self.ask(target="css")[0].code, first.code)
        LongTask.objects.update(state="failed")
        self.assertNotEqual(self.ask(target="css")[0].code, first.code)
        self.assertTrue(tasks.ask(self.project, "export", 2, {"target": "css"}, self.user)[1])

    def test_a_project_has_a_few_at_a_time(self):
        for number in range(tasks.MOST):
            self.ask(target=str(number))
        with self.assertRaisesRegex(PrismError, "3 long tasks of this project are not finished"):
            self.ask(target="one more")
        other = store.create(self.user, document(token("a", "#111111")))
        self.assertTrue(tasks.ask(other, "export", 1, {}, self.user)[1])

    def test_files_have_a_limit(self):
        with mock.patch.object(tasks, "MOST_BYTES", 10), self.assertRaisesRegex(PrismError, "MB"):
            tasks.ask(self.project, "import", 1, {}, self.user, b"x" * 11)

    def test_what_has_not_begun_is_stopped_at_once_and_what_runs_is_asked_to(self):
        waiting = self.ask(target="css")[0]
        tasks.stop(waiting)
        waiting.refresh_from_db()
        self.assertEqual(waiting.state, "stopped")
        self.assertIsNone(tasks.begin(waiting.code))
        running = tasks.begin(self.ask(target="csv")[0].code)
        self.assertTrue(tasks.tell(running, 0.5, "half"))
        tasks.stop(running)
        self.assertFalse(tasks.tell(running, 0.6, "more"))
        running.refresh_from_db()
        self.assertEqual((running.state, running.share, running.words), ("running", 0.6, "more"))

    def test_what_ends_its_worker_each_time_is_not_tried_for_ever(self):
        code = self.ask(target="css")[0].code
        for _ in range(tasks.MOST_STARTS):
            self.assertIsNotNone(tasks.begin(code))
        self.assertIsNone(tasks.begin(code))
        self.assertEqual(LongTask.objects.get(code=code).state, "failed")

    def gone(self, task):
        """A task as a worker leaves it that was killed while it did it."""
        LongTask.objects.filter(pk=task.pk).update(beat_at=timezone.now() - 2 * tasks.GONE)

    def test_what_nobody_does_any_more_is_stopped_at_once(self):
        task = tasks.begin(self.ask(target="css")[0].code)
        self.gone(task)
        tasks.stop(task)
        task.refresh_from_db()
        self.assertEqual(task.state, "stopped")

    def test_what_was_asked_to_stop_and_lost_its_worker_is_stopped(self):
        task = tasks.begin(self.ask(target="css")[0].code)
        tasks.stop(task)
        self.gone(task)
        self.assertEqual(tasks.take_back(), [])
        task.refresh_from_db()
        self.assertEqual(task.state, "stopped")

    def test_a_worker_that_comes_back_does_not_write_over_the_one_that_took_its_task(self):
        first = tasks.begin(self.ask(target="css")[0].code)
        self.gone(first)
        self.assertEqual([task.code for task in tasks.take_back()], [first.code])
        second = tasks.begin(first.code)
        self.assertFalse(tasks.tell(first, 0.9, "late"))
        tasks.end(first, "failed", words="late")
        second.refresh_from_db()
        self.assertEqual((second.state, second.words, second.starts), ("running", "", 2))

    def test_what_is_unfinished_for_days_is_ended_and_no_longer_counted(self):
        for number in range(tasks.MOST):
            tasks.begin(self.ask(target=str(number))[0].code)
        LongTask.objects.update(asked_at=timezone.now() - tasks.KEPT * 1.01)
        tasks.purge()
        self.assertEqual({task.state for task in LongTask.objects.all()}, {"failed"})
        self.assertTrue(self.ask(target="one more")[1])

    def test_results_are_kept_for_a_while(self):
        task = self.ask(target="css")[0]
        tasks.end(task, "done", result=tasks.Result(data=b"x"))
        self.assertEqual(tasks.purge(), 0)
        LongTask.objects.update(ended_at=timezone.now() - tasks.KEPT * 1.01)
        self.assertEqual(tasks.purge(), 1)


class DoingTests(TransactionTestCase):
    """Done by the queue's own function, in this process."""

    def setUp(self):
        store.forget_all()
        self.user = get_user_model().objects.create_user("maren")
        self.client = Client()
        self.client.force_login(self.user)
        self.project = store.create(self.user, quillhaven.document())

    def url(self, name, *args):
        return reverse(name, args=[self.project.code, *args])

    def done(self):
        """Do the newest task; what became of it."""
        task = LongTask.objects.last()
        perform(task.code)
        task.refresh_from_db()
        return task

    def post(self, name, /, *args, **fields):
        revision = store.load(self.project).revision
        return self.client.post(
            self.url(name, *args), {"revision": revision, **fields}, follow=True
        )

    def test_errors_are_the_tasks_own(self):
        def refuses(work):
            raise PrismError("The file ends too early.", fix="Export it again.")

        def breaks(work):
            raise ZeroDivisionError

        for run, words in ((refuses, "The file ends too early."), (breaks, "It is our mistake.")):
            with mock.patch.dict(kinds.KINDS, {"test": ("Testing", run)}):
                ask(self.project, "test", 1, {"run": words}, self.user)
                task = self.done()
            self.assertEqual(task.state, "failed")
            self.assertIn(words, task.words)

    def test_a_stop_is_noticed_while_it_is_done(self):
        def waits(work):
            tasks.stop(work.task)
            deadline = time.monotonic() + 20
            while not work.stopped() and time.monotonic() < deadline:
                time.sleep(0.05)
            raise kinds.StoppedError

        with mock.patch.dict(kinds.KINDS, {"test": ("Testing", waits)}):
            ask(self.project, "test", 1, {}, self.user)
            self.assertEqual(self.done().state, "stopped")

    def test_a_database_that_dies_leaves_the_task_to_be_taken_up_again(self):
        def dies(work):
            raise OperationalError("the connection is lost")

        with mock.patch.dict(kinds.KINDS, {"test": ("Testing", dies)}):
            ask(self.project, "test", 1, {}, self.user)
            self.assertEqual(self.done().state, "running")
        LongTask.objects.update(beat_at=timezone.now() - 2 * tasks.GONE)
        with connection.cursor() as cursor:
            cursor.execute("delete from procrastinate_jobs")
        with mock.patch.dict(kinds.KINDS, {"test": ("Testing", lambda work: tasks.Result("x"))}):
            self.assertEqual(put_back(), 1)
            self.assertEqual(ProcrastinateJob.objects.get(task_name="perform").status, "todo")
            self.assertEqual(put_back(), 0, "it is in the queue")
            self.assertEqual(self.done().state, "done")

    def test_a_database_that_is_away_for_a_moment_does_not_stop_the_words(self):
        real, failing = tasks.tell, [2]

        def tell(*args):
            failing[0] -= 1
            if failing[0] >= 0:
                raise OperationalError("away")
            return real(*args)

        def waits(work):
            work.tell(0.5, "half")
            deadline = time.monotonic() + 20
            while failing[0] >= -1 and time.monotonic() < deadline:
                time.sleep(0.05)
            return tasks.Result("x")

        with (
            mock.patch.dict(kinds.KINDS, {"test": ("Testing", waits)}),
            mock.patch.object(tasks, "tell", tell),
        ):
            ask(self.project, "test", 1, {}, self.user)
            task = self.done()
        self.assertEqual((task.state, task.share), ("done", 0.5))

    def test_who_waits_without_any_worker_is_told_so(self):
        task = ask(self.project, "export", 1, {"target": "css", "theme": ""}, self.user)
        state = self.client.get(self.url("work:state", task.code)).json()
        self.assertEqual(state["state"], "waiting")
        LongTask.objects.update(asked_at=timezone.now() - timedelta(seconds=ALONE + 1))
        with connection.cursor() as cursor:
            cursor.execute(
                "update procrastinate_workers set last_heartbeat = now() - interval '2 minutes'"
            )
        state = self.client.get(self.url("work:state", task.code)).json()
        self.assertEqual(state["state"], "failed")
        self.assertIn("No worker for long tasks is running", state["words"])

    @mock.patch.object(solving, "MOST_PAIRINGS", 10)
    def test_a_mode_with_many_pairings_is_solved_beside_other_work(self):
        fields = {name: NIGHT[name] for name in ("axis", "source", "name", "scheme", "intent")}
        page = self.client.get(self.url("axes:propose"), fields)
        self.assertContains(page, "are too many to solve while you wait")
        page = self.post("axes:take", again="1", **fields)
        self.assertContains(page, "<np-task")
        state = self.client.get(self.url("work:state", LongTask.objects.last().code)).json()
        self.assertEqual((state["state"], state["over"]), ("waiting", False))
        self.assertEqual(self.done().state, "done")
        page = self.client.get(page.request["PATH_INFO"] + "?" + page.request["QUERY_STRING"])
        self.assertNotContains(page, "<np-task")
        self.assertIn("67 known pairings pass in", " ".join(page.content.decode().split()))
        self.assertIn("night", page.content.decode())
        code = LongTask.objects.last().code
        page = self.post("axes:take", solving=code, take=[], **fields)
        self.assertContains(page, "Made mode night from light")
        self.assertIn("night", [m.name for m in store.load(self.project).document.axes[0].modes])

    @mock.patch.object(solving, "MOST_PAIRINGS", 10)
    def test_what_was_solved_for_an_older_revision_is_not_shown(self):
        task = ask(self.project, PROPOSE, 1, NIGHT, self.user)
        self.done()
        store.rename(self.project, self.user, "Another name")
        fields = {name: NIGHT[name] for name in ("axis", "source", "name", "scheme", "intent")}
        page = self.client.get(self.url("axes:propose"), fields | {"solving": task.code})
        self.assertContains(page, "The project was changed since this was solved.")

    @mock.patch.object(solving, "MOST_PAIRINGS", 10)
    def test_fixes_for_many_pairings_are_solved_beside_other_work(self):
        self.assertContains(
            self.client.get(self.url("checks:fix-all")), "are too many to solve while you wait"
        )
        page = self.post("checks:take-fixes", again="1")
        self.assertContains(page, "<np-task")
        address = f"{page.request['PATH_INFO']}?{page.request['QUERY_STRING']}"
        self.assertEqual(self.done().state, "done")
        page = self.client.get(address)
        self.assertContains(page, "values would change")
        code = LongTask.objects.last().code
        page = self.post("checks:take-fixes", solving=code, take=["0"])
        self.assertContains(page, "Fixed")

    def test_a_stopped_search_says_so_and_can_be_started_again(self):
        with mock.patch.object(solving, "MOST_PAIRINGS", 10):
            page = self.post("checks:take-fixes", again="1")
            code = LongTask.objects.last().code
            self.post_stop(code)
            self.assertEqual(LongTask.objects.last().state, "stopped")
            page = self.client.get(self.url("checks:fix-all"), {"solving": code})
        self.assertContains(page, "Stopped before it began.")
        self.assertContains(page, 'id="solve"')

    def post_stop(self, code):
        self.assertEqual(self.client.post(self.url("work:stop", code)).status_code, 302)

    def test_a_reader_stops_only_what_she_asked_for(self):
        reader = get_user_model().objects.create_user("tove")
        Membership.objects.create(project=self.project, user=reader, role="viewer")
        others = ask(self.project, "export", 1, {"target": "css", "theme": ""}, self.user)
        own = ask(self.project, "export", 1, {"target": "csv", "theme": ""}, reader)
        self.client.force_login(reader)
        self.assertEqual(self.client.post(self.url("work:stop", others.code)).status_code, 403)
        self.post_stop(own.code)

    @mock.patch.object(exchange, "MOST_TOKENS", 10)
    def test_much_is_exported_beside_other_work(self):
        plain = self.client.get(self.url("exchange:export", "css")).content
        page = self.post("exchange:export", "css")
        self.assertContains(page, "<np-task")
        self.assertEqual(self.done().state, "done")
        page = self.client.get(f"{page.request['PATH_INFO']}?{page.request['QUERY_STRING']}")
        self.assertContains(page, "is ready.")
        file = self.client.get(self.url("work:file", LongTask.objects.last().code))
        self.assertEqual(file.content, plain)
        self.assertIn("attachment", file["Content-Disposition"])

    @mock.patch.object(reports, "MOST_TOKENS", 10)
    def test_the_report_of_much_is_written_beside_other_work(self):
        page = self.client.get(self.url("report:room"))
        self.assertContains(page, f'action="{self.url("report:file", "sarif")}"')
        page = self.post("report:file", "json")
        self.assertContains(page, "Writing the report")
        task = self.done()
        address = f"{self.url('report:room')}?task={task.code}"
        self.assertContains(self.client.get(address), f"report-{self.project.code}.json is ready.")
        file = self.client.get(self.url("work:file", task.code))
        self.assertIn("attachment", file["Content-Disposition"])
        at_once = self.client.get(self.url("report:file", "json"))
        self.assertEqual(json.loads(file.content), json.loads(at_once.content))
        self.assertEqual(self.client.post(self.url("report:file", "docx")).status_code, 404)

    @mock.patch.object(exchange, "WHILE_WAITING", 10)
    def test_much_is_imported_beside_other_work(self):
        good = b'{"color": {"$type": "color", "ink": {"$value": "#101010"}}}'
        for name, data, words in (
            ("good.tokens.json", good, "1 token imported"),
            ("bad.tokens.json", good[:-3], "bad.tokens.json"),
        ):
            page = self.post(
                "exchange:import",
                files=SimpleUploadedFile(name, data),
                into="new",
                name="From afar",
            )
            self.assertContains(page, "<np-task")
            self.assertEqual(bytes(self.done().payload), b"", "files are not kept")
            page = self.client.get(f"{page.request['PATH_INFO']}?{page.request['QUERY_STRING']}")
            self.assertContains(page, words)
        kept = json.loads(LongTask.objects.first().text)
        self.assertEqual(store.Project.objects.get(code=kept["project"]).name, "From afar")
