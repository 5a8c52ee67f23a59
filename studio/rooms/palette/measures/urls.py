from django.urls import path

from studio.rooms.palette.measures import views

app_name = "measures"
urlpatterns = [
    path("", views.room, name="room"),
    path("copy", views.copy, name="copy"),
    path("scale", views.add_scale, name="scale"),
]
