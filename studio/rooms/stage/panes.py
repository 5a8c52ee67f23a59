"""A scene as a page of its own, in a frame of our own pages."""

from csp.constants import SELF
from csp.decorators import csp_replace
from django.shortcuts import render
from django.views.decorators.clickjacking import xframe_options_sameorigin

from prism.formats import css
from studio.rooms import frame as frames
from studio.store import projects as store

SCENE = "stage/scenes/departures.html"


def framed(view):
    """Let pages of this origin put what ``view`` answers into a frame."""
    return csp_replace({"frame-ancestors": [SELF]})(xframe_options_sameorigin(view))


def show(request, project, paint):
    """The scene in the theme of the address, painted by the style sheet at the address ``paint``."""
    loaded = store.load(project)
    theme = frames.read_theme(loaded, request.GET.get("theme", ""))
    context = {
        "scene": SCENE,
        "attributes": css.root_attributes(loaded.document, theme),
        "paint": paint,
    }
    return render(request, "stage/pane.html", context)
