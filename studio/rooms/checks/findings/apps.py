from django.apps import AppConfig


class FindingsConfig(AppConfig):
    name = "studio.rooms.checks.findings"
    label = "findings"
