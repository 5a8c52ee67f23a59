from django.apps import AppConfig


class MeasuresConfig(AppConfig):
    name = "studio.rooms.measures"
    label = "measures"
