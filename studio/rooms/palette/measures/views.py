"""Measures and texts: what the palette holds beside colors, in the sheet."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from studio.accounts.permissions import requires
from studio.rooms import writing
from studio.rooms.palette.measures.forms import ScaleForm
from studio.sheet import page as sheet
from studio.store import projects as store
from studio.store.projects import Project


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Numbers: lengths, durations, weights, shadows; each with what it comes to."""
    return sheet.show_sheet(sheet.enter(request, project, "measures"))


@requires("view")
@require_GET
def copy(request: HttpRequest, project: Project) -> HttpResponse:
    """Texts and yes or no, one column per mode of an axis."""
    return sheet.show_sheet(sheet.enter(request, project, "texts"))


@requires("edit")
@require_POST
def add_scale(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a scale."""
    frame = sheet.enter(request, project, "measures")
    frame.address = frame.address.but(group="")  # what is sent by that name is the scale's

    def then(_: store.Saved) -> str:
        frame.address = frame.address.but(scale="")
        return frame.here

    def refuse(problem: str, status: int) -> HttpResponse:
        return sheet.show_sheet(frame, problem=problem, status=status)

    return writing.run(frame, ScaleForm(request.POST), refuse, then)
