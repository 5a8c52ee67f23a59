"""Two people who change the same thing: what goes together is kept, and the rest is theirs to choose."""

from django.contrib.auth import get_user_model
from django.test import Client

from prism.changes.values import set_value
from prism.compare.merge import merge
from prism.model.values import BASE, Expression
from prism.palette.commands import AddRamp
from studio.store import projects as store
from studio.store.models import Membership
from tests.builders import axis, document, token
from tests.studio.cases import RoomCase

RECIPE = {"seed": "#2a6b53"}


class ListTests(RoomCase):
    """Lists of which each side changes a part."""

    def ramp(self):
        return AddRamp("k", "moss", tuple(RECIPE.items())).apply(document(token("a", "#111111")))

    def test_two_steps_of_one_ramp_are_moved_by_two_people(self):
        base = self.ramp()
        first, second = base.ramps[0].steps[2], base.ramps[0].steps[5]
        mine = set_value(base, first, BASE, Expression("#d0e0d0"))
        theirs = set_value(base, second, BASE, Expression("#406040"))
        merged = merge(base, mine, theirs)
        self.assertEqual(merged.clashes, ())
        self.assertEqual(set(merged.document.ramps[0].moved), {first, second})

    def test_what_either_takes_out_is_out_and_what_either_puts_in_is_in(self):
        from prism.compare.diff import Operation
        from prism.compare.merge import _merged_list

        def both(before, mine, theirs):
            return _merged_list(
                "ramp", Operation("set", "ramp", "k", "steps", before, mine), theirs
            )

        self.assertEqual(both(["a", "b", "c"], ["a", "c"], ["a", "b", "c", "d"]), ["a", "c", "d"])
        self.assertEqual(both(["a", "b"], ["a", "x", "b"], ["y", "a", "b"]), ["y", "a", "x", "b"])
        self.assertEqual(both(["a", "b"], ["b", "a"], ["a", "b", "c"]), ["b", "a", "c"])
        self.assertIsNone(both(["a", "b", "c"], ["b", "a", "c"], ["c", "a", "b"]))
        self.assertEqual(both(["a", "b"], ["b", "a"], ["b", "a", "c"]), ["b", "a", "c"])

    def test_mine_stands_where_it_is_preferred(self):
        base = document(token("a", "#111111"), token("b", "#222222"))
        mine = set_value(base, "a", BASE, Expression("#333333"))
        theirs = set_value(base, "a", BASE, Expression("#444444"))
        self.assertEqual(len(merge(base, mine, theirs).clashes), 1)
        preferred = merge(base, mine, theirs, prefer_mine=True)
        self.assertEqual(preferred.clashes, ())
        self.assertEqual(preferred.document.token("a").value().text, "#333333")


class ChoiceTests(RoomCase):
    """What does not go together is shown with both sides, and either can be chosen."""

    def setUp(self):
        super().setUp()
        look = axis("look", "light", "night", "dim")
        self.make(document(token("a", "#111111"), token("b", "{a}", tier="semantic"), axes=(look,)))
        self.other = get_user_model().objects.create_user("tove")
        Membership.objects.create(project=self.project, user=self.other, role="editor")

    def theirs(self, name, /, **fields):
        self.project.refresh_from_db()
        client = Client()
        client.force_login(self.other)
        revision = store.load(self.project).revision
        answer = client.post(self.url(name), {"revision": revision, **fields})
        self.assertEqual(answer.status_code, 302, answer.content)
        self.project.refresh_from_db()

    def test_a_form_that_clashes_offers_both_sides(self):
        old = self.project.revision
        self.theirs("axes:command", command="rename-mode", axis="look", mode="dim", name="dusk")
        answer = self.client.post(
            self.url("axes:command"),
            {
                "command": "rename-mode",
                "axis": "look",
                "mode": "dim",
                "name": "gloom",
                "revision": old,
            },
        )
        self.assertContains(answer, "Both sides changed the same thing", status_code=409)
        self.assertContains(answer, "gloom", status_code=409)
        self.assertContains(answer, "<dt>tove</dt>", status_code=409)
        self.assertContains(answer, 'id="choose-theirs"', status_code=409)
        self.assertEqual(self.stored().axes[0].modes[2].name, "dusk")
        again = answer.context["frame"].clash
        fields = {**dict(again.fields), "revision": again.revision}
        self.assertEqual(self.client.post(again.action, fields).status_code, 302)
        self.assertEqual(self.stored().axes[0].modes[2].name, "gloom")

    def test_who_removed_something_is_named(self):
        old = self.project.revision
        self.theirs("axes:command", command="remove-mode", axis="look", mode="dim")
        answer = self.client.post(
            self.url("axes:command"),
            {
                "command": "rename-mode",
                "axis": "look",
                "mode": "dim",
                "name": "gloom",
                "revision": old,
            },
        )
        self.assertContains(answer, "removed by tove", status_code=409)

    def test_an_undo_that_clashes_can_be_done_anyway(self):
        key = self.stored().tokens[0].key
        condition = "[]"
        self.post("tokens:store", token=key, condition=condition, value="#222222")
        self.theirs("tokens:store", token=key, condition=condition, value="#333333")
        answer = self.client.post(self.url("projects:undo"), follow=True)
        self.assertContains(answer, "This was not undone, as others have changed the same since.")
        self.assertContains(answer, 'id="swing-anyway"')
        self.assertEqual(self.stored().tokens[0].value().text, "#333333")
        answer = self.client.post(self.url("projects:undo"), {"anyway": "1"}, follow=True)
        self.assertContains(answer, "Undone:")
        self.assertEqual(self.stored().tokens[0].value().text, "#111111")
