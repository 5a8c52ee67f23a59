from django.apps import AppConfig


class ChecksConfig(AppConfig):
    name = "studio.rooms.checks"
    label = "checks"
