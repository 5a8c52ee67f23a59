"""Two people in one project: what goes together is kept, what does not is shown to both."""

from dataclasses import replace

from django.contrib.auth import get_user_model
from django.test import TestCase
from django.urls import reverse

from prism.changes import axes, structure
from prism.changes import values as edit
from prism.model.document import Mode, Pairing, Ramp, Scene, TellingApart
from prism.model.values import BASE, Condition, Expression
from prism.model.whole import flaws
from studio.store import projects as store
from studio.store.models import Membership
from tests.builders import axis, document, token

ROOMS = ("palette", "tokens", "stage", "checks", "exchange", "axes", "naming", "measures", "roles",
         "balance", "vision", "findings", "explore", "report")  # fmt: skip
LOOK = axis("look", "light", "night", "dim")
DIM = Condition.of({"look": "dim"})


def value(built, key, text, condition=BASE):
    return edit.set_value(built, key, condition, Expression(text))


def bind(slot, token):
    """An edit that binds a slot of the first scene."""

    def edit(document):
        scene, *rest = document.scenes
        bindings = dict(scene.bindings) | {slot: token}
        return replace(document, scenes=(replace(scene, bindings=tuple(bindings.items())), *rest))

    return edit


class TwoPeopleCase(TestCase):
    def setUp(self):
        store.forget_all()
        people = get_user_model().objects
        self.ana, self.bo = people.create_user("ana"), people.create_user("bo")
        built = document(
            token("ink.1", "#111111", tier="raw"),
            token("ink.2", "#222222", tier="raw"),
            token("text", "{ink.1}", ({"look": "night"}, "#eeeeee")),
            token("page", "#ffffff"),
            axes=(LOOK,),
            ramps=(Ramp("ramp", "ink", ("ink.1", "ink.2")),),
            scenes=(Scene("board", "Board", bindings=(("page", "page"),)),),
        )
        self.project = store.create(self.ana, built)
        Membership.objects.create(project=self.project, user=self.bo, role="editor")

    def page(self):
        """What somebody sees who opens the project now."""
        self.project.refresh_from_db()
        return store.load(self.project)

    def write(self, who, page, change):
        """Store ``change(document)`` from a page that may be old."""
        store.record(self.project, page, change(page.document), who, "Changed")
        return self.page()

    def clash(self, who, page, change, sentence, other=None, yours="", others=""):
        """Somebody's change is refused, with both sides and the other's name, and nothing stored."""
        before = self.page()
        with self.assertRaisesMessage(store.ClashError, sentence) as caught:
            self.write(who, page, change)
        self.told(
            caught.exception, other or (self.bo if who is self.ana else self.ana), yours, others
        )
        self.assertEqual(self.page().document, before.document)

    def clash_of(self, swing, who, sentence, other, yours="", others=""):
        before = self.page()
        with self.assertRaisesMessage(store.ClashError, sentence) as caught:
            swing(self.project, who)
        self.told(caught.exception, other, yours, others)
        self.assertEqual(self.page().document, before.document)

    def told(self, error, other, yours, others):
        self.assertIn(f"You: {yours}", str(error))
        self.assertIn(f"{other.username}: {others}", str(error))

    def tearDown(self):
        """Whatever happened, the stored document is whole and every room opens."""
        store.forget_all()
        self.project.refresh_from_db()
        self.assertEqual(flaws(store.load(self.project).document), [])
        self.client.force_login(self.ana)
        for name in ROOMS:
            response = self.client.get(reverse(f"{name}:room", args=[self.project.code]))
            self.assertEqual(response.status_code, 200, name)
        for name in ("css", "design-tokens"):
            response = self.client.get(reverse("exchange:export", args=[self.project.code, name]))
            self.assertEqual(response.status_code, 200, name)


class ModeTests(TwoPeopleCase):
    def add_mode(self, built):
        return axes.add_mode(built, "look", Mode("kiosk", "kiosk"))

    def test_a_value_in_a_mode_whose_addition_is_undone(self):
        self.write(self.ana, self.page(), self.add_mode)
        kiosk = Condition.of({"look": "kiosk"})
        self.write(self.bo, self.page(), lambda d: value(d, "text", "#000000", kiosk))
        self.clash_of(
            store.undo, self.ana, "has a value in a mode that is gone", self.bo,
            "mode kiosk removed", "text: look kiosk now #000000",
        )  # fmt: skip

    def test_a_default_that_is_removed_and_whose_change_is_undone(self):
        self.write(self.ana, self.page(), lambda d: axes.change_default(d, "look", "night"))
        self.write(self.bo, self.page(), lambda d: axes.remove_mode(d, "look", "light"))
        self.clash_of(store.undo, self.ana, "The default mode of look is gone", self.bo)

    def test_a_mode_made_the_default_and_removed_in_either_order(self):
        make = lambda d: axes.change_default(d, "look", "dim")  # noqa: E731
        remove = lambda d: axes.remove_mode(d, "look", "dim")  # noqa: E731
        for first, second in ((make, remove), (remove, make)):
            with self.subTest(first):
                old = self.page()
                self.write(self.ana, old, first)
                self.clash(self.bo, old, second, "The default mode of look is gone")
                store.undo(self.project, self.ana)

    def test_two_people_remove_different_modes(self):
        old = self.page()
        self.write(self.ana, old, lambda d: axes.remove_mode(d, "look", "night"))
        now = self.write(self.bo, old, lambda d: axes.remove_mode(d, "look", "dim"))
        self.assertEqual([mode.key for mode in now.document.axes[0].modes], ["light"])

    def test_two_people_remove_the_default_and_the_next_one(self):
        old = self.page()
        self.write(self.ana, old, lambda d: axes.remove_mode(d, "look", "light", "night"))
        self.clash(
            self.bo, old, lambda d: axes.remove_mode(d, "look", "night"),
            "The default mode of look is gone",
        )  # fmt: skip

    def test_two_people_remove_all_modes_together(self):
        page = self.page()
        self.write(self.ana, page, lambda d: axes.remove_mode(d, "look", "dim"))
        old = self.page()
        self.write(self.ana, old, lambda d: axes.remove_mode(d, "look", "night"))
        self.clash(self.bo, old, lambda d: axes.remove_mode(d, "look", "light", "night"), "look")

    def test_a_value_added_in_a_mode_that_an_older_page_removes(self):
        old = self.page()
        self.write(self.bo, old, lambda d: value(d, "page", "#333333", DIM))
        self.clash(
            self.ana, old, lambda d: axes.remove_mode(d, "look", "dim"),
            "page has a value in a mode that is gone", self.bo,
            "mode dim removed", "page: look dim now #333333",
        )  # fmt: skip

    def test_a_value_added_on_an_axis_that_an_older_page_removes(self):
        old = self.page()
        self.write(self.bo, old, lambda d: value(d, "page", "#333333", DIM))
        self.clash(
            self.ana, old, lambda d: axes.remove_axis(d, "look", "light"),
            "page has a value in a mode that is gone",
        )  # fmt: skip

    def test_two_axes_of_one_name(self):
        old = self.page()
        self.write(self.ana, old, lambda d: axes.add_axis(d, axis("brand", "rail")))
        other = replace(axis("brand", "sea"), key="other")
        self.clash(self.bo, old, lambda d: axes.add_axis(d, other), "Two axes are called brand.")


class TokenTests(TwoPeopleCase):
    def test_a_reference_to_a_token_that_an_older_page_deletes(self):
        old = self.page()
        self.write(self.bo, old, lambda d: value(d, "text", "{ink.2}"))
        self.clash(
            self.ana, old, lambda d: structure.remove_tokens(d, ["ink.2"]),
            "text would refer to {ink.2}, which is gone.", self.bo,
            others="text: every mode {ink.1} → {ink.2}",
        )  # fmt: skip

    def test_a_reference_to_a_token_whose_creation_is_undone(self):
        fresh = token("line", "#444444")
        self.write(self.ana, self.page(), lambda d: structure.add_tokens(d, [fresh]))
        self.write(self.bo, self.page(), lambda d: value(d, "text", "{line}"))
        self.clash_of(store.undo, self.ana, "text would refer to {line}", self.bo)

    def test_references_follow_a_rename_that_is_undone(self):
        self.write(self.ana, self.page(), lambda d: structure.rename_token(d, "page", "ground"))
        self.write(self.bo, self.page(), lambda d: value(d, "text", "{ground}"))
        store.undo(self.project, self.ana)
        built = self.page().document
        self.assertEqual(built.token("page").path, "page")
        self.assertEqual(built.token("text").value(), Expression("{page}"))

    def test_two_renames_to_one_path(self):
        old = self.page()
        self.write(self.ana, old, lambda d: structure.rename_token(d, "page", "ground"))
        self.clash(
            self.bo, old, lambda d: structure.rename_token(d, "text", "ground"),
            "Two tokens are called ground.", self.ana,
            "token text: path text → ground", "token page: path page → ground",
        )  # fmt: skip

    def test_an_addition_beside_a_rename(self):
        old = self.page()
        self.write(self.ana, old, lambda d: structure.rename_token(d, "page", "ground"))
        fresh = token("ground", "#444444", key="fresh")
        self.clash(
            self.bo,
            old,
            lambda d: structure.add_tokens(d, [fresh]),
            "Two tokens are called ground.",
        )

    def test_a_token_beside_a_group_of_its_name(self):
        old = self.page()
        self.write(self.ana, old, lambda d: structure.rename_token(d, "page", "low.page"))
        text = token("low.page.deep", "#444444")
        self.clash(
            self.bo,
            old,
            lambda d: structure.add_tokens(d, [text]),
            "low.page is a token and a group.",
        )

    def test_a_deletion_undone_after_its_path_was_taken(self):
        self.write(self.ana, self.page(), lambda d: structure.remove_tokens(d, ["text"]))
        self.write(self.bo, self.page(), lambda d: structure.rename_token(d, "ink.2", "text"))
        self.clash_of(store.undo, self.ana, "Two tokens are called text.", self.bo)

    def test_a_pairing_with_a_token_that_an_older_page_deletes(self):
        old = self.page()
        pairing = Pairing("pair", "text", ("page",))
        self.write(self.bo, old, lambda d: edit.add_pairing(d, pairing))
        self.clash(
            self.ana, old, lambda d: structure.remove_tokens(d, ["text"]),
            "A pairing names a token that is gone.",
        )  # fmt: skip

    def test_a_set_a_ramp_and_a_binding_with_a_token_that_an_older_page_deletes(self):
        def into_set(d):
            return replace(d, telling_apart=(TellingApart("s", "signals", ("text", "page")),))

        def into_ramp(d):
            return replace(d, ramps=(*d.ramps, Ramp("r", "words", ("text",))))

        def bound(d):
            scene = replace(d.scenes[0], bindings=(("page", "page"), ("ink", "text")))
            return replace(d, scenes=(scene,))

        for change in (into_set, into_ramp, bound):
            with self.subTest(change):
                old = self.page()
                self.write(self.bo, old, change)
                remove = lambda d: structure.remove_tokens(d, ["text"])  # noqa: E731
                self.clash(self.ana, old, remove, "names a token that is gone")
                store.undo(self.project, self.bo)

    def test_two_people_bind_different_slots_of_one_scene(self):
        page = self.page()
        self.write(self.bo, page, bind("ink", "text"))
        self.write(self.ana, page, bind("card", "page"))
        scene = self.page().document.scenes[0]
        self.assertEqual(dict(scene.bindings), {"page": "page", "ink": "text", "card": "page"})
        store.undo(self.project, self.bo)
        self.assertEqual(
            dict(self.page().document.scenes[0].bindings), {"page": "page", "card": "page"}
        )

    def test_two_people_bind_one_slot_to_different_tokens(self):
        page = self.page()
        self.write(self.bo, page, bind("page", "text"))
        self.write(self.ana, page, bind("page", "text"))
        self.write(self.bo, self.page(), bind("page", "page"))
        page = self.page()
        self.write(self.bo, page, bind("ink", "text"))
        self.clash(
            self.ana, page, bind("ink", "page"), "Both added the binding ink in Board.",
            yours="ink in Board: bound to page", others="ink in Board: bound to text",
        )  # fmt: skip

    def test_a_slot_is_bound_in_a_scene_that_somebody_removed(self):
        page = self.page()
        self.write(self.bo, page, lambda d: replace(d, scenes=()))
        self.clash(self.ana, page, bind("ink", "text"), "The scene Board was removed")

    def test_a_circle_that_an_undo_would_close(self):
        self.write(self.ana, self.page(), lambda d: value(d, "page", "{text}"))
        self.write(self.ana, self.page(), lambda d: value(d, "page", "#eeeeee"))
        self.write(self.bo, self.page(), lambda d: value(d, "text", "{page}"))
        self.clash_of(store.undo, self.ana, "Circular reference: text → page → text.", self.bo)
