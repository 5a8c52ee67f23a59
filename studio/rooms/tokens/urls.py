from django.urls import path

from studio.rooms.tokens import views

app_name = "tokens"
urlpatterns = [
    path("", views.room, name="room"),
    path("store", views.store_cell, name="store"),
    path("complete", views.complete, name="complete"),
]
