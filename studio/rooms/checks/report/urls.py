from django.urls import path

from studio.rooms.checks.report import views

app_name = "report"
urlpatterns = [
    path("", views.room, name="room"),
    path("file/<slug:form>", views.file, name="file"),
]
