"""Roles in the Tokens room: shown with their reason, said by a person, found where they are not sure."""

from tests.builders import document, token
from tests.studio.cases import RoomCase


class RoleTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(
            document(
                token("page", "#ffffff"),
                token("text.main", "#222222"),
                token("fig", "#123456"),
                axes=(),
            )
        )

    def page(self, key):
        return self.client.get(self.url("tokens:room"), {"cell": f"{key}:", "view": "page"})

    def describe(self, role, revision):
        data = {"token": "fig", "path": "fig", "role": role, "revision": revision}
        return self.client.post(self.url("tokens:describe"), data, follow=True)

    def test_a_guess_is_shown_with_its_reason(self):
        self.assertContains(self.page("text.main"), "guessed: <strong>text</strong>")
        self.assertContains(self.page("text.main"), "sure, its name says text")
        self.assertContains(self.page("fig"), "unknown:\n      its name says nothing")

    def test_a_person_says_it_and_takes_it_back(self):
        self.describe("surface", 1)
        self.assertEqual(self.stored().token("fig").role, "surface")
        self.assertContains(self.page("fig"), "said here")
        self.assertContains(
            self.client.get(self.url("checks:room")), "Texts on the page and on its surfaces"
        )
        refused = self.describe("fish", 2)
        self.assertContains(refused, "“fish” is not a role.", status_code=422)
        self.describe("", 2)
        self.assertEqual(self.stored().token("fig").role, "")

    def test_what_is_not_sure_is_found_and_set_for_many(self):
        found = self.client.get(self.url("tokens:room"), {"state": "unsure"})
        self.assertContains(found, "fig")
        self.assertNotContains(found, 'title="text.main')
        self.client.post(
            self.url("mapping:bulk"),
            {
                "command": "mark-tokens?text-is=role",
                "pick": ["fig"],
                "text": "line soft",
                "revision": 1,
            },
        )
        self.assertEqual(self.stored().token("fig").role, "line soft")
