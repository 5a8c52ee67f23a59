from django.apps import AppConfig


class BalanceConfig(AppConfig):
    name = "studio.rooms.checks.balance"
    label = "balance"
