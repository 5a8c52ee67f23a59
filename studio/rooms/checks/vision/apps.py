from django.apps import AppConfig


class VisionConfig(AppConfig):
    name = "studio.rooms.checks.vision"
    label = "vision"
