from django.apps import AppConfig


class ReportConfig(AppConfig):
    name = "studio.rooms.checks.report"
    label = "report"
