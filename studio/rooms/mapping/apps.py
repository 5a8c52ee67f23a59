from django.apps import AppConfig


class MappingConfig(AppConfig):
    name = "studio.rooms.mapping"
    label = "mapping"
