"""Showing a page of a room: whole, or its region alone."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils.http import url_has_allowed_host_and_scheme

from studio.rooms.counts import COUNTS
from studio.rooms.frame import AnyFrame
from studio.rooms.registry import ROOMS
from studio.rooms.theme_bar import theme_bar
from studio.store import projects as store
from studio.store.projects import Project


def show(
    frame: AnyFrame, template: str, context: Mapping[str, Any] | None = None, status: int = 200
) -> HttpResponse:
    """Render a room: the whole page, or its region alone where that was asked for."""
    fragment = wants_region(frame.request)
    name = "ui/region.html" if fragment else "ui/room.html"
    about = reading(frame) | working(frame) | {"room_template": template, **(context or {})}
    response = render(frame.request, name, about, status=status)
    response["Vary"] = "X-Region, Cookie"
    if fragment:
        response["X-Region"] = "room"
    response["Cache-Control"] = "no-store"
    return response


def reading(frame: AnyFrame) -> dict[str, Any]:
    """What a page needs that shows something of a project to whomever."""
    return {"frame": frame, "project": frame.project, "document": frame.document}


def working(frame: AnyFrame) -> dict[str, Any]:
    """What is around a page on which somebody works: the rooms, the theme that all of them show, what can be undone."""
    return {
        "route": _route(frame),
        "theme_bar": theme_bar(frame),
        "opens": " ".join(frame.address.OPENS),
        "undoable": store.undoable(frame.project, frame.person),
        "redoable": store.redoable(frame.project, frame.person),
    }


def _route(frame: AnyFrame) -> list[dict[str, Any]]:
    """The rooms with their addresses and live counts."""
    return [
        {
            "number": room.number,
            "title": room.title,
            "count": COUNTS[room.name](frame.analysis) if room.name in COUNTS else "",
            "url": frame.plain_url(f"{room.name}:room"),
            "current": room.name == frame.room,
        }
        for room in ROOMS
    ]


def stored(frame: AnyFrame, page: Callable[[], HttpResponse]) -> HttpResponse:
    """The response where the form of a page was stored: ``page()`` at once where its region was
    asked for, which spares the second request, and the way to the page elsewhere."""
    if not wants_region(frame.request):
        return redirect(frame.here)
    response = page()
    response["X-Address"] = frame.here
    return response


def wants_region(request: HttpRequest) -> bool:
    """Whether the region of a room is asked for and not the whole page."""
    return request.headers.get("X-Region") == "room"


def back_to(request: HttpRequest, project: Project) -> HttpResponse:
    """Go back to the page a form stood on, or to the project."""
    target = request.POST.get("next", "")
    allowed = url_has_allowed_host_and_scheme(target, {request.get_host()}, request.is_secure())
    if allowed and target.startswith("/"):  # a word alone would be the name of a view
        return redirect(target)
    return redirect("open", project.code)
