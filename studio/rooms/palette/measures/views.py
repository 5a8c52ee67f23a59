"""Measures and texts: what the palette holds beside colors, computed live."""

from __future__ import annotations

from collections.abc import Mapping

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from prism.model.document import Axis
from prism.palette import measures as scales
from prism.view_models import measures
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.palette.measures import forms
from studio.rooms.palette.measures.address import MeasuresAddress
from studio.rooms.themes import axis_named
from studio.store.projects import Project

MeasuresFrame = Frame[MeasuresAddress]


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Numbers: lengths, durations, weights, shadows; each with what it comes to."""
    return _measures(_enter(request, project))


@requires("view")
@require_GET
def copy(request: HttpRequest, project: Project) -> HttpResponse:
    """Texts and yes or no, one column per mode of an axis."""
    return _copy(_enter(request, project, "measures:copy"))


def _enter(request: HttpRequest, project: Project, page: str = "") -> MeasuresFrame:
    address = MeasuresAddress.read(state_of(request))
    if not page:
        page = "measures:copy" if address.page else "measures:room"
    address = address.but(page="", **({"kind": ""} if page == "measures:copy" else {}))
    return Frame.enter(request, project, "palette", address, page)


def _measures(
    frame: MeasuresFrame,
    problem: str = "",
    typed: Mapping[str, str] | None = None,
    status: int = 200,
) -> HttpResponse:
    kinds = scales.KINDS
    context = {
        "sheet": measures.measures(frame.resolver, frame.theme, _columns(frame)),
        "axis_names": frame.analysis.axis_names,
        "kinds": kinds,
        "kind": next((kind for kind in kinds if kind.id == frame.address.kind), kinds[0]),
        "types": forms.MEASURE_TYPES,
        "problem": problem,
        "typed": typed or {},
    }
    return page.show(frame, "measures/room.html", context, status)


def _columns(frame: MeasuresFrame) -> Axis | None:
    return axis_named(frame.analysis, frame.address.columns)


def _copy(
    frame: MeasuresFrame,
    problem: str = "",
    typed: Mapping[str, str] | None = None,
    status: int = 200,
) -> HttpResponse:
    context = {
        "sheet": measures.copy(frame.resolver, frame.theme, _columns(frame)),
        "axis_names": frame.analysis.axis_names,
        "types": forms.TEXT_TYPES,
        "problem": problem,
        "typed": typed or {},
    }
    return page.show(frame, "measures/copy.html", context, status)


@requires("edit")
@require_POST
def store_value(request: HttpRequest, project: Project) -> HttpResponse:
    """Store the value of a measure or a text."""
    frame = _enter(request, project)
    return _run(frame, forms.ValueForm(request.POST, frame))


@requires("edit")
@require_POST
def add(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a single measure or text."""
    return _run(_enter(request, project), forms.AddForm(request.POST))


@requires("edit")
@require_POST
def add_scale(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a scale."""
    return _run(_enter(request, project), forms.ScaleForm(request.POST))


def _run(frame: MeasuresFrame, form: writing.CommandForm) -> HttpResponse:
    show = _copy if frame.page == "measures:copy" else _measures
    typed = {name: str(value) for name, value in frame.request.POST.items()}
    return writing.run(frame, form, lambda problem, status: show(frame, problem, typed, status))
