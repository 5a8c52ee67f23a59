from django.urls import path

from studio.rooms.tokens.roles import views

app_name = "roles"
urlpatterns = [
    path("", views.room, name="room"),
    path("answer", views.answer, name="answer"),
    path("command", views.command, name="command"),
    path("keep", views.keep, name="keep"),
]
