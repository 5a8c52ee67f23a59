from django.apps import AppConfig


class AxesConfig(AppConfig):
    name = "studio.rooms.axes"
    label = "axes"
