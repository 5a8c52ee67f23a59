from django.urls import path

from studio.rooms.tokens.axes import views

app_name = "axes"
urlpatterns = [
    path("", views.room, name="room"),
    path("command", views.command, name="command"),
    path("propose", views.propose, name="propose"),
    path("take", views.take, name="take"),
]
