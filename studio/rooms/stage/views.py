"""The Stage room: a scene painted by the tokens alone, in two panes with a theme each."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_GET

from prism.resolution.resolver import Theme
from prism.view_models import scenes
from studio.accounts.permissions import requires
from studio.rooms import page
from studio.rooms.address import Address
from studio.rooms.frame import Frame, enter
from studio.rooms.stage import panes
from studio.rooms.themes import theme_text
from studio.store import projects as store
from studio.store.projects import Project


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Two panes of the scene and how every text in them reads."""
    frame = enter(request, project, "stage")
    themes = [frame.theme, _second_theme(frame)]
    runs, used = scenes.read(render_to_string(panes.SCENE))
    bindings = frame.analysis.bindings
    rows = scenes.readings(frame.resolver, runs, bindings, themes)
    context = {
        "panes": [_pane(frame, theme, i, rows) for i, theme in enumerate(themes)],
        "rows": rows,
        "texts": len(runs),
        "bound": bindings,
        "unbound": [slot for slot in used if slot not in bindings],
    }
    return page.show(frame, "stage/room.html", context)


def _pane(
    frame: Frame[Address], theme: Theme, place: int, rows: Sequence[scenes.RunReading]
) -> dict[str, Any]:
    readings = ((row.count, row.readings[place]) for row in rows)
    axes = frame.document.axes
    return {
        "theme": theme_text(frame.analysis, theme),
        "words": ", ".join(axis.modes[theme[i]].name for i, axis in enumerate(axes)),
        "failing": sum(count for count, reading in readings if reading and reading.fails),
    }


def _second_theme(frame: Frame[Address]) -> Theme:
    """The theme of the second pane: the pinned one, else the next mode of the first axis."""
    if frame.pinned is not None or not frame.theme:
        return frame.pinned or frame.theme
    count = len(frame.document.axes[0].modes)
    return ((frame.theme[0] + 1) % count, *frame.theme[1:])


@requires("view")
@require_GET
@panes.framed
def pane(request: HttpRequest, project: Project) -> HttpResponse:
    """The scene as a page of its own, in the theme of the address."""
    paint = reverse("stage:paint", args=[project.code])
    return panes.show(request, project, f"{paint}?revision={project.revision}")


@requires("view")
@require_GET
def paint(request: HttpRequest, project: Project) -> HttpResponse:
    """The exported style sheet and the slots of the scene, bound to tokens."""
    sheet = store.load(project).analysis.stage_sheet
    response = HttpResponse(sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, max-age=3600"
    return response
