from django.urls import path

from studio.rooms.checks.explore import views

app_name = "explore"
urlpatterns = [
    path("", views.room, name="room"),
]
