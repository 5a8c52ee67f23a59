from django.urls import path

from studio.rooms.checks import views

app_name = "checks"
urlpatterns = [
    path("", views.room, name="room"),
    path("pairings/add", views.add_pairing, name="add-pairing"),
    path("pairings/by-rule", views.pair_by_rule, name="pair-by-rule"),
    path("pairings/remove", views.remove_pairing, name="remove-pairing"),
]
