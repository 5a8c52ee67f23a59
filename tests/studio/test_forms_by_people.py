"""Two and three people fill in any form of any page, from new and old pages, over HTTP: a state machine.

A person opens a page, fills in one of the forms it shows with what fits or does not, and sends it at once, or keeps it
as a draft and sends it when others have written; sends it again, as after a lost answer; undoes and redoes;
and long tasks are asked for, stopped and done in between.
"""

import os
import random
import re
import uuid
from collections import Counter
from unittest import mock

from django.contrib.auth import get_user_model
from django.test import Client, TransactionTestCase

from bench.forms import TYPED, forms
from prism.formats import css, resolver, resolver_writer
from prism.model.document import shown_path
from prism.model.whole import flaws
from studio import solving
from studio.rooms.exchange import views as exchange
from studio.store import projects as store
from studio.store.models import LongTask, Membership
from studio.work.tasks import perform
from tests.builders import counter_keys
from tests.edits import start

PAGES = (
    "p/{code}/palette/", "p/{code}/palette/?ramp=ramp", "p/{code}/palette/?ramp=ramp&view=steps", "p/{code}/palette/?view=new",
    "p/{code}/palette/?swatch={token}", "p/{code}/palette/?view=purposes", "p/{code}/palette/?view=coverage", "p/{code}/palette/measures/",
    "p/{code}/palette/import/", "p/{code}/tokens/", "p/{code}/tokens/?cell={token}:{mode}", "p/{code}/tokens/?cell={token}:{mode}&view=page",
    "p/{code}/tokens/?add=raw:", "p/{code}/tokens/?menu=semantic:use", "p/{code}/tokens/axes/", "p/{code}/tokens/names/",
    "p/{code}/tokens/roles/", "p/{code}/tokens/map/link", "p/{code}/stage/", "p/{code}/stage/?dock=slots", "p/{code}/stage/?dock=zones",
    "p/{code}/stage/?dock=texts", "p/{code}/checks/", "p/{code}/checks/?pairing=pair", "p/{code}/checks/balance/", "p/{code}/checks/vision/",
    "p/{code}/checks/findings/", "p/{code}/checks/fix", "p/{code}/exchange/", "projects/{code}/settings",
)  # fmt: skip
#: What ends the session, takes the project away, or changes who is in it.
NEVER = re.compile(
    r"/undo$|/redo$|sign-out|/delete|/restore|/remove|/invite|/demo$|/copy|dialog|/projects/new"
)
NAMES = (
    "ink.a",
    "card.b",
    "line-strong.c",
    "dim",
    "dusk",
    "kiosk",
    "rail",
    "board",
    "ærø",
    "a" * 70,
    "",
    " ",
)
VALUES = (
    "#246c54",
    "#fff",
    "oklch(60% 0.1 250)",
    "rgb(1 2 3 / 50%)",
    "12px",
    "1.5",
    "red",
    "nonsense",
    "",
)


class Person:
    """Somebody with a browser: the forms of the pages she has opened, and what she has filled in and kept."""

    def __init__(self, name):
        self.user = get_user_model().objects.create_user(name)
        self.client = Client()
        self.client.force_login(self.user)
        self.forms, self.drafts, self.sent = [], [], []


class FormsByPeopleTests(TransactionTestCase):
    def setUp(self):
        store.forget_all()
        self.people = [Person(name) for name in ("ana", "bo", "cleo")]
        self.project = store.create(self.people[0].user, start())
        for person in self.people[1:]:
            Membership.objects.create(project=self.project, user=person.user, role="editor")
        self.outcomes, self.rooms, self.idle = Counter(), Counter(), Counter()
        for module, name, value in ((exchange, "MOST_TOKENS", 3), (solving, "MOST_PAIRINGS", 2)):
            patch = mock.patch.object(module, name, value)
            patch.start()
            self.addCleanup(patch.stop)

    def test_two_people(self):
        del self.people[2]
        self.walk(2)

    def test_three_people(self):
        self.walk(3)

    def walk(self, seed):
        rng = random.Random(f"forms {seed}")
        steps = int(os.environ.get("NIMBLE_PRISM_STEPS", "240")) // 2
        for number in range(steps):
            self.told = f"seed {seed}, step {number}"
            self.step(rng)
            if number % 20 == 19:
                self.check()
            if number % 500 == 499:
                print(self.told, dict(self.outcomes), flush=True)
        if "NIMBLE_PRISM_STEPS" in os.environ:
            print(
                f"{steps} steps:",
                dict(self.outcomes),
                dict(self.rooms),
                dict(self.idle),
                flush=True,
            )
        self.assertGreater(self.outcomes["stored"], 0)

    def step(self, rng):
        person, kind = rng.choice(self.people), rng.random()
        if kind < 0.25 or not person.forms:
            self.open(rng, person)
        elif kind < 0.6:
            self.send(person, self.filled(rng, person))
        elif kind < 0.7:
            person.drafts.append(self.filled(rng, person))
        elif kind < 0.8 and person.drafts:
            self.send(person, person.drafts.pop(rng.randrange(len(person.drafts))))
        elif kind < 0.85 and person.sent:
            self.send_again(person, rng.choice(person.sent))
        elif kind < 0.93:
            name = rng.choice(("undo", "redo"))
            anyway = {"anyway": "1"} if rng.random() < 0.2 else {}
            self.send(person, (f"/projects/{self.project.code}/{name}", anyway, str(uuid.uuid4())))
        else:
            self.tasks(rng, person)

    # What a person does

    def open(self, rng, person):
        """Open a page and look at its forms; those of the page before are left behind half the time."""
        document = store.load(self.fresh()).document
        token = rng.choice(document.tokens).key if document.tokens else ""
        modes = [mode.name for axis in document.axes[:1] for mode in axis.modes]
        mode = rng.choice([*modes, ""])
        address = "/" + rng.choice(PAGES).format(code=self.project.code, token=token, mode=mode)
        page = person.client.get(address, follow=True)
        self.assertEqual(page.status_code, 200, f"{self.told}: {address}")
        if rng.random() < 0.5:
            person.forms.clear()
        self.see(person, address, page)

    def see(self, person, address, page):
        found = forms(address, page.content.decode())
        person.forms += [f for f in found if f.method == "post" and not NEVER.search(f.action)]
        del person.forms[:-60]

    def filled(self, rng, person):
        """A form with something in its fields: address, fields, and a name for the write."""
        by_kind = {}
        for form in person.forms:
            kind = tuple(
                sorted(form.values().items() & {("command", form.values().get("command"))})
            )
            by_kind.setdefault((form.action, kind), []).append(form)
        form = rng.choice(by_kind[rng.choice(sorted(by_kind))])
        fields = {}
        changed = rng.random() < 0.8
        for field in form.fields:
            if field.kind == "file" or (not field.is_checked and rng.random() < 0.6):
                continue
            text = field.value
            if field.kind == "select" and field.options and changed:
                text = rng.choice(field.options)
            elif field.kind in TYPED and changed and rng.random() < 0.7:
                text = self.text(rng, field)
            fields.setdefault(field.name, []).append(text)
        action = form.action
        if form.buttons:
            name, value, other = rng.choice(form.buttons)
            action = other or action
            fields.update({name: [value]} if name else {})
        return action, fields, str(uuid.uuid4())

    def text(self, rng, field):
        """What may be typed into a field: often what fits it."""
        document = store.load(self.fresh()).document
        paths = [shown_path(token.path) for token in document.tokens] or ["gone"]
        if field.offered or field.name in ("foreground", "background", "belongs_to", "page"):
            return rng.choice(paths) if rng.random() < 0.8 else "nothing there"
        if field.kind == "number":
            return rng.choice(("0", "1", "4.5", "7", "-1", "x"))
        if field.name in ("value", "seed", "text", "color"):
            return rng.choice(VALUES) if rng.random() < 0.5 else f"{{{rng.choice(paths)}}}"
        if field.name in ("name", "path", "word", "group"):
            return rng.choice(NAMES)
        return rng.choice((*NAMES, *VALUES, rng.choice(paths)))

    def send(self, person, filled):
        """Send what was filled in: what is acknowledged is stored, and what is refused changed nothing."""
        action, fields, write = filled
        before = self.fresh().revision
        page = person.client.post(action, fields, headers={"x-region": "room", "x-write": write})
        told = f"{self.told}: {action} {fields}"
        self.assertLess(page.status_code, 500, told)
        stored = page.headers.get("X-Stored")
        after = self.fresh().revision
        if page.status_code >= 400:
            self.outcomes["clashed" if page.status_code == 409 else "refused"] += 1
            self.assertEqual(after, before, f"{told}: refused with {page.status_code}, but stored")
        elif stored and fields.get("into") == ["new"]:
            self.outcomes["imported elsewhere"] += 1
            self.assertEqual(after, before, told)
        elif stored:
            self.outcomes["stored"] += 1
            self.rooms["/".join(action.split("/")[3:5])] += 1
            self.assertEqual(int(stored), after, told)
            self.assertTrue(self.was_stored(person, write), told)
            person.sent.append(filled)
            del person.sent[:-10]
        else:
            self.outcomes["nothing to store"] += 1
            self.idle[action.replace(self.project.code, "CODE")] += 1
            self.assertEqual(after, before, told)
        if page.status_code == 200:
            self.see(person, action, page)

    def send_again(self, person, filled):
        """What was stored, and is sent again under its name, is not stored a second time."""
        action, fields, write = filled
        before = self.fresh().revision
        person.client.post(action, fields, headers={"x-region": "room", "x-write": write})
        self.assertEqual(self.fresh().revision, before, f"{self.told}: {action} {fields} twice")
        self.outcomes["sent again"] += 1

    def was_stored(self, person, write):
        address = f"/projects/{self.project.code}/pulse"
        return person.client.get(address, {"write": write}).json()["stored"]

    def tasks(self, rng, person):
        """Ask for something long, stop it, or do what waits."""
        code = self.project.code
        waiting = list(LongTask.objects.filter(project=self.project, state="waiting"))
        kind = rng.random()
        if kind < 0.4 or not waiting:
            self.send(person, (f"/p/{code}/exchange/export/css", {"theme": ""}, str(uuid.uuid4())))
        elif kind < 0.6:
            one = rng.choice(waiting).code
            self.send(person, (f"/p/{code}/tasks/{one}/stop", {}, str(uuid.uuid4())))
        else:
            for task in waiting:
                perform(task.code)
                task.refresh_from_db()
                self.assertIn(task.state, ("done", "failed"), self.told)
                self.outcomes[f"task {task.state}"] += 1
                self.assertNotIn(
                    "our mistake", task.words, f"{self.told}: {task.kind} {task.fields}"
                )

    # What holds after any step

    def fresh(self):
        self.project.refresh_from_db()
        return self.project

    def check(self):
        """What is stored is whole, is what the cache holds, opens in every room, and survives files."""
        cached = store.load(self.fresh()).document
        store.forget_all()
        stored = store.load(self.project).document
        self.assertEqual(stored, cached, self.told)
        self.assertEqual(flaws(stored), [], self.told)
        written = resolver_writer.write(stored).files
        back = resolver.read({n: t.encode() for n, t in written.items()}, counter_keys("f"))
        for part in ("axes", "tokens", "pairings", "ramps", "telling_apart", "scenes", "themes"):
            self.assertEqual(getattr(back, part), getattr(stored, part), f"{self.told}: {part}")
        self.assertTrue(css.write(stored))
