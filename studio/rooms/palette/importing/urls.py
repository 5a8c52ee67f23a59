from django.urls import path

from studio.rooms.palette.importing import views

app_name = "importing"
urlpatterns = [
    path("", views.room, name="room"),
    path("preview", views.preview, name="preview"),
    path("store", views.store_colors, name="store"),
    path("picture", views.picture, name="picture"),
    path("picture/read", views.read_picture, name="read-picture"),
    path("picture/assign", views.assign, name="assign"),
    path("picture/<slug:picture>", views.image, name="image"),
]
