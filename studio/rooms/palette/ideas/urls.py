from django.urls import path

from studio.rooms.palette.ideas import views

app_name = "ideas"
urlpatterns = [
    path("", views.room, name="room"),
    path("take", views.take, name="take"),
    path("pane", views.pane, name="pane"),
    path("paint", views.paint, name="paint"),
]
