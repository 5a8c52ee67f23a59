from django.apps import AppConfig


class AxesConfig(AppConfig):
    name = "studio.rooms.tokens.axes"
    label = "axes"
