from django.urls import path

from studio.rooms.tokens.axes import proposals, views

app_name = "axes"
urlpatterns = [
    path("", views.room, name="room"),
    path("command", views.command, name="command"),
    path("mode", views.add_mode, name="add-mode"),
    path("brand", views.add_brand, name="add-brand"),
    path("brand/preview", views.preview_brand, name="preview-brand"),
    path("propose", proposals.propose, name="propose"),
    path("take", proposals.take, name="take"),
    path("proposed/scene", proposals.scene, name="proposed-scene"),
    path("proposed/paint", proposals.paint, name="proposed-paint"),
]
