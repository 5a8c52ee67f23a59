from django.urls import path

from studio.rooms.palette import views

app_name = "palette"
urlpatterns = [path("", views.room, name="room")]
