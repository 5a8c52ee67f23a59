"""The Stage room: a scene painted by the tokens alone, in two panes with a theme each."""

from csp.constants import SELF
from csp.decorators import csp_replace
from django.http import HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string
from django.views.decorators.clickjacking import xframe_options_sameorigin
from django.views.decorators.http import require_GET

from prism.formats import css
from prism.readings import scenes
from studio.accounts.permissions import requires
from studio.rooms import frame as frames
from studio.store import projects as store

SCENE = "stage/scenes/departures.html"


@requires("view")
@require_GET
def room(request, project):
    """Two panes of the scene and how every text in them reads."""
    frame = frames.enter(request, project, "stage")
    themes = [frame.theme, _beside(frame)]
    runs, used = scenes.read(render_to_string(SCENE))
    bound = _bound(frame.loaded)
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


def _bound(loaded):
    return loaded.once("bound", lambda: scenes.bound(loaded.document))


@requires("view")
@require_GET
@xframe_options_sameorigin
@csp_replace({"frame-ancestors": [SELF]})
def pane(request, project):
    """The scene as a page of its own, in the theme of the address."""
    loaded = store.load(project)
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    context = {
        "scene": SCENE,
        "attributes": css.root_attributes(loaded.document, theme),
        "project": project,
        "revision": loaded.revision,
    }
    return render(request, "stage/pane.html", context)


@requires("view")
@require_GET
def paint(request, project):
    """The exported style sheet and the slots of the scene, bound to tokens."""
    loaded = store.load(project)
    sheet = loaded.once("paint", lambda: scenes.paint(loaded.document))
    response = HttpResponse(sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, max-age=3600"
    return response
