"""Ideas: sets of named colors from words, held colors, the new scheme beside the current one."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.http import HttpRequest, HttpResponse, QueryDict
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.analysis import Analysis
from prism.color import space
from prism.errors import PrismError
from prism.palette import ideas
from prism.palette.ideas import Idea, NamedColor
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.frame import Frame
from studio.rooms.palette.ideas import forms
from studio.rooms.palette.ideas.address import IdeasAddress, held_text
from studio.rooms.palette.ideas.source import idea_of
from studio.rooms.stage import panes
from studio.standins.ideas import source
from studio.store import projects as store
from studio.store.projects import Project

IdeasFrame = Frame[IdeasAddress]
_NO_IDEA: dict[str, str | None] = {"idea": None, **{f"plan-{role}": None for role in ideas.ROLES}}


def _enter(request: HttpRequest, project: Project) -> IdeasFrame:
    address = IdeasAddress.read(state_of(request))
    return Frame.enter(request, project, "palette", address, "ideas:room")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Words in, several sets of colors out; one of them shown beside the current scheme."""
    return _room(_enter(request, project))


def _room(frame: IdeasFrame, problem: str = "", status: int = 200) -> HttpResponse:
    address = frame.address
    offered: Sequence[Idea] = ()
    if address.words.strip():
        try:
            offered = source().ideas(address.brief)
        except PrismError as error:
            problem, status = problem or str(error), 422 if status == 200 else status
    chosen = next((idea for idea in offered if idea.key == address.idea), None)
    context = {
        "notice": source().notice,
        "wish": address,
        "rows": [_row(frame, idea) for idea in offered],
        "held": [_held(frame, color) for color in address.brief.held],
        "present": _present(frame),
        "chosen": chosen,
        "plan": _plan(frame, chosen) if chosen else [],
        "ramps": frame.document.ramps,
        "pane_query": frame.query(),
        "problem": problem,
    }
    return page.show(frame, "ideas/room.html", context, status)


def _plan(frame: IdeasFrame, idea: Idea) -> list[dict[str, Any]]:
    """What each color of an idea does."""
    plan = ideas.plan(frame.document, idea) | dict(frame.address.plan)
    return [
        _shown(color) | {"does": plan.get(color.role, ideas.LEAVE), "name": f"plan-{color.role}"}
        for color in idea.colors
    ]


def _shown(color: NamedColor) -> dict[str, Any]:
    return {"color": color, "hex": space.hex_text(color.color)}


def _row(frame: IdeasFrame, idea: Idea) -> dict[str, Any]:
    held = {color.role for color in frame.address.brief.held}
    return {
        "idea": idea,
        "current": idea.key == frame.address.idea,
        "more": frame.query(**(_NO_IDEA | {"like": idea.key})),
        "look": frame.query(**(_NO_IDEA | {"idea": idea.key})),
        "scenes": _scenes(frame, idea),
        "colors": [
            _shown(color) | {"held": color.role in held, "hold": _holding(frame, color)}
            for color in idea.colors
        ],
    }


#: The order in which the colors of an idea lead a scheme.
_LEADING = ("main", "accent", "second", "quiet", "neutral")


def _scenes(frame: IdeasFrame, idea: Idea) -> list[tuple[str, str]]:
    """A small interface painted in an idea, by day and by night: what it is called and its address."""
    ordered = sorted(idea.colors, key=lambda color: _LEADING.index(color.role))
    fields = QueryDict(mutable=True)
    fields["name"] = frame.project.name
    fields.setlist("color-name", [color.name for color in ordered])
    fields.setlist("color-value", [space.hex_text(color.color) for color in ordered])
    fields.setlist("with", ["dark", "statuses", "measures"])
    address = f"{reverse('projects:scene')}?{fields.urlencode()}"
    return [("light", address), ("dark", f"{address}&theme=appearance%3Adark")]


def _holding(frame: IdeasFrame, color: NamedColor) -> str:
    """The query with a color held, or no longer held where it was."""
    held = frame.address.brief.held
    rest = [other for other in held if other.role != color.role]
    now = rest if color in held else [*rest, color]
    return frame.query(**(_NO_IDEA | {"held": held_text(now)}))


def _held(frame: IdeasFrame, color: NamedColor) -> dict[str, Any]:
    return _shown(color) | {"let_go": _holding(frame, color)}


def _present(frame: IdeasFrame) -> list[dict[str, Any]]:
    """Colors of the present scheme that can be held, by the role they play."""
    held = {color.role for color in frame.address.brief.held}
    return [
        _shown(color) | {"hold": _holding(frame, color)}
        for color in ideas.present(frame.document)
        if color.role not in held
    ]


@requires("edit")
@require_POST
def take(request: HttpRequest, project: Project) -> HttpResponse:
    """Store an idea: a ramp for each of its colors."""
    frame = _enter(request, project)
    return writing.run(
        frame,
        forms.TakeForm(request.POST, frame.address, frame.document),
        lambda problem, status: _room(frame, problem, status),
        lambda _: frame.plain_url("palette:room"),
    )


@requires("view")
@require_GET
@panes.framed
def pane(request: HttpRequest, project: Project) -> HttpResponse:
    """The scene painted by the document as it would be with an idea taken."""
    paint = reverse("ideas:paint", args=[project.code])
    return panes.show(request, project, f"{paint}?{request.GET.urlencode()}")


@requires("view")
@require_GET
def paint(request: HttpRequest, project: Project) -> HttpResponse:
    """The style sheet of the document as it would be with an idea taken."""
    document = store.load(project).document
    address = IdeasAddress.read(request.GET)
    try:
        after = forms.taking(idea_of(address), address, document).apply(document)
    except PrismError:
        return panes.no_sheet()
    sheet = Analysis(after).stage_sheet
    response = HttpResponse(sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, no-store"
    return response
