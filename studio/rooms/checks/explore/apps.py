from django.apps import AppConfig


class ExploreConfig(AppConfig):
    name = "studio.rooms.checks.explore"
    label = "explore"
