from django.urls import path

from studio.rooms.checks import fix_all, views

app_name = "checks"
urlpatterns = [
    path("", views.room, name="room"),
    path("pairings/add", views.add_pairing, name="add-pairing"),
    path("command", views.command, name="command"),
    path("fixes", views.fixes_of, name="fixes"),
    path("fix", fix_all.room, name="fix-all"),
    path("fix/take", fix_all.take, name="take-fixes"),
]
