from django.urls import path

from studio.work import views

app_name = "work"
urlpatterns = [
    path("<slug:task>", views.state, name="state"),
    path("<slug:task>/stop", views.stop, name="stop"),
    path("<slug:task>/file", views.file, name="file"),
]
