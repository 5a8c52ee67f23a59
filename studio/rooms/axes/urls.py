from django.urls import path

from studio.rooms.axes import views

app_name = "axes"
urlpatterns = [
    path("", views.room, name="room"),
    path("act", views.run_act, name="act"),
    path("propose", views.propose, name="propose"),
    path("take", views.take, name="take"),
]
