from django.urls import path

from studio.rooms.stage import views

app_name = "stage"
urlpatterns = [
    path("", views.room, name="room"),
    path("pane", views.pane, name="pane"),
    path("value", views.value, name="value"),
    path("pairs", views.pairs, name="pairs"),
    path("move", views.move, name="move"),
    path("paint.css", views.paint, name="paint"),
    path("zone", views.zone, name="zone"),
    path("command", views.command, name="command"),
]
