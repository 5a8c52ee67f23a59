"""The Stage room: a scene painted by the tokens alone, in two panes with a theme each."""

from django.http import HttpResponse
from django.template.loader import render_to_string
from django.urls import reverse
from django.views.decorators.http import require_GET

from prism.view_models import scenes
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.rooms.stage import panes
from studio.store import projects as store


@requires("view")
@require_GET
def room(request, project):
    """Two panes of the scene and how every text in them reads."""
    frame = frames.enter(request, project, "stage")
    themes = [frame.theme, _beside(frame)]
    runs, used = scenes.read(render_to_string(panes.SCENE))
    bound = frame.analysis.bindings
    rows = scenes.readings(frame.resolver, runs, bound, themes)
    context = {
        "panes": [_pane(frame, theme, i, rows) for i, theme in enumerate(themes)],
        "rows": rows,
        "texts": len(runs),
        "bound": bound,
        "unbound": [slot for slot in used if slot not in bound],
    }
    return frames.show(frame, "stage/room.html", context)


def _pane(frame, theme, index, rows):
    failing = sum(
        row.count for row in rows if row.readings[index] is not None and row.readings[index].fails
    )
    return {
        "theme": frames.theme_text(frame.loaded, theme),
        "words": ", ".join(axis.modes[theme[i]].name for i, axis in enumerate(frame.document.axes)),
        "failing": failing,
    }


def _beside(frame):
    """The theme of the second pane: the one kept, else the next mode of the first axis."""
    if frame.kept is not None or not frame.theme:
        return frame.kept or frame.theme
    count = len(frame.document.axes[0].modes)
    return ((frame.theme[0] + 1) % count, *frame.theme[1:])


@requires("view")
@require_GET
@panes.framed
def pane(request, project):
    """The scene as a page of its own, in the theme of the address."""
    paint = reverse("stage:paint", args=[project.code])
    return panes.show(request, project, f"{paint}?revision={project.revision}")


@requires("view")
@require_GET
def paint(request, project):
    """The exported style sheet and the slots of the scene, bound to tokens."""
    loaded = store.load(project)
    response = HttpResponse(loaded.analysis.stage_sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, max-age=3600"
    return response
