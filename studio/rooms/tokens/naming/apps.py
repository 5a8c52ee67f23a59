from django.apps import AppConfig


class NamingConfig(AppConfig):
    name = "studio.rooms.tokens.naming"
    label = "naming"
