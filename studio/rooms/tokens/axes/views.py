"""Axes and their modes; a mode proposed from another, reviewed row by row."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from prism import edits
from prism.formats.css import FEATURES
from prism.view_models import axes
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import Address
from studio.rooms.frame import Frame, enter
from studio.rooms.tokens.axes import forms
from studio.store.projects import Project


def _enter(request: HttpRequest, project: Project) -> Frame[Address]:
    return enter(request, project, "tokens", "axes:room")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The axes in order, each with its modes."""
    return _room(_enter(request, project))


def _room(frame: Frame[Address], problem: str = "", status: int = 200) -> HttpResponse:
    features = [
        (f"{name}: {value}", f"{name.removeprefix('prefers-').replace('-', ' ')}: {value}")
        for name, values in FEATURES.items()
        for value in values
    ]
    context = {"rows": axes.rows(frame.document), "features": features, "problem": problem}
    return page.show(frame, "axes/room.html", context, status)


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Run a command on an axis or a mode."""
    frame = _enter(request, project)
    form = writing.NamedCommandForm(request.POST, edits.axes)
    return writing.run(frame, form, lambda problem, status: _room(frame, problem, status))


@requires("view")
@require_GET
def propose(request: HttpRequest, project: Project) -> HttpResponse:
    """A mode proposed from another: what each token would hold, and why."""
    frame = _enter(request, project)
    form = forms.ProposalForm(request.GET)
    if not form.is_valid():
        return _room(frame, "Name the new mode, and the one it is made from.", 400)
    return _proposal(frame, form.cleaned_data)


def _proposal(
    frame: Frame[Address],
    asked: Mapping[str, Any],
    problem: str = "",
    accepted: Collection[str] | None = None,
    status: int = 200,
) -> HttpResponse:
    owner = frame.document.axis(asked["axis"])
    if owner is None or all(mode.key != asked["source"] for mode in owner.modes):
        return _room(frame, "That mode is no longer there.", 422)
    proposal = axes.proposal(
        frame.analysis, frame.theme, asked["axis"], asked["source"], asked["scheme"]
    )
    context = {
        "axis": owner,
        "source": owner.mode(asked["source"]),
        "name": asked["name"],
        "scheme": asked["scheme"],
        "rows": [
            {
                "row": row,
                "now": now,
                "then": then,
                "taken": accepted is None or row.token.key in accepted,
            }
            for row, now, then in proposal.rows
        ],
        "proposal": proposal,
        "problem": problem,
    }
    return page.show(frame, "axes/propose.html", context, status)


@requires("edit")
@require_POST
def take(request: HttpRequest, project: Project) -> HttpResponse:
    """Store a mode as it was proposed, with the rows that were accepted."""
    frame = _enter(request, project)
    form = forms.DeriveForm(request.POST)

    def refuse(problem: str, status: int) -> HttpResponse:
        if not form.is_valid():
            return _room(frame, problem, status)
        return _proposal(frame, form.cleaned_data, problem, form.accepted, status)

    return writing.run(frame, form, refuse)
