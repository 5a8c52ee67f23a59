from django.apps import AppConfig


class NamingConfig(AppConfig):
    name = "studio.rooms.naming"
    label = "naming"
