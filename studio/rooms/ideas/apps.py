from django.apps import AppConfig


class IdeasConfig(AppConfig):
    name = "studio.rooms.ideas"
    label = "ideas"
