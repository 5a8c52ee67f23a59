from django.urls import path

from studio.rooms.tokens import views

app_name = "tokens"
urlpatterns = [
    path("", views.room, name="room"),
    path("rows", views.rows, name="rows"),
    path("store", views.store_cell, name="store"),
    path("complete", views.complete, name="complete"),
    path("shelf", views.shelf, name="shelf"),
    path("impact", views.show_impact, name="impact"),
    path("describe", views.describe, name="describe"),
]
