from django.apps import AppConfig


class IdeasConfig(AppConfig):
    name = "studio.rooms.palette.ideas"
    label = "ideas"
