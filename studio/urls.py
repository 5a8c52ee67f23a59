"""All addresses of the application."""

from django.urls import include, path

from studio.projects import views as projects
from studio.rooms.registry import ROOMS
from studio.ui import views as ui

urlpatterns = [
    path("", projects.listing, name="home"),
    path("alive", ui.alive, name="alive"),
    path("ready", ui.ready, name="ready"),
    path("account/", include("studio.accounts.urls")),
    path("projects/", include("studio.projects.urls")),
    path(
        "p/<slug:code>/",
        include(
            [
                path("", projects.open_project, name="open"),
                path("tasks/", include("studio.work.urls")),
                *(
                    path(start, include(module))
                    for room in ROOMS
                    for start, module in room.addresses
                ),
            ]
        ),
    ),
]
handler400 = "studio.ui.views.bad_request"
handler403 = "studio.ui.views.forbidden"
handler404 = "studio.ui.views.not_found"
handler500 = "studio.ui.views.failed"
