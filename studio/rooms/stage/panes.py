"""A scene as a page of its own, in a frame of our own pages."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from csp.constants import SELF
from csp.decorators import csp_replace
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.safestring import mark_safe
from django.views.decorators.clickjacking import xframe_options_sameorigin

from prism.formats import css
from studio.rooms.stage import library
from studio.rooms.themes import read_theme
from studio.store import projects as store
from studio.store.projects import Project


def framed(view: Callable[..., HttpResponse]) -> Any:
    """Let pages of this origin put what ``view`` answers into a frame."""
    return csp_replace({"frame-ancestors": [SELF]})(xframe_options_sameorigin(view))


def no_sheet() -> HttpResponse:
    """The answer to a frame that asks for the style sheet of what is no longer there, or never was.

    A browser reports any other type than CSS as an error of the page.
    """
    return HttpResponse(status=422, content_type="text/css; charset=utf-8")


def show(request: HttpRequest, project: Project, paint: str) -> HttpResponse:
    """The scene of the address in its theme, painted by the style sheet at the address ``paint``."""
    loaded = store.load(project)
    theme = read_theme(loaded.analysis, request.GET.get("theme", ""))
    scene = library.find(loaded.document, request.GET.get("scene", "")[:60])
    context = {
        "title": scene.title,
        "body": mark_safe(library.markup(scene, loaded.document.name)),
        "attributes": css.root_attributes(loaded.document, theme),
        "paint": paint,
    }
    return render(request, "stage/pane.html", context)
