"""What serves the demo: a cluster of its own, processes that are started again, what a killed demo leaves."""

import os
import socket
import subprocess
import sys
import time
from pathlib import Path
from tempfile import TemporaryDirectory
from unittest import mock

import psycopg
from django.test import SimpleTestCase

from demo import running
from demo.cluster import Cluster, ClusterError, free_port
from demo.running import Kept, end_left, is_free, other_users, runs

ASLEEP = [sys.executable, "-c", "import time; time.sleep(60)"]
ENDS = [sys.executable, "-c", "pass"]


def gone() -> int:
    """The number of a process that is over."""
    process = subprocess.Popen(ENDS)
    process.wait()
    return process.pid


class FilesCase(SimpleTestCase):
    def setUp(self):
        folder = TemporaryDirectory(prefix="running-", dir="/var/tmp")
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.folder.chmod(0o755)
        self.enterContext(mock.patch.dict(os.environ, {"NIMBLE_PRISM_VAR": str(self.folder)}))
        self.said = self.enterContext(mock.patch.object(running, "say"))

    def asleep(self):
        process = subprocess.Popen(ASLEEP)
        self.addCleanup(process.wait)
        self.addCleanup(process.kill)
        return process


class LeftTests(FilesCase):
    def left(self, owner, process, command=ASLEEP):
        file = self.folder / "8400"
        file.write_text(f"{owner} {process.pid}\n")
        end_left(file, command, "what was left")
        return file.exists(), process.poll() is None

    def test_what_a_demo_that_is_gone_has_left_is_ended(self):
        process = self.asleep()
        file = self.folder / "8400"
        file.write_text(f"{gone()} {process.pid}\n")
        with mock.patch.object(
            running, "runs", side_effect=lambda n: n == process.pid and process.poll() is None
        ):
            end_left(file, ASLEEP, "what was left")
        self.assertEqual((file.exists(), process.poll() is not None), (False, True))
        self.said.assert_called_once_with("Ending what was left")

    def test_what_a_demo_that_runs_has_is_left_alone(self):
        self.assertEqual(self.left(os.getpid(), self.asleep()), (True, True))

    def test_another_process_of_the_same_number_is_left_alone(self):
        self.assertEqual(self.left(gone(), self.asleep(), ["another", "program"]), (False, True))

    def test_a_file_of_something_else_is_no_harm(self):
        file = self.folder / "8400"
        for text in ("", "one two", "1", "1 2 3"):
            file.write_text(text)
            end_left(file, ASLEEP, "")
        end_left(self.folder / "none", ASLEEP, "")
        self.said.assert_not_called()

    def test_a_demo_that_is_gone_uses_the_database_no_more(self):
        users = self.folder / "users"
        users.mkdir()
        for number in (gone(), os.getpid(), os.getppid()):
            (users / str(number)).touch()
        self.assertEqual(other_users(), [os.getppid()])
        self.assertEqual(len(list(users.iterdir())), 2)


class KeptTests(FilesCase):
    def test_a_process_that_ends_is_started_again(self):
        kept = Kept(ASLEEP, self.folder / "one", "The server")
        kept.start()
        self.addCleanup(kept.stop)
        first = kept.process
        self.assertTrue(kept.look())
        self.said.assert_not_called()
        first.kill()
        first.wait()
        self.assertTrue(kept.look())
        self.said.assert_called_once_with("The server has stopped; starting it again.")
        owner, process = map(int, kept.file.read_text().split())
        self.assertEqual((owner, process), (os.getpid(), kept.process.pid))
        self.assertNotEqual(process, first.pid)
        kept.stop()
        self.assertFalse(kept.file.exists() or runs(process))

    def test_one_that_ends_at_once_again_and_again_is_given_up_where_it_may(self):
        for gives_up, looks in ((True, running._MOST_QUICK), (False, 12)):
            kept = Kept(ENDS, self.folder / "one", gives_up=gives_up)
            kept.start()
            done = 0
            for _ in range(12):
                kept.process.wait()
                done += 1
                if not kept.look():
                    break
            self.assertEqual(done, looks)
            kept.stop()

    def test_what_it_writes_goes_where_it_is_told(self):
        log = self.folder / "log"
        kept = Kept(
            [sys.executable, "-c", "import sys; print('aside'); sys.stderr.write('said')"],
            self.folder / "one",
            log=log,
        )
        kept.start()
        kept.process.wait()
        kept.stop()
        self.assertEqual(log.read_text(), "said")


class PortTests(SimpleTestCase):
    def test_a_port_that_somebody_listens_on_is_not_free(self):
        port = free_port()
        self.assertTrue(is_free(port))
        with socket.socket() as other:
            other.bind(("127.0.0.1", port))
            other.listen()
            self.assertFalse(is_free(port))


class ClusterTests(FilesCase):
    def test_it_is_made_asks_for_its_password_lives_and_goes(self):
        cluster = Cluster(self.folder / "own")
        self.addCleanup(cluster.remove)
        self.assertFalse(cluster.is_alive())
        cluster.start(sync=False)
        self.assertTrue(cluster.is_alive() and cluster.asks())
        self.assertEqual(cluster.password_file.stat().st_mode & 0o777, 0o600)
        with psycopg.connect(cluster.url("postgres")) as connection:
            self.assertEqual(connection.execute("show listen_addresses").fetchone(), ("127.0.0.1",))
            self.assertEqual(connection.execute("show fsync").fetchone(), ("off",))
        wrong = cluster.url("postgres").replace(cluster.password, "wrong")
        with self.assertRaises(psycopg.OperationalError):
            psycopg.connect(wrong)
        port = cluster.port
        running.look_after(cluster, port)
        self.said.assert_not_called()
        cluster.stop()
        running.look_after(cluster, port)
        self.said.assert_called_once_with("PostgreSQL has stopped; starting it again.")
        self.assertEqual((cluster.is_alive(), cluster.port), (True, port))
        cluster.remove()
        self.assertFalse(cluster.folder.exists() or cluster.password_file.exists())

    def test_one_that_cannot_start_says_where_its_log_is(self):
        cluster = Cluster(self.folder / "own")
        self.addCleanup(cluster.remove)
        with (
            mock.patch.object(Cluster, "run", return_value=False),
            mock.patch.object(time, "sleep"),
            self.assertRaisesMessage(ClusterError, "PostgreSQL did not start; its log is"),
        ):
            cluster.start(sync=False)
