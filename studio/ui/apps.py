from django.apps import AppConfig


class UiConfig(AppConfig):
    name = "studio.ui"
    label = "ui"
