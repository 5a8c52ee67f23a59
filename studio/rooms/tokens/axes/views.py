"""Axes and their modes; a brand more."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.brands import addition
from prism.brands import commands as brands_commands
from prism.errors import PrismError
from prism.formats.css import FEATURES
from prism.modes import axes_view
from prism.modes import commands as modes_commands
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.tokens.axes import forms
from studio.rooms.tokens.axes.address import AxesAddress
from studio.store import projects as store
from studio.store.projects import Project

AxesFrame = Frame[AxesAddress]


def enter(request: HttpRequest, project: Project) -> AxesFrame:
    """The frame of the axes."""
    return Frame.enter(request, project, "tokens", AxesAddress.read(state_of(request)), "axes:room")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The axes in order, each with its modes."""
    return show_axes(enter(request, project))


def show_axes(
    frame: AxesFrame,
    problem: str = "",
    status: int = 200,
    brand_form: forms.BrandForm | None = None,
    mode_form: forms.ModeForm | None = None,
) -> HttpResponse:
    """The axes as a page; the forms as they were sent where something was refused."""
    features = [
        (f"{name}: {value}", f"{name.removeprefix('prefers-').replace('-', ' ')}: {value}")
        for name, values in FEATURES.items()
        for value in values
    ]
    owner = frame.document.axis(frame.address.axis)
    context = {
        "rows": axes_view.rows(frame.analysis),
        "features": features,
        "problem": problem,
        "adding": frame.address.adding,
        "owner": owner,
        "mode_form": mode_form or forms.ModeForm(None),
        "brand_form": brand_form or forms.BrandForm(None, frame.document),
        "has_brands": addition.axis_of(frame.document) is not None,
        "themes": frame.resolver.theme_count,
    }
    return page.show(frame, "axes/room.html", context, status)


def _closing(frame: AxesFrame) -> Callable[[store.Saved], str]:
    """Goes on without the dock in which something was added."""

    def then(_saved: store.Saved) -> str:
        frame.address = frame.address.but(adding="")
        return frame.here

    return then


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Run a command on an axis or a mode."""
    frame = enter(request, project)
    form = writing.NamedCommandForm(request.POST, modes_commands, brands_commands)

    return writing.run(
        frame, form, lambda problem, status: show_axes(frame, problem, status), _closing(frame)
    )


@requires("edit")
@require_POST
def add_mode(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a mode to an axis, or go and review the one that is proposed."""
    frame = enter(request, project)
    form = forms.ModeForm(request.POST)

    def refuse(problem: str, status: int) -> HttpResponse:
        return show_axes(frame, problem, status, mode_form=form)

    if form.is_valid() and form.proposes:
        asked = form.asked(frame.document)
        themes = frame.address.themes_only().query().removeprefix("?")
        query = "&".join(filter(None, (themes, asked)))
        return redirect(f"{reverse('axes:propose', args=[project.code])}?{query}")

    return writing.run(frame, form, refuse, _closing(frame))


@requires("view")
@require_GET
def preview_brand(request: HttpRequest, project: Project) -> HttpResponse:
    """What a brand more would differ in, as a fragment."""
    frame = enter(request, project)
    form = forms.BrandForm(request.GET, frame.document)
    context: dict[str, Any] = {"project": project}
    try:
        new = form.new()
        made = addition.add(frame.document, new, store.new_key)
        context |= {"shown": axes_view.brand_preview(made, frame.analysis), "name": new.name}
    except PrismError as error:
        context["problem"] = str(error)
    return render(request, "axes/brand_rows.html", context)


@requires("edit")
@require_POST
def add_brand(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a brand."""
    frame = enter(request, project)
    form = forms.BrandForm(request.POST, frame.document)

    def refuse(problem: str, status: int) -> HttpResponse:
        frame.address = frame.address.but(adding="brand")
        return show_axes(frame, problem, status, brand_form=form)

    return writing.run(frame, form, refuse, _closing(frame))
