"""Every address against a table of role and method."""

from django.contrib.auth import get_user_model
from django.db import transaction
from django.test import TestCase
from django.urls import URLPattern, URLResolver, get_resolver, reverse

from prism.palette.pictures import read
from studio.store import pictures, tasks
from studio.store import projects as store
from studio.store.models import Membership
from tests.builders import document, small_picture, token

#: Addresses of the application itself.
WITHOUT_PROJECT = (
    "projects:list", "projects:new", "projects:preview", "projects:colors", "projects:scene",
    "projects:paint", "projects:demo",
)  # fmt: skip
ROLES = ("nobody", "stranger", "viewer", "editor", "owner")
#: Who gets past the door: "open" everybody, "signed in", or the least role in the project.
#: A method that is left out is not answered at all (405).
TABLE = {
    "home": {"GET": "signed in"},
    "alive": {"GET": "open"},
    "ready": {"GET": "open"},
    "open": {"GET": "viewer"},
    "accounts:sign-in": {"GET": "open", "POST": "open"},
    "accounts:sign-out": {"POST": "open"},
    "accounts:join": {"GET": "open", "POST": "open"},
    "accounts:password": {"GET": "signed in", "POST": "signed in"},
    "projects:list": {"GET": "signed in"},
    "projects:new": {"GET": "signed in", "POST": "signed in"},
    "projects:preview": {"GET": "signed in"},
    "projects:colors": {"POST": "signed in"},
    "projects:scene": {"GET": "signed in"},
    "projects:paint": {"GET": "signed in"},
    "projects:demo": {"POST": "signed in"},
    "projects:settings": {"GET": "viewer", "POST": "owner"},
    "projects:invite": {"POST": "owner"},
    "projects:remove-member": {"POST": "owner"},
    "projects:copy": {"POST": "viewer"},
    "projects:delete": {"POST": "owner"},
    "projects:restore": {"POST": "owner"},
    "projects:pulse": {"GET": "viewer"},
    "projects:undo": {"POST": "editor"},
    "projects:redo": {"POST": "editor"},
    "palette:room": {"GET": "viewer"},
    "palette:store-ramp": {"POST": "editor"},
    "palette:preview": {"GET": "viewer"},
    "palette:store-color": {"POST": "editor"},
    "palette:store-point": {"POST": "editor"},
    "palette:numbers": {"GET": "viewer"},
    "palette:swatches": {"GET": "viewer"},
    "palette:impact": {"GET": "viewer"},
    "palette:command": {"POST": "editor"},
    "measures:room": {"GET": "viewer"},
    "measures:copy": {"GET": "viewer"},
    "measures:scale": {"POST": "editor"},
    "importing:room": {"GET": "editor"},
    "importing:preview": {"POST": "editor"},
    "importing:store": {"POST": "editor"},
    "importing:picture": {"GET": "editor"},
    "importing:read-picture": {"POST": "editor"},
    "importing:assign": {"POST": "editor"},
    "importing:image": {"GET": "editor"},
    "ideas:room": {"GET": "viewer"},
    "ideas:take": {"POST": "editor"},
    "ideas:pane": {"GET": "viewer"},
    "ideas:paint": {"GET": "viewer"},
    "tokens:room": {"GET": "viewer"},
    "tokens:store": {"POST": "editor"},
    "tokens:complete": {"GET": "viewer"},
    "tokens:rows": {"GET": "viewer"},
    "tokens:impact": {"GET": "viewer"},
    "tokens:shelf": {"GET": "viewer"},
    "tokens:describe": {"POST": "editor"},
    "tokens:preview-description": {"POST": "editor"},
    "tokens:add": {"POST": "editor"},
    "tokens:add-pasted": {"POST": "editor"},
    "tokens:command": {"POST": "editor"},
    "mapping:bulk": {"POST": "editor"},
    "mapping:preview": {"POST": "editor"},
    "mapping:paste": {"POST": "editor"},
    "mapping:ladder": {"GET": "viewer"},
    "mapping:move-mark": {"POST": "editor"},
    "mapping:link": {"GET": "viewer"},
    "mapping:store-tier": {"POST": "editor"},
    "mapping:store-links": {"POST": "editor"},
    "naming:room": {"GET": "viewer"},
    "naming:store": {"POST": "editor"},
    "naming:add": {"POST": "editor"},
    "balance:room": {"GET": "viewer"},
    "balance:command": {"POST": "editor"},
    "balance:preview": {"GET": "viewer"},
    "axes:room": {"GET": "viewer"},
    "axes:command": {"POST": "editor"},
    "axes:add-mode": {"POST": "editor"},
    "axes:add-brand": {"POST": "editor"},
    "axes:preview-brand": {"GET": "viewer"},
    "axes:propose": {"GET": "viewer"},
    "axes:take": {"POST": "editor"},
    "axes:proposed-scene": {"GET": "viewer"},
    "axes:proposed-paint": {"GET": "viewer"},
    "roles:room": {"GET": "viewer"},
    "roles:answer": {"POST": "editor"},
    "roles:command": {"POST": "editor"},
    "roles:keep": {"POST": "viewer"},
    "stage:room": {"GET": "viewer"},
    "stage:pane": {"GET": "viewer"},
    "stage:paint": {"GET": "viewer"},
    "stage:zone": {"GET": "viewer"},
    "stage:move": {"GET": "viewer"},
    "stage:value": {"POST": "editor"},
    "stage:pairs": {"GET": "viewer"},
    "stage:command": {"POST": "editor"},
    "checks:room": {"GET": "viewer"},
    "checks:add-pairing": {"POST": "editor"},
    "checks:command": {"POST": "editor"},
    "checks:fixes": {"GET": "viewer"},
    "checks:fix-all": {"GET": "viewer"},
    "checks:take-fixes": {"POST": "editor"},
    "vision:room": {"GET": "viewer"},
    "vision:command": {"POST": "editor"},
    "findings:room": {"GET": "viewer"},
    "findings:command": {"POST": "editor"},
    "explore:room": {"GET": "viewer"},
    "report:room": {"GET": "viewer"},
    "report:file": {"GET": "viewer", "POST": "viewer"},
    "exchange:room": {"GET": "viewer"},
    "exchange:import": {"POST": "viewer"},
    "exchange:take-import": {"POST": "editor"},
    "exchange:export": {"GET": "viewer", "POST": "viewer"},
    "work:state": {"GET": "viewer"},
    "work:stop": {"POST": "editor"},
    "work:file": {"GET": "viewer"},
}


def every_name(patterns=None, spaces=()):
    """The full names of all addresses."""
    for one in get_resolver().url_patterns if patterns is None else patterns:
        if isinstance(one, URLResolver):
            inner = (*spaces, one.namespace) if one.namespace else spaces
            yield from every_name(one.url_patterns, inner)
        elif isinstance(one, URLPattern):
            yield ":".join((*spaces, one.name or "?"))


class AccessTests(TestCase):
    @classmethod
    def setUpTestData(cls):
        people = get_user_model().objects
        cls.people = {role: people.create_user(role) for role in ROLES[1:]}
        built = document(token("a", "#111111"), token("b", "#ffffff"))
        cls.project = store.create(cls.people["owner"], built)
        cls.picture = pictures.keep(
            cls.project, None, "small.png", read(small_picture(), "small.png")
        )
        cls.task, _ = tasks.ask(cls.project, "export", 1, {}, cls.people["owner"])
        tasks.end(cls.task, "done", result=tasks.Result(data=b"x", name="x", content_type="x/y"))
        for role in ("viewer", "editor"):
            Membership.objects.create(project=cls.project, user=cls.people[role], role=role)

    def setUp(self):
        store.forget_all()

    def address(self, name):
        extra = {"projects:remove-member": [999]}
        extra["exchange:export"] = ["csv"]
        extra["report:file"] = ["json"]
        extra |= {f"work:{name}": [self.task.code] for name in ("state", "stop", "file")}
        extra["importing:image"] = [self.picture]
        if name in ("home", "alive", "ready") or name.startswith("accounts:"):
            return reverse(name)
        if name in WITHOUT_PROJECT:
            return reverse(name)
        return reverse(name, args=[self.project.code, *extra.get(name, [])])

    def ask(self, name, method, role):
        self.client.logout()
        if role != "nobody":
            self.client.force_login(self.people[role])
        point = transaction.savepoint()
        if name == "projects:restore":
            store.delete(self.project)
        try:
            return self.client.generic(method, self.address(name))
        finally:
            transaction.savepoint_rollback(point)
            store.forget_all()

    def expected(self, needed, role):
        if needed == "open":
            return "in"
        if role == "nobody":
            return "sign in"
        if needed == "signed in":
            return "in"
        if role == "stranger":
            return "no such page"
        return "in" if ROLES.index(role) >= ROLES.index(needed) else "forbidden"

    def found(self, response):
        if response.status_code == 302 and response["Location"].startswith(
            "/account/sign-in?next="
        ):
            return "sign in"
        return {403: "forbidden", 404: "no such page", 405: "no such method"}.get(
            response.status_code, "in"
        )

    def test_the_table_names_every_address(self):
        self.assertEqual(sorted(set(every_name())), sorted(TABLE))

    def test_every_address_lets_in_whom_the_table_says(self):
        for name, methods in TABLE.items():
            for method, needed in methods.items():
                for role in ROLES:
                    if name == "accounts:sign-out" and role == "nobody":
                        continue
                    with self.subTest(name=name, method=method, role=role):
                        response = self.ask(name, method, role)
                        self.assertEqual(self.found(response), self.expected(needed, role))
                        self.assertLess(response.status_code, 500)

    def test_a_method_that_the_table_leaves_out_is_not_answered(self):
        for name, methods in TABLE.items():
            for method in {"GET", "POST", "PUT", "DELETE"} - set(methods):
                if name == "accounts:sign-in":
                    continue  # one who is signed in is sent on, whatever the method
                with self.subTest(name=name, method=method):
                    status = self.ask(name, method, "owner").status_code
                    self.assertIn(status, (403, 405))

    def test_a_view_that_declares_nothing_is_refused(self):
        from django.http import Http404

        from studio.accounts.permissions import refuse_unknown

        with self.assertRaises(Http404):
            refuse_unknown(lambda request: None)

    def test_a_viewer_may_not_replace_the_tokens_of_a_project(self):
        from django.core.files.uploadedfile import SimpleUploadedFile

        self.client.force_login(self.people["viewer"])
        file = SimpleUploadedFile("a.json", b'{"x": {"$type": "color", "$value": "#000"}}')
        response = self.client.post(
            reverse("exchange:import", args=[self.project.code]),
            {"files": file, "into": "here", "revision": 1},
        )
        self.assertEqual(response.status_code, 403)
        self.assertContains(response, "this takes an editor or an owner", status_code=403)
        self.project.refresh_from_db()
        self.assertEqual(self.project.revision, 1)

    def test_a_stranger_learns_nothing_from_any_answer(self):
        for name, methods in TABLE.items():
            for method, needed in methods.items():
                if needed in ("open", "signed in"):
                    continue
                body = self.ask(name, method, "stranger").content.decode()
                self.assertNotIn(self.project.name, body, name)

    def test_a_deleted_project_answers_nobody(self):
        store.delete(self.project)
        self.client.force_login(self.people["owner"])
        self.assertEqual(self.client.get(self.address("tokens:room")).status_code, 404)
        self.assertContains(self.client.get(reverse("projects:list")), "Restore")


class DemoVisitorTests(TestCase):
    def visit(self, **meta):
        from django.contrib.auth.models import AnonymousUser
        from django.test import RequestFactory

        from studio.accounts.demo import DemoVisitorMiddleware

        request = RequestFactory().get("/", **meta)
        request.user = AnonymousUser()
        get_user_model().objects.get_or_create(username="demo-designer")
        DemoVisitorMiddleware(lambda request: None)(request)
        return request.user.is_authenticated

    def test_only_a_visitor_on_this_machine_is_signed_in(self):
        own = {"REMOTE_ADDR": "127.0.0.1", "HTTP_HOST": "127.0.0.1:8400"}
        self.assertTrue(self.visit(**own))
        self.assertTrue(self.visit(**own | {"REMOTE_ADDR": "::1", "HTTP_HOST": "[::1]:8400"}))
        self.assertFalse(self.visit(**own | {"REMOTE_ADDR": "192.0.2.7"}))
        self.assertFalse(self.visit(**own | {"REMOTE_ADDR": ""}))
        self.assertFalse(self.visit(**own | {"HTTP_HOST": "prism.example"}))
        self.assertFalse(self.visit(**own | {"HTTP_HOST": "testserver"}))
        for proxy in ("X_FORWARDED_FOR", "X_FORWARDED_PROTO", "FORWARDED", "VIA", "X_REAL_IP"):
            self.assertFalse(self.visit(**own, **{f"HTTP_{proxy}": "192.0.2.7"}), proxy)

    def test_it_is_installed_in_the_demo_alone(self):
        from django.conf import settings

        self.assertFalse(settings.DEMO)
        self.assertNotIn("studio.accounts.demo.DemoVisitorMiddleware", settings.MIDDLEWARE)
