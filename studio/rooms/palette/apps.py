from django.apps import AppConfig


class PaletteConfig(AppConfig):
    name = "studio.rooms.palette"
    label = "palette"
