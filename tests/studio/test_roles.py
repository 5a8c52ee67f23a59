"""Roles in the Tokens room: shown with their reason, said by a person, found where they are not sure."""

from django.contrib.auth import get_user_model

from prism.errors import PrismError
from prism.model.document import Word
from studio.store import own_words
from studio.store.models import Membership
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
        self.assertContains(self.page("text.main"), "<strong>text</strong>, sure,")
        self.assertContains(self.page("text.main"), "its name says text")
        self.assertContains(self.page("fig"), "The role is unknown: its name says nothing")

    def test_a_person_says_it_and_takes_it_back(self):
        self.describe("surface", 1)
        self.assertEqual(self.stored().token("fig").role, "surface")
        self.assertContains(self.page("fig"), "The role is set")
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
                "command": "mark-tokens?role-is=as-role",
                "pick": ["fig"],
                "as-role": "line soft",
                "revision": 1,
            },
        )
        self.assertEqual(self.stored().token("fig").role, "line soft")

    def test_the_sheet_has_a_column_of_roles_and_finds_by_them(self):
        page = self.client.get(self.url("tokens:room"))
        self.assert_reads(page, '<a href="?cell=text.main%3A&amp;view=page" tabindex="-1"')
        self.assertContains(page, 'title="unknown: its name says nothing">unknown')
        found = self.client.get(self.url("tokens:room"), {"role": "text"})
        self.assertContains(found, "1 token")
        self.assertContains(found, 'id="cell-text.main:')

    def test_what_a_token_belongs_to_is_said_and_taken_back(self):
        data = {"token": "text.main", "path": "text.main", "role": "", "belongs_to": "page"}
        self.client.post(self.url("tokens:describe"), data | {"revision": 1})
        self.assertEqual(self.stored().token("text.main").belongs_to, "page")
        self.assertContains(self.page("text.main"), "what it belongs to is set here")
        for wrong in ("text.main", "gone"):
            refused = self.client.post(
                self.url("tokens:describe"), data | {"belongs_to": wrong, "revision": 2}
            )
            self.assertContains(refused, "is not a color that it could belong to", status_code=422)
        self.client.post(self.url("tokens:describe"), data | {"belongs_to": "", "revision": 2})
        self.assertEqual(self.stored().token("text.main").belongs_to, "")


class QuestionTests(RoomCase):
    def setUp(self):
        super().setUp()
        self.make(
            document(
                token("page", "#ffffff"), token("fig", "#123456"), token("plum", "#654321"), axes=()
            )
        )

    def room(self, **query):
        return self.client.get(self.url("roles:room"), {"by": "tokens"} | query)

    def answer(self, about, revision, **data):
        data = {"about": about, "revision": revision, "by": "tokens"} | data
        return self.client.post(self.url("roles:answer"), data, follow=True)

    def test_one_answer_after_the_other(self):
        self.assertContains(self.room(), "2 of 3\n    colors not sure")
        self.assertContains(self.room(), "<code>fig</code> for?")
        self.assertContains(self.room(token="plum"), "<code>plum</code> for?")
        second = self.answer("fig", 1, role="text quiet")
        self.assertContains(second, "<code>plum</code> for?")
        self.assertEqual(self.stored().token("fig").role, "text quiet")
        done = self.answer("plum", 2, other="chart")
        self.assertEqual(self.stored().token("plum").role, "chart")
        self.assertContains(done, "all 3 roles are sure")

    def test_a_wrong_answer_is_said_and_nothing_is_stored(self):
        self.assertContains(
            self.answer("fig", 1, role="fish"), "“fish” is not a role.", status_code=422
        )
        self.assertContains(self.answer("gone", 1, role="text"), "no longer there", status_code=422)
        self.assertEqual(self.stored().token("fig").role, "")

    def test_words_of_the_project(self):
        def run(command, revision, **fields):
            data = {"command": command, "revision": revision} | fields
            return self.client.post(self.url("roles:command"), data, follow=True)

        self.assertContains(run("add-word", 1, word="Fig", meaning="line"), "<code>fig</code>")
        self.assertContains(self.room(), "1 of 3\n    color")
        self.assertContains(
            run("add-word", 2, word="two words", meaning="line"), "is not one word", status_code=422
        )
        kept = run("add-word", 2, word="two words", meaning="line")
        self.assertContains(kept, 'value="two words"', status_code=422)
        run("remove-word", 2, word="fig")
        self.assertEqual(self.stored().words, ())

    def words(self, revision, words, meaning, **more):
        data = {"command": "answer-words", "revision": revision, "words": words, "meaning": meaning}
        return self.client.post(self.url("roles:command"), data | more, follow=True)

    def test_words_are_asked_about_first_and_each_answer_is_tried_before(self):
        first = self.room(by="")
        self.assertContains(first, "<strong>Fig</strong>,\n    in 1 name:")
        self.assertContains(first, "adds <b")
        self.assertContains(first, "Answers 1 token")
        second = self.words(1, ["fig"], "text")
        self.assertContains(second, "<strong>Plum</strong>")
        self.assertContains(second, "Answered “fig”: text.")
        self.assertEqual([(w.key, w.meaning) for w in self.stored().words], [("fig", "text")])
        done = self.words(2, ["plum"], "text")
        self.assertContains(done, "all 3 roles are sure")
        self.client.post(self.url("projects:undo"), {"next": self.url("roles:room")})
        self.assertContains(self.room(by=""), "<strong>Plum</strong>")

    def test_a_word_is_put_off_and_another_is_picked(self):
        later = self.room(by="", later="fig")
        self.assertContains(later, "<strong>Plum</strong>")
        self.assertContains(self.room(by="", word="plum"), "<strong>Plum</strong>")
        self.assertContains(self.room(by="", word="gone"), "<strong>Fig</strong>")

    def test_a_wrong_meaning_or_no_word_is_said_and_nothing_is_stored(self):
        self.assertContains(self.words(1, ["fig"], "fish"), "is not a meaning", status_code=422)
        self.assertContains(self.words(1, [], "text"), "No word is answered", status_code=422)
        self.assertContains(self.words(1, ["a b"], "text"), "is not one word", status_code=422)
        self.words(1, ["fig"], "text")
        again = self.words(2, ["fig"], "text")
        self.assertContains(again, "has been answered already", status_code=422)
        self.assertEqual(len(self.stored().words), 1)

    def test_two_people_answer_the_same_word(self):
        self.words(1, ["fig"], "text")
        other = self.words(1, ["fig"], "line")
        self.assertContains(other, "Choose one of both sides", status_code=409)
        self.assertEqual([w.meaning for w in self.stored().words], ["text"])
        self.assertEqual(self.words(1, ["plum"], "line").status_code, 200)
        self.assertEqual(
            {w.key: w.meaning for w in self.stored().words}, {"fig": "text", "plum": "line"}
        )

    def test_words_are_kept_for_other_projects_and_offered_there(self):
        self.words(1, ["fig"], "text")
        kept = self.client.post(self.url("roles:keep"), {"revision": 2}, follow=True)
        self.assertContains(kept, "these words are offered in your other projects")
        self.assertContains(kept, "Kept for your other projects")
        self.make(document(token("page", "#ffffff"), token("fig.leaf", "#123456"), axes=()))
        page = self.room(by="")
        self.assertContains(page, "You have said before what 1 word")
        data = {"command": "use-words", "revision": 1, "words": ["fig text"]}
        used = self.client.post(self.url("roles:command"), data, follow=True)
        self.assertContains(used, "Added 1 of your words.")
        self.assertNotContains(used, "You have said before")
        self.assertEqual([(w.key, w.meaning) for w in self.stored().words], [("fig", "text")])
        gone = self.client.post(self.url("roles:keep"), {"revision": 2, "forget": "1"}, follow=True)
        self.assertContains(gone, "no longer kept")
        self.assertEqual(own_words.of(self.user), ())

    def test_a_word_kept_twice_has_the_meaning_said_last_and_none_is_another_persons(self):
        own_words.keep(self.user, [Word("fig", "text")])
        own_words.keep(self.user, [Word("fig", "line"), Word("plum", "page")])
        self.assertEqual(own_words.of(self.user), (Word("fig", "line"), Word("plum", "page")))
        tove = get_user_model().objects.create_user("tove")
        self.assertEqual(own_words.of(tove), ())
        own_words.keep(tove, [Word("long" * 40, "line")])
        self.assertEqual(own_words.of(tove), ())
        many = [Word(f"w{n}", "line") for n in range(own_words.MOST)]
        with self.assertRaisesRegex(PrismError, "502 words are too many"):
            own_words.keep(self.user, many)
        self.assertEqual(len(own_words.of(self.user)), 2)

    def test_a_viewer_sees_the_question_and_answers_nothing(self):
        tove = get_user_model().objects.create_user("tove")
        Membership.objects.create(project=self.project, user=tove, role="viewer")
        self.client.force_login(tove)
        self.assertContains(self.room(by=""), "disabled")
        self.assertEqual(self.words(1, ["fig"], "text").status_code, 403)

    def test_an_empty_project_has_no_question(self):
        self.make(document(axes=()))
        self.assertContains(self.room(), "There are no tokens yet.")
