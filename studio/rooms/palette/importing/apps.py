from django.apps import AppConfig


class ImportingConfig(AppConfig):
    name = "studio.rooms.palette.importing"
    label = "importing"
