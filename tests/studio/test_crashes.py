"""A worker of long tasks is killed while it works, and another takes its task up."""

import json
import os
import signal
import subprocess
import sys
import time

from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.db import OperationalError, connection
from django.test import RequestFactory, TestCase, TransactionTestCase
from procrastinate.contrib.django.models import ProcrastinateJob

from bench.palettes import product
from studio.rooms.tokens.axes.tasks import PROPOSE
from studio.store import projects as store
from studio.ui import views as ui
from studio.work.tasks import ask, put_back
from tests.studio.test_tasks import NIGHT


class CrashTests(TransactionTestCase):
    """A worker of its own is killed while it works; another takes the task up."""

    def worker(self, *options):
        database = connection.settings_dict
        address = (
            f"postgresql://{database['USER']}:{database['PASSWORD']}@{database['HOST']}:"
            f"{database['PORT']}/{database['NAME']}"
        )
        return subprocess.Popen(
            [sys.executable, "manage.py", "procrastinate", "worker", "-p", "0.2", *options],
            env={**os.environ, "DATABASE_URL": address},
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
        )

    def wait(self, holds, words):
        deadline = time.monotonic() + 90
        while not holds():
            self.assertLess(time.monotonic(), deadline, words)
            time.sleep(0.05)

    def test_a_killed_worker_leaves_nothing_undone(self):
        store.forget_all()
        user = get_user_model().objects.create_user("maren")
        project = store.create(user, product(120, 300, 3, 3))
        task = ask(project, PROPOSE, 1, NIGHT, user)

        def state():
            task.refresh_from_db()
            return task.state

        first = self.worker()
        try:
            self.wait(lambda: state() != "waiting", "it begins")
            self.assertEqual(state(), "running", task.words)
        finally:
            os.kill(first.pid, signal.SIGKILL)
            first.wait()
        self.assertEqual(state(), "running")
        self.assertEqual(ProcrastinateJob.objects.get(task_name="perform").status, "doing")
        self.assertEqual(put_back(0), 1)
        second = self.worker("--one-shot")
        self.assertEqual(second.wait(120), 0)
        self.assertEqual((state(), task.starts), ("done", 2))
        self.assertTrue(json.loads(task.text)["proven"])


class FailureTests(TestCase):
    def failed(self, error):
        store.STORED.set(None)  # as a request begins
        request = RequestFactory().get("/")
        request.user = User()
        try:
            raise error
        except type(error):
            with self.assertLogs("studio.errors", "ERROR"):
                return ui.failed(request)

    def test_a_failure_says_whether_the_database_is_why(self):
        self.assertContains(
            self.failed(OperationalError("gone")), "does not answer", status_code=503
        )
        response = self.failed(ValueError("x"))
        self.assertContains(response, "Nothing was changed", status_code=500)
        self.assertNotIn("Retry-After", response)
