"""The doors: signing in, limits, sessions, forms that are refused, errors and what they say."""

import io
import re
import threading
from unittest import mock

from django.contrib.auth import get_user_model
from django.contrib.sessions.models import Session
from django.core.management import call_command
from django.db import OperationalError
from django.test import (
    Client,
    SimpleTestCase,
    TestCase,
    TransactionTestCase,
    override_settings,
)
from django.urls import reverse
from django.utils import timezone

from studio.accounts import limits
from studio.accounts.models import Try
from studio.gate import MAX_BODY, WholeRequests, Work
from studio.store import projects as store
from studio.store.models import JournalEntry
from tests.builders import document, token
from tests.studio.cases import RoomCase

PASSWORD = "a long made-up word"


class SignInTests(TestCase):
    def setUp(self):
        self.user = get_user_model().objects.create_user("maren", password=PASSWORD)

    def sign_in(self, password="wrong", name="maren", address="192.0.2.1"):
        said = {"username": name, "password": password}
        return self.client.post(reverse("accounts:sign-in"), said, REMOTE_ADDR=address)

    def test_too_many_tries_are_not_even_looked_at(self):
        for _ in range(10):
            self.assertContains(self.sign_in(), "No account has this name and password.")
        with mock.patch("django.contrib.auth.hashers.check_password") as looked:
            self.assertContains(self.sign_in(PASSWORD), "too many attempts", status_code=429)
            looked.assert_not_called()
        elsewhere = self.sign_in(PASSWORD, address="192.0.2.2")
        self.assertEqual(elsewhere.status_code, 302)

    def test_an_address_that_tries_many_names_is_refused(self):
        for number in range(limits.LIMITS["sign-in"]["address"]):
            self.sign_in(name=f"name {number}")
        self.assertEqual(self.sign_in(name="another").status_code, 429)

    def test_tries_are_forgotten_after_success_and_after_a_while(self):
        for _ in range(9):
            self.sign_in()
        self.assertEqual(self.sign_in(PASSWORD).status_code, 302)
        self.client.logout()
        for _ in range(9):
            self.assertEqual(self.sign_in().status_code, 200)
        Try.objects.update(at=timezone.now() - limits.WINDOW)
        self.assertGreater(limits.purge(), 0)
        self.assertEqual(Try.objects.count(), 0)
        self.assertEqual(self.sign_in().status_code, 200)

    def test_ten_accounts_behind_one_router_are_a_normal_office(self):
        for number in range(10):
            for word in ("short", PASSWORD + "?", PASSWORD):
                said = {"username": f"person-{number}", "password1": word, "password2": PASSWORD}
                answer = self.client.post(reverse("accounts:join"), said)
                self.assertNotEqual(answer.status_code, 429)
            self.client.logout()
        for _ in range(6):
            for number in range(10):
                self.assertEqual(self.sign_in(name=f"person-{number}").status_code, 200)
                self.assertEqual(self.sign_in(PASSWORD, f"person-{number}").status_code, 302)
                self.client.logout()

    def test_joining_is_limited_by_address(self):
        for number in range(limits.LIMITS["join"]["address"]):
            self.client.post(reverse("accounts:join"), {"username": f"n{number}"})
        answer = self.client.post(reverse("accounts:join"), {"username": "late"})
        self.assertContains(answer, "Wait 15 minutes", status_code=429)

    @override_settings(BEHIND_PROXY=True)
    def test_behind_our_proxy_the_visitor_counts_and_not_the_proxy(self):
        for _ in range(10):
            self.client.post(
                reverse("accounts:sign-in"), {"username": "maren", "password": "wrong"},
                headers={"X-Forwarded-For": "198.51.100.9, 192.0.2.7"},
            )  # fmt: skip
        answer = self.client.post(
            reverse("accounts:sign-in"), {"username": "maren", "password": PASSWORD},
            headers={"X-Forwarded-For": "192.0.2.8"},
        )  # fmt: skip
        self.assertEqual(answer.status_code, 302)

    def test_a_password_is_changed_by_its_owner_and_other_sessions_end(self):
        other = Client()
        other.force_login(self.user)
        self.client.force_login(self.user)
        url = reverse("accounts:password")
        said = {
            "old_password": "wrong",
            "new_password1": "quay lamp 9",
            "new_password2": "quay lamp 9",
        }
        self.assertContains(self.client.post(url, said), "incorrect", status_code=400)
        self.assertEqual(self.client.post(url, said | {"old_password": PASSWORD}).status_code, 302)
        self.assertEqual(self.client.get(url).status_code, 200)
        self.assertEqual(other.get(url).status_code, 302)
        self.user.refresh_from_db()
        self.assertTrue(self.user.check_password("quay lamp 9"))


class SessionTests(TestCase):
    def test_requests_without_a_cookie_leave_no_session(self):
        for path in ("/", "/alive", "/ready", "/account/sign-in", "/p/none/tokens/"):
            self.client.get(path)
        self.assertEqual(Session.objects.count(), 0)

    def test_what_has_ended_is_purged(self):
        user = get_user_model().objects.create_user("maren")
        self.client.force_login(user)
        Session.objects.update(expire_date=timezone.now())
        call_command("purge", stdout=io.StringIO())
        self.assertEqual(Session.objects.count(), 0)


class RefusalTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(document(token("a", "#111111")))

    def test_a_form_without_its_token_gets_a_page_of_ours(self):
        strict = Client(enforce_csrf_checks=True)
        strict.force_login(self.user)
        answer = strict.post(self.url("projects:undo"))
        self.assertContains(answer, "This form is out of date", status_code=403)

    def test_a_region_that_is_asked_for_after_signing_out_is_told(self):
        answer = Client().get(self.url("tokens:room"), headers={"X-Region": "room"})
        self.assertContains(answer, "You are signed out", status_code=401)

    def test_too_many_fields_get_a_page_of_ours(self):
        answer = self.client.post(self.url("projects:undo"), {f"f{i}": "" for i in range(12_001)})
        self.assertContains(answer, "This request could not be read", status_code=400)


class ErrorTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(document(token("a", "#111111")))
        self.client.raise_request_exception = False

    def broken(self, ask, error=None):
        room = mock.patch(
            "studio.rooms.tokens.views.show_sheet", side_effect=error or RuntimeError("drawn")
        )
        with room, self.assertLogs("studio.errors") as logs:
            answer = ask()
        return answer, logs.output

    def test_page_and_log_have_one_number(self):
        answer, logs = self.broken(lambda: self.client.get(self.url("tokens:room")))
        number = re.search(r"Error ([0-9a-f]{8})", answer.content.decode())[1]
        self.assertIn(f"Error {number} at GET", logs[0])
        self.assertContains(answer, "Nothing was changed", status_code=500)

    def test_a_database_that_does_not_answer_is_told_apart(self):
        answer, _ = self.broken(
            lambda: self.client.get(self.url("tokens:room")), OperationalError("gone")
        )
        self.assertContains(answer, "The database does not answer", status_code=503)


class StoredErrorTests(TransactionTestCase):
    def test_what_was_stored_before_an_error_is_said(self):
        store.forget_all()
        user = get_user_model().objects.create_user("maren")
        project = store.create(user, document(token("a", "#111111")))
        self.client.force_login(user)
        self.client.raise_request_exception = False
        said = {"token": "a", "condition": "[]", "value": "#222222", "revision": 1}
        room = mock.patch("studio.rooms.tokens.views.show_sheet", side_effect=RuntimeError("drawn"))
        with room, self.assertLogs("studio.errors"):
            answer = self.client.post(
                reverse("tokens:store", args=[project.code]), said,
                headers={"X-Region": "room", "X-Write": "0a-1b"},
            )  # fmt: skip
        self.assertContains(answer, "Your change was stored as revision 2", status_code=500)
        self.assertEqual(answer["X-Stored"], "2")
        pulse = reverse("projects:pulse", args=[project.code])
        told = self.client.get(pulse, {"write": "0a-1b"}).json()
        self.assertEqual(told, {"revision": 2, "stored": True})
        self.assertFalse(self.client.get(pulse, {"write": "f"}).json()["stored"])
        self.assertEqual(JournalEntry.objects.written_as("").count(), 0)


class GateTests(SimpleTestCase):
    def run_gate(self, body, said, application=None):
        seen = {}

        def kept(environ, start_response):
            seen["body"] = environ["wsgi.input"].read()
            start_response("200 OK", [])
            return [b"done"]

        class Source(io.BytesIO):
            taken = 0

            def read(self, size=-1):
                data = super().read(size)
                Source.taken += len(data)
                return data

        source = Source(body)
        environ = {"CONTENT_LENGTH": said, "wsgi.input": source}
        answer = WholeRequests(application or kept)(environ, lambda *_: None)
        return b"".join(answer), seen.get("body"), Source.taken

    def test_a_body_is_read_whole_and_no_further(self):
        self.assertEqual(self.run_gate(b"abcdef", "4")[:2], (b"done", b"abcd"))
        self.assertEqual(self.run_gate(b"abcdef", "")[:2], (b"done", b""))
        self.assertEqual(self.run_gate(b"abcdef", "²")[:2], (b"done", b""))

    def test_a_body_that_is_too_long_is_never_kept(self):
        _, kept, taken = self.run_gate(b"x" * (MAX_BODY + 9), str(MAX_BODY + 9))
        self.assertEqual((kept, taken), (b"", MAX_BODY + 9))

    def test_slow_senders_hold_no_slot(self):
        waiting, go = threading.Event(), threading.Event()

        class Slow(io.BytesIO):
            def read(self, size=-1):
                waiting.set()
                go.wait(10)
                return b""

        gate = WholeRequests(Work(lambda environ, start: [b"done"], at_once=1))
        slow = threading.Thread(
            target=gate, args=({"CONTENT_LENGTH": "5", "wsgi.input": Slow()}, None)
        )
        slow.start()
        waiting.wait(10)
        try:
            self.assertEqual(gate({"wsgi.input": io.BytesIO()}, None), [b"done"])
        finally:
            go.set()
            slow.join(10)
