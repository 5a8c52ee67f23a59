"""Vision: colors that must be told apart, as every kind of eye sees them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from prism.color.vision import VISIONS
from prism.contrast import waiver_commands
from prism.hygiene import commands as hygiene_commands
from prism.model.document import TellingApart, shown_path
from prism.vision import commands as vision_commands
from prism.vision import view
from prism.vision.distinguishing import sets_by_role
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.checks.vision.address import VisionAddress
from studio.rooms.frame import Frame
from studio.store.projects import Project

VisionFrame = Frame[VisionAddress]
_SEVERITIES = (*(f"0.{tenth}" for tenth in range(1, 10)), "1")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """A set of colors: every two of them for every eye, in the theme where they differ least."""
    return _room(_enter(request, project))


def _enter(request: HttpRequest, project: Project) -> VisionFrame:
    address = VisionAddress.read(state_of(request))
    return Frame.enter(request, project, "checks", address, "vision:room")


def _room(frame: VisionFrame, problem: str = "", status: int = 200) -> HttpResponse:
    severity = float(frame.address.severity or 1)
    offered = sets_by_role(frame.document, frame.analysis.roles)
    chosen = _chosen(frame, offered)
    shown = view.members_of(frame.analysis, chosen, frame.theme, severity) if chosen else None
    row = (
        next((row for row in shown.rows if row.key == frame.address.pair), None) if shown else None
    )
    context: dict[str, Any] = {
        "shown": shown,
        "open": row,
        "offers": view.offers(frame.analysis, chosen, row.first.key, row.second.key)
        if row and chosen and row.fails
        else [],
        "visions": VISIONS,
        "severities": _SEVERITIES,
        "severity": frame.address.severity or "1",
        "is_kept": bool(chosen and chosen.key),
        "offered": [(name, len(keys)) for name, keys in offered],
        "paths": _paths(frame, chosen),
        "typed": frame.request.POST if problem else None,
        "problem": problem,
    }
    return page.show(frame, "vision/room.html", context, status)


def _chosen(
    frame: VisionFrame, offered: Sequence[tuple[str, tuple[str, ...]]]
) -> TellingApart | None:
    """The set that the address names, else the first; where none is kept the first that is offered, without a key."""
    sets = frame.document.telling_apart
    named = (members for members in sets if members.key == frame.address.of)
    first = sets[0] if sets else TellingApart("", *offered[0]) if offered else None
    return next(named, first)


def _paths(frame: VisionFrame, chosen: TellingApart | None) -> str:
    tokens = (frame.document.token(key) for key in (chosen.tokens if chosen else ()))
    return ", ".join(shown_path(token.path) for token in tokens if token is not None)


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Keep, change or remove a set, or move colors apart."""
    frame = _enter(request, project)
    form = writing.NamedCommandForm(
        request.POST, hygiene_commands, waiver_commands, vision_commands
    )

    def then(_: object) -> str:
        frame.address = frame.address.but(pair="", edit="")
        return frame.here

    return writing.run(frame, form, lambda problem, status: _room(frame, problem, status), then)
