"""A request that works too long, a database that does not answer, and memory that is held."""

import threading
import time

from django.test import SimpleTestCase, TransactionTestCase

from studio import memory
from studio.deadline import DeadlineError, Deadlines
from studio.gate import Work
from studio.health import Database, Health


def environ(path="/", method="GET", body=b""):
    import io

    return {
        "PATH_INFO": path,
        "REQUEST_METHOD": method,
        "CONTENT_LENGTH": str(len(body)),
        "wsgi.input": io.BytesIO(body),
    }


class Answer:
    """What a WSGI application answers."""

    def __init__(self, application, asked):
        self.status = ""
        self.body = b"".join(application(asked, self.start))

    def start(self, status, headers, error=None):
        self.status, self.headers = status, dict(headers)


class DeadlineTests(SimpleTestCase):
    def deadlines(self, **seconds):
        self.ended = threading.Event()
        return Deadlines(
            **{"longest": 0.3, "again": 0.3, "last": 60, "end": self.ended.set, **seconds}
        )

    def test_work_without_end_is_stopped_and_its_place_is_free(self):
        def application(asked, start):
            if asked["PATH_INFO"] == "/endless":
                while True:
                    pass
            start("200 OK", [])
            return [b"done"]

        gate = Work(application, at_once=1, deadlines=self.deadlines())
        answer = Answer(gate, environ("/endless"))
        self.assertEqual(answer.status, "503 Service Unavailable")
        self.assertIn(b"took too long", answer.body)
        self.assertEqual(Answer(gate, environ()).body, b"done")

    def test_an_answer_that_has_begun_is_stopped_too(self):
        def application(asked, start):
            start("200 OK", [])
            while True:
                pass

        answer = Answer(Work(application, deadlines=self.deadlines()), environ())
        self.assertEqual(answer.status, "503 Service Unavailable")

    def test_work_that_swallows_the_error_is_told_again(self):
        told = []

        def application(asked, start):
            while len(told) < 3:
                try:
                    while True:
                        pass
                except DeadlineError:
                    told.append(1)
            start("200 OK", [])
            return [b"after all"]

        self.assertEqual(
            Answer(Work(application, deadlines=self.deadlines()), environ()).body, b"after all"
        )

    def test_what_is_done_in_time_hears_nothing_later(self):
        deadlines = self.deadlines()
        with deadlines.watched():
            pass
        until = time.monotonic() + 1
        while time.monotonic() < until:
            pass
        self.assertFalse(self.ended.is_set())

    def test_a_process_that_cannot_be_told_is_ended(self):
        deadlines = self.deadlines(last=0.3)
        with self.assertRaises(DeadlineError), deadlines.watched():
            self.assertTrue(self.ended.wait(20))  # no step of Python until it is ended
            while True:
                pass


class HealthTests(SimpleTestCase):
    def health(self, ask):
        def inner(asked, start):
            start("302 Found", [])
            return [b"the application"]

        return Health(inner, Database(ask))

    def test_a_balancer_is_answered_before_host_and_protocol_are_looked_at(self):
        health = self.health(lambda: None)
        self.assertEqual(Answer(health, environ("/alive")).body, b"alive\n")
        ready = Answer(health, environ("/ready"))
        self.assertEqual((ready.status, ready.body), ("200 OK", b"ready\n"))
        self.assertEqual(Answer(health, environ("/ready", "HEAD")).body, b"")
        for path, method in (("/ready", "POST"), ("/ready/", "GET"), ("/", "GET")):
            self.assertEqual(Answer(health, environ(path, method)).status, "302 Found")

    def test_a_database_that_refuses_is_not_ready(self):
        def refuses():
            raise ConnectionRefusedError

        answer = Answer(self.health(refuses), environ("/ready"))
        self.assertEqual(
            (answer.status, answer.body), ("503 Service Unavailable", b"no database\n")
        )

    def test_a_database_that_hangs_is_not_ready_and_is_asked_by_one_thread(self):
        free, asked = threading.Event(), []

        def hangs():
            asked.append(1)
            free.wait(20)

        database = Database(hangs)
        self.assertFalse(database.answers(0.05))
        self.assertFalse(database.answers(0.05))
        self.assertEqual(len(asked), 1)
        free.set()
        self.assertTrue(database.answers(20))

    def test_health_waits_for_no_work(self):
        free, working = threading.Event(), threading.Semaphore(0)

        def waits(asked, start):
            working.release()
            free.wait(30)
            start("200 OK", [])
            return [b""]

        health = Health(Work(waits, at_once=1), Database(lambda: None))
        threads = [threading.Thread(target=Answer, args=(health, environ())) for _ in range(4)]
        for thread in threads:
            thread.start()
        self.assertTrue(working.acquire(timeout=20))
        try:
            self.assertEqual(Answer(health, environ("/alive")).body, b"alive\n")
        finally:
            free.set()
            for thread in threads:
                thread.join(30)


class RealDatabaseTests(TransactionTestCase):
    def test_the_database_of_the_tests_answers(self):
        self.assertTrue(Database().answers(20))
        self.assertEqual(self.client.get("/ready").status_code, 200)


class MemoryTests(SimpleTestCase):
    def test_memory_is_given_back_where_much_is_held(self):
        before, memory._held[0] = memory._held[0], 0.0
        try:
            self.assertTrue(memory.give_back())
            self.assertFalse(memory.give_back(), "not again until it has grown")
        finally:
            memory._held[0] = before
