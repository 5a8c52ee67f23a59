from django.apps import AppConfig


class StageConfig(AppConfig):
    name = "studio.rooms.stage"
    label = "stage"
