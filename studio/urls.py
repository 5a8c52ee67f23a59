"""All addresses of the application."""

from django.urls import include, path

from studio.projects import views as projects
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
                path("palette/measures/", include("studio.rooms.measures.urls")),
                path("palette/bring/", include("studio.rooms.bringing.urls")),
                path("palette/ideas/", include("studio.rooms.ideas.urls")),
                path("palette/", include("studio.rooms.palette.urls")),
                path("tokens/map/", include("studio.rooms.mapping.urls")),
                path("tokens/names/", include("studio.rooms.naming.urls")),
                path("tokens/axes/", include("studio.rooms.axes.urls")),
                path("tokens/", include("studio.rooms.tokens.urls")),
                path("stage/", include("studio.rooms.stage.urls")),
                path("checks/", include("studio.rooms.checks.urls")),
                path("exchange/", include("studio.rooms.exchange.urls")),
            ]
        ),
    ),
]
handler400 = "studio.ui.views.bad_request"
handler403 = "studio.ui.views.forbidden"
handler404 = "studio.ui.views.not_found"
handler500 = "studio.ui.views.failed"
