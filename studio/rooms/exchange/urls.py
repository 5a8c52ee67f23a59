from django.urls import path

from studio.rooms.exchange import views

app_name = "exchange"
urlpatterns = [
    path("", views.room, name="room"),
    path("import", views.import_files, name="import"),
    path("import/take", views.take_import, name="take-import"),
    path("export/<slug:target>", views.export, name="export"),
]
