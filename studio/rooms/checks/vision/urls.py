from django.urls import path

from studio.rooms.checks.vision import views

app_name = "vision"
urlpatterns = [
    path("", views.room, name="room"),
    path("command", views.command, name="command"),
]
