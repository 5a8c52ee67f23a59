from django.apps import AppConfig


class TokensConfig(AppConfig):
    name = "studio.rooms.tokens"
    label = "tokens"
    verbose_name = "Tokens room"
