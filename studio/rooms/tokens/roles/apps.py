from django.apps import AppConfig


class RolesConfig(AppConfig):
    name = "studio.rooms.tokens.roles"
    label = "roles"
