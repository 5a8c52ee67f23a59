from django.urls import path

from studio.rooms.checks.balance import views

app_name = "balance"
urlpatterns = [
    path("", views.room, name="room"),
    path("command", views.command, name="command"),
    path("preview", views.preview, name="preview"),
]
