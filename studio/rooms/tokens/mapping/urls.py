from django.urls import path

from studio.rooms.tokens.mapping import views

app_name = "mapping"
urlpatterns = [
    path("bulk", views.bulk, name="bulk"),
    path("bulk/preview", views.preview, name="preview"),
    path("paste", views.paste, name="paste"),
    path("ladder", views.ladder, name="ladder"),
    path("ladder/move", views.move_mark, name="move-mark"),
    path("link", views.link, name="link"),
    path("link/tier", views.store_tier, name="store-tier"),
    path("link/store", views.store_links, name="store-links"),
]
