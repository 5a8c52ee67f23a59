from django.urls import path

from studio.rooms.checks.findings import views

app_name = "findings"
urlpatterns = [
    path("", views.room, name="room"),
    path("command", views.command, name="command"),
]
