from django.urls import path

from studio.rooms.tokens import box, views

app_name = "tokens"
urlpatterns = [
    path("", views.room, name="room"),
    path("rows", views.rows, name="rows"),
    path("store", views.store_cell, name="store"),
    path("add", views.add, name="add"),
    path("add-pasted", views.add_pasted, name="add-pasted"),
    path("command", views.command, name="command"),
    path("complete", box.complete, name="complete"),
    path("shelf", box.shelf, name="shelf"),
    path("impact", box.show_impact, name="impact"),
    path("describe", views.describe, name="describe"),
    path("describe/preview", box.preview_description, name="preview-description"),
]
