from django.apps import AppConfig


class BringingConfig(AppConfig):
    name = "studio.rooms.bringing"
    label = "bringing"
