from django.urls import path

from studio.rooms.palette import views

app_name = "palette"
urlpatterns = [
    path("", views.room, name="room"),
    path("ramp", views.store_ramp, name="store-ramp"),
    path("preview", views.preview, name="preview"),
    path("color", views.store_color, name="store-color"),
    path("point", views.store_point, name="store-point"),
    path("swatches", views.swatches, name="swatches"),
    path("numbers", views.numbers, name="numbers"),
    path("impact", views.show_impact, name="impact"),
    path("command", views.command, name="command"),
]
