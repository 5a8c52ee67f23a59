from django.apps import AppConfig


class MeasuresConfig(AppConfig):
    name = "studio.rooms.palette.measures"
    label = "measures"
