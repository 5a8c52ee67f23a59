from django.urls import path

from studio.rooms.bringing import views

app_name = "bringing"
urlpatterns = [
    path("", views.room, name="room"),
    path("look", views.look, name="look"),
    path("store", views.store_colors, name="store"),
    path("picture", views.picture, name="picture"),
    path("picture/read", views.read_picture, name="read-picture"),
    path("picture/assign", views.assign, name="assign"),
    path("picture/<slug:picture>", views.image, name="image"),
]
