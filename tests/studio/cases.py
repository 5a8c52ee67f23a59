"""What tests of the application over HTTP share."""

from django.contrib.auth import get_user_model
from django.test import TestCase
from django.urls import reverse

from prism.model.values import BASE
from studio.store import projects as store


class RoomCase(TestCase):
    @classmethod
    def setUpTestData(cls):
        cls.user = get_user_model().objects.create_user("maren")

    def setUp(self):
        store.forget_all()
        self.client.force_login(self.user)

    def make(self, built):
        self.project = store.create(self.user, built)
        return self.project

    def url(self, name, *args):
        return reverse(name, args=[self.project.code, *args])

    def stored(self):
        self.project.refresh_from_db()
        return store.load(self.project).document

    def post(self, name, /, **said):
        """Post to an address of the project, against its newest revision where none is said."""
        self.project.refresh_from_db()
        said.setdefault("revision", self.project.revision)
        return self.client.post(self.url(name), said)

    def assert_reads(self, page, words):
        """A page says these words, whatever the blanks between them."""
        self.assertIn(words, " ".join(page.content.decode().split()))

    def text(self, path, condition=BASE):
        """The text a token stores under a condition, or None."""
        value = self.stored().token_at(path).value(condition)
        return value.text if value else None
