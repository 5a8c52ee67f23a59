from django.urls import path

from studio.rooms.tokens.naming import views

app_name = "naming"
urlpatterns = [
    path("", views.room, name="room"),
    path("store", views.store_scheme, name="store"),
    path("add", views.add_names, name="add"),
]
