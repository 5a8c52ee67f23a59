from django.urls import path

from studio.projects import starting, views

app_name = "projects"
urlpatterns = [
    path("", views.listing, name="list"),
    path("new", starting.new, name="new"),
    path("new/preview", starting.preview, name="preview"),
    path("new/colors", starting.colors, name="colors"),
    path("new/scene", starting.scene, name="scene"),
    path("new/paint", starting.paint, name="paint"),
    path("demo", starting.open_demo, name="demo"),
    path("<slug:code>/settings", views.settings, name="settings"),
    path("<slug:code>/invite", views.invite, name="invite"),
    path("<slug:code>/members/<int:member>/remove", views.remove_member, name="remove-member"),
    path("<slug:code>/copy", views.copy, name="copy"),
    path("<slug:code>/delete", views.delete, name="delete"),
    path("<slug:code>/restore", views.restore, name="restore"),
    path("<slug:code>/pulse", views.pulse, name="pulse"),
    path("<slug:code>/undo", views.undo, name="undo"),
    path("<slug:code>/redo", views.redo, name="redo"),
]
