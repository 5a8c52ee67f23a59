"""A worker of long tasks is killed while it works, and another takes its task up."""

import json
import os
import signal
import subprocess
import sys
import time

from django.contrib.auth import get_user_model
from django.db import connection
from django.test import TransactionTestCase
from procrastinate.contrib.django.models import ProcrastinateJob

from bench.palettes import product
from studio.rooms.tokens.axes.tasks import PROPOSE
from studio.store import projects as store
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
