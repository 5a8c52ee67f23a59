from django.apps import AppConfig


class StoreConfig(AppConfig):
    name = "studio.store"
    label = "store"
