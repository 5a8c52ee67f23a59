"""What tests of the application over HTTP share."""

from django.contrib.auth import get_user_model
from django.test import TestCase
from django.urls import reverse

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
