"""What the value box asks for while a value is typed: tokens that fit, the shelf, the impact."""

from __future__ import annotations

from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_POST

from prism.errors import PrismError
from prism.sheet import completion, details, preview
from prism.sheet.consequences import consequences
from studio.accounts.permissions import requires
from studio.rooms.themes import read_theme
from studio.rooms.tokens.forms import CellForm, DescribeForm
from studio.sheet.page import enter
from studio.store import projects as store
from studio.store.projects import Project


@requires("view")
@require_GET
def complete(request: HttpRequest, project: Project) -> HttpResponse:
    """Tokens that fit what is being typed, as a list of options."""
    analysis = store.load(project).analysis
    token = analysis.document.token(request.GET.get("token", ""))
    theme = read_theme(analysis, request.GET.get("theme", ""))
    typed = request.GET.get("q", "")[:200]
    resolver = analysis.resolver
    options = (
        completion.complete(analysis.document, typed, token, resolver=resolver) if token else []
    )
    shown = [
        {"option": option, "answer": resolver.resolve(option.token.key, theme)}
        for option in options
    ]
    return render(request, "tokens/options.html", {"options": shown})


@requires("view")
@require_GET
def shelf(request: HttpRequest, project: Project) -> HttpResponse:
    """The ramps and the named colors of CSS, to pick a value from."""
    analysis = store.load(project).analysis
    theme = read_theme(analysis, request.GET.get("theme", ""))
    return render(request, "tokens/shelf.html", {"rows": details.shelf(analysis.resolver, theme)})


@requires("view")
@require_GET
def show_impact(request: HttpRequest, project: Project) -> HttpResponse:
    """What a value typed into a cell comes to and would change, before it is stored."""
    frame = enter(request, project)
    form = CellForm(request.GET, frame)
    context: dict[str, Any] = {"document": frame.document, "project": project}
    if not form.is_valid():
        return render(request, "palette/impact.html", context | {"problem": "Type a value."})
    try:
        form.cleaned_data["clear"] = False
        after = form.command().apply(frame.document)
        condition = form.target(frame.document)
        key = form.cleaned_data["token"]
        context["result"] = details.result(after, key, condition, frame.theme)
        context["found"] = consequences(frame.analysis, after)
    except PrismError as error:
        context["problem"] = str(error)
    return render(request, "palette/impact.html", context)


@requires("edit")
@require_POST
def preview_description(request: HttpRequest, project: Project) -> HttpResponse:
    """What saving the details of a token would change, as a fragment; nothing is stored."""
    frame = enter(request, project)
    form = DescribeForm(request.POST)
    context: dict[str, object] = {}
    try:
        if form.is_valid():
            outcome = form.command().outcome(frame.document)
            context["change"] = preview.change(frame.document, outcome)
    except PrismError as error:
        context["problem"] = str(error)
    return render(request, "mapping/preview.html", context)
