"""Any edit by three writers, through the store and the rooms."""

import os
import random

from django.contrib.auth import get_user_model
from django.test import TestCase
from django.urls import reverse

from prism.changes import structure
from prism.formats import css, resolver, resolver_writer
from prism.model.values import Expression
from prism.model.whole import flaws
from studio.store import projects as store
from studio.store.models import Membership
from tests.builders import counter_keys
from tests.edits import edited, start
from tests.studio.test_people import ROOMS, TwoPeopleCase, value


def people_steps(case, steps, seed):
    """Steps of three people, every tenth of them checked; returns how many clashed."""
    rng = random.Random(seed)
    clashes = 0
    for number in range(steps):
        clashes += case.step(rng)
        if number % 10 == 9:
            case.check()
    return clashes


class AnyEditTests(TestCase):
    """Three people, any edit, undo and redo from older pages: rooms answer, exports are read back."""

    def setUp(self):
        store.forget_all()
        people = get_user_model().objects
        self.people = [people.create_user(name) for name in ("ana", "bo", "cleo")]
        self.project = store.create(self.people[0], start())
        for person in self.people[1:]:
            Membership.objects.create(project=self.project, user=person, role="editor")
        self.client.force_login(self.people[0])
        self.new_key = counter_keys("n")

    def test_many_steps(self):
        steps = int(os.environ.get("NIMBLE_PRISM_STEPS", "300"))
        self.assertGreater(people_steps(self, steps, 1), 0)

    def step(self, rng):
        """One edit from a page up to five revisions old, or one undo or redo; whether it clashed."""
        who = rng.choice(self.people)
        self.project.refresh_from_db()
        now = self.project.revision
        try:
            if rng.random() < 0.7:
                page = store.at(self.project, max(now - rng.randrange(6), 0))
                after = edited(rng, page.document, self.new_key)
                store.record(self.project, page, after, who, "Changed")
            else:
                rng.choice((store.undo, store.redo))(self.project, who)
        except store.ClashError as error:
            for clash, entry in zip(error.clashes, error.entries, strict=True):
                self.assertTrue(clash.yours)
                self.assertGreater(entry.revision, 0)
            return True
        return False

    def check(self):
        """What is stored is whole, is what the cache holds, opens in every room and survives files."""
        self.project.refresh_from_db()
        cached = store.load(self.project).document
        store.forget_all()
        stored = store.load(self.project).document
        self.assertEqual(stored, cached)
        self.assertEqual(flaws(stored), [])
        for name in ROOMS:
            response = self.client.get(reverse(f"{name}:room", args=[self.project.code]))
            self.assertEqual(response.status_code, 200, name)
        written = resolver_writer.write(stored).files
        back = resolver.read({n: t.encode() for n, t in written.items()}, counter_keys("f"))
        for part in ("axes", "tokens", "pairings", "ramps", "telling_apart", "scenes", "themes"):
            self.assertEqual(getattr(back, part), getattr(stored, part), part)
        self.assertTrue(css.write(stored))


class WriterTests(TwoPeopleCase):
    def test_a_clash_names_who_wrote_the_other_side_and_not_who_wrote_last(self):
        old = self.page()
        cleo = get_user_model().objects.create_user("cleo")
        self.write(self.ana, old, lambda d: value(d, "text", "#010101"))
        self.write(cleo, self.page(), lambda d: value(d, "page", "#fefefe"))
        with self.assertRaises(store.ClashError) as caught:
            self.write(self.bo, old, lambda d: value(d, "text", "#020202"))
        error = caught.exception
        self.assertEqual(error.who(error.clashes[0]), "ana")

    def test_an_undo_goes_back_and_forth_around_what_others_stored(self):
        self.write(self.ana, self.page(), lambda d: value(d, "text", "#010101"))
        self.write(self.bo, self.page(), lambda d: structure.rename_token(d, "text", "words"))
        self.write(self.bo, self.page(), lambda d: value(d, "page", "#020202"))
        start = self.page().document
        store.undo(self.project, self.ana)
        undone = self.page().document
        self.assertEqual(undone.token("text").value(), Expression("{ink.1}"))
        self.assertEqual(undone.token("text").path, "words")
        store.redo(self.project, self.ana)
        self.assertEqual(self.page().document, start)
        store.undo(self.project, self.ana)
        self.assertEqual(self.page().document, undone)
