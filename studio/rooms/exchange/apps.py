from django.apps import AppConfig


class ExchangeConfig(AppConfig):
    name = "studio.rooms.exchange"
    label = "exchange"
