"""The process that works beside the one that listens."""

import os
import signal
import threading
from contextlib import suppress

from django.test import SimpleTestCase

from studio.engine import ByPath, Engine
from studio.gate import WholeRequests
from tests.studio.test_deadlines import Answer, environ


def application(asked, start):
    """What a request asks for: its body and where it is run, an error, or the end of the process."""
    path = asked["PATH_INFO"]
    if path == "/ends":
        os.kill(os.getpid(), signal.SIGKILL)
    if path == "/fails":
        raise ValueError(path)
    if path == "/waits":
        asked["wsgi.input"].read()
        threading.Event().wait(30)
    start("200 OK", [("X-Process", str(os.getpid()))])
    return [asked["REQUEST_METHOD"].encode(), asked["wsgi.input"].read()]


class EngineTests(SimpleTestCase):
    def engine(self, **options):
        self.gone = threading.Event()
        engine = Engine(application, ended=self.gone.set, **options)
        engine.start()
        self.addCleanup(self.end, engine)
        return engine

    def end(self, engine):
        if not self.gone.is_set():
            with suppress(ProcessLookupError):
                os.kill(engine.pid, signal.SIGKILL)
            self.gone.wait(20)

    def test_work_is_done_in_a_process_of_its_own(self):
        engine = self.engine()
        answer = Answer(WholeRequests(engine), environ("/", "POST", b"x" * 300_000))
        self.assertEqual(answer.body, b"POST" + b"x" * 300_000)
        self.assertEqual(answer.headers["X-Process"], str(engine.pid))
        self.assertNotEqual(engine.pid, os.getpid())

    def test_until_it_is_started_work_is_done_here(self):
        answer = Answer(Engine(application), environ())
        self.assertEqual(answer.headers["X-Process"], str(os.getpid()))

    def test_an_error_is_an_answer(self):
        engine = self.engine()
        with self.assertNoLogs("studio.other"):
            answer = Answer(engine, environ("/fails"))
        self.assertEqual(answer.status, "500 Internal Server Error")
        self.assertEqual(Answer(engine, environ()).status, "200 OK")

    def test_where_its_process_is_gone_the_one_that_listens_ends_too(self):
        engine = self.engine()
        answer = Answer(engine, environ("/ends"))
        self.assertEqual(answer.status, "503 Service Unavailable")
        self.assertIn(b"ended while it worked", answer.body)
        self.assertTrue(self.gone.wait(20))
        self.assertEqual(Answer(engine, environ()).status, "503 Service Unavailable")

    def test_what_is_light_waits_for_no_work(self):
        engine = self.engine(at_once=1)
        both = ByPath(application, engine)
        waiting = threading.Thread(target=Answer, args=(both, environ("/waits")), daemon=True)
        waiting.start()
        for path in ("/static/ui/app.css", "/account/sign-in"):
            answer = Answer(both, environ(path))
            self.assertEqual(answer.headers["X-Process"], str(os.getpid()))
        self.assertTrue(waiting.is_alive())
        os.kill(engine.pid, signal.SIGKILL)
        waiting.join(20)
        self.assertFalse(waiting.is_alive())
