from django.urls import path

from studio.rooms.exchange import views

app_name = "exchange"
urlpatterns = [
    path("", views.room, name="room"),
    path("bring", views.bring, name="bring"),
    path("tokens.zip", views.take_tokens, name="tokens"),
    path("take/<slug:kind>", views.take_other, name="other"),
    path("tokens.css", views.take_css, name="css"),
    path("flat.css", views.take_flat_css, name="flat-css"),
]
