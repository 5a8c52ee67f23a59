"""Every color that is written or drawn on every color that lies under something, in the theme that is looked at."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET

from prism.contrast import explore
from studio.accounts.permissions import requires
from studio.rooms import page
from studio.rooms.address import state_of
from studio.rooms.checks.explore.address import ExploreAddress
from studio.rooms.frame import Frame
from studio.store.projects import Project


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The contrast of each color on each ground."""
    address = ExploreAddress.read(state_of(request))
    frame = Frame.enter(request, project, "checks", address, "explore:room")
    table = explore.table(frame.analysis, frame.theme, address.ink, address.ground)
    return page.show(frame, "explore/room.html", {"table": table})
