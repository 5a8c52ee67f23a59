from django.apps import AppConfig


class MappingConfig(AppConfig):
    name = "studio.rooms.tokens.mapping"
    label = "mapping"
