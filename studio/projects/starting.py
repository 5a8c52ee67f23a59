"""Starting a project: what it is to hold, seen before it is created."""

from __future__ import annotations

from functools import lru_cache
from itertools import count
from threading import Lock
from typing import Any
from urllib.parse import quote

from django.contrib import messages
from django.http import HttpRequest, HttpResponse, QueryDict
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_http_methods, require_POST

from demo import quillhaven
from prism import starters
from prism.analysis import Analysis
from prism.errors import PrismError
from prism.formats import css
from prism.starters import preview as starting
from prism.starters.plan import Plan
from studio.accounts.permissions import person, signed_in
from studio.projects.plans import ColorsForm, PlanForm
from studio.rooms.stage import panes
from studio.rooms.themes import read_theme, theme_text
from studio.store import projects as store

#: A new project is shown with these fields until somebody types others.
UNTOUCHED = QueryDict(
    "start=one-product&naming=plain&with=dark&with=statuses&with=overlays&with=measures"
)
_SCENE = "stage/scenes/sample.html"


#: The scenes of a plan are asked for side by side; the first builds it, the others wait for it.
_building = Lock()


def _built(plan: Plan) -> Analysis:
    """What a plan gives, for the preview. Its parts are asked for one after the other."""
    with _building:
        return _build(plan)


@lru_cache(maxsize=16)
def _build(plan: Plan) -> Analysis:
    numbers = count(1)

    def new_key() -> str:
        return f"k{next(numbers)}"

    return Analysis(starters.build(plan, new_key))


@signed_in
@require_http_methods(["GET", "POST"])
def new(request: HttpRequest) -> HttpResponse:
    """Where a project is begun; with POST, create it."""
    if request.method == "GET":
        return show(request)
    form = PlanForm(request.POST)
    imports = request.POST.get("then") == "import"
    try:
        plan = Plan(form.data.get("name", "")[:120].strip() or "Imported", start="nothing")
        if not imports:
            plan = form.plan(named=True)
        document = starters.build(plan, store.new_key)
    except PrismError as error:
        return show(request, form, str(error), 422)
    label = (
        "Created the project" if plan.start == "nothing" else "Created the project with a scheme"
    )
    project = store.create(person(request), document, label)
    room = "exchange:room" if imports else "tokens:room" if document.tokens else "palette:room"
    return redirect(room, project.code)


def show(
    request: HttpRequest, form: PlanForm | None = None, problem: str = "", status: int = 200
) -> HttpResponse:
    """The page on which a project is begun."""
    form = form or PlanForm(UNTOUCHED)
    context = {"form": form, "problem": problem, "whole": True, **_preview(form)}
    return render(request, "projects/start.html", context, status=status)


def _preview(form: PlanForm) -> dict[str, Any]:
    """What the preview shows, or what is wrong."""
    try:
        plan = form.plan()
        analysis = _built(plan)
    except PrismError as error:
        return {"refused": str(error)}
    address = f"{reverse('projects:scene')}?{form.asked()}"
    looks = [
        {"words": look.words, "scene": f"{address}&theme={quote(theme_text(analysis, look.theme))}"}
        for look in starting.looks(analysis)
    ]
    return {"shown": starting.shown(analysis), "looks": looks}


@signed_in
@require_GET
def preview(request: HttpRequest) -> HttpResponse:
    """What a project would hold, as a fragment."""
    return render(request, "projects/preview.html", _preview(PlanForm(request.GET)))


@signed_in
@require_POST
def colors(request: HttpRequest) -> HttpResponse:
    """The colors of a text, a file or a picture, each to be named and kept."""
    form = ColorsForm(request.POST, request.FILES)
    try:
        return render(request, "projects/colors.html", {"colors": form.colors()})
    except PrismError as error:
        return render(request, "projects/colors.html", {"problem": str(error)}, status=422)


@signed_in
@require_GET
@panes.framed
def scene(request: HttpRequest) -> HttpResponse:
    """A small interface in one mode of the scheme that the fields of the address give."""
    try:
        plan = PlanForm(request.GET).plan()
    except PrismError as error:
        return HttpResponse(str(error), status=422, content_type="text/plain; charset=utf-8")
    document = _built(plan).document
    theme = read_theme(_built(plan), request.GET.get("theme", ""))
    fields = request.GET.copy()
    for name in ("theme", "name"):
        fields.pop(name, None)
    context = {
        "scene": _SCENE,
        "carrier": plan.name or "Your product",
        "attributes": css.root_attributes(document, theme),
        "paint": f"{reverse('projects:paint')}?{fields.urlencode()}",
    }
    return render(request, "stage/pane.html", context)


@signed_in
@require_GET
def paint(request: HttpRequest) -> HttpResponse:
    """The style sheet of the small interface."""
    try:
        plan = PlanForm(request.GET).plan()
    except PrismError:
        return panes.no_sheet()
    response = HttpResponse(_built(plan).stage_sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, max-age=600"
    return response


@signed_in
@require_POST
def open_demo(request: HttpRequest) -> HttpResponse:
    """Create a copy of the demo project, to try things on."""
    project = store.create(person(request), quillhaven.document(), "Opened the demo")
    messages.success(request, "This is a copy of the demo. It is yours only.")
    return redirect("open", project.code)
