"""The Stage room: scenes painted by the tokens alone, in panes with a theme each."""

from __future__ import annotations

from urllib.parse import urlencode

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.contrast import pairing_commands
from prism.formats import scene_css
from prism.scenes import commands
from prism.scenes import pairs as scene_pairs
from prism.scenes.stage import Zone
from prism.sheet import cell_commands
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.stage import library, panes, shown
from studio.rooms.stage.address import (
    StageAddress,
    moves_text,
    of_scene,
    picks_of,
    read_moves,
    read_zones,
    with_scene,
    zones_text,
)
from studio.rooms.stage.shown import StageFrame
from studio.store import projects as store
from studio.store.projects import Project

#: Characters in which a page may write the sizes of its texts.
_LONGEST_SIZES = 20_000
_LONGEST_KEY = 400


def _enter(request: HttpRequest, project: Project) -> StageFrame:
    return StageFrame.enter(request, project, "stage", StageAddress.read(state_of(request)))


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """A scene in its panes, with what is pointed at."""
    return _room(_enter(request, project))


def _room(frame: StageFrame, problem: str = "", status: int = 200) -> HttpResponse:
    context = shown.context(frame) | {"problem": problem}
    return page.show(frame, "stage/room.html", context, status)


@requires("view")
@require_GET
@panes.framed
def pane(request: HttpRequest, project: Project) -> HttpResponse:
    """The scene as a page of its own, in the theme of the address."""
    paint = reverse("stage:paint", args=[project.code])
    card = {slot: request.GET[slot] for slot in library.JUDGED if slot in request.GET}
    query = urlencode({"revision": project.revision, **card})
    return panes.show(request, project, f"{paint}?{query}")


@requires("view")
@require_GET
def paint(request: HttpRequest, project: Project) -> HttpResponse:
    """The exported style sheet and the slots of the scenes, bound to tokens."""
    analysis = store.load(project).analysis
    document = analysis.document
    card = {
        slot: token
        for slot in library.JUDGED
        if (token := document.token(request.GET.get(slot, "")[:200])) is not None
    }
    sheet = analysis.stage_sheet + (scene_css.write(document, card, ()) if card else "")
    response = HttpResponse(sheet, content_type="text/css; charset=utf-8")
    response["Cache-Control"] = "private, max-age=3600"
    return response


@requires("view")
@require_GET
def zone(request: HttpRequest, project: Project) -> HttpResponse:
    """The address with an element made a zone of the modes that a form names, or no longer one."""
    frame = _enter(request, project)
    analysis = frame.analysis
    place = request.GET.get("at", "")
    scene = shown.scene_id(frame)
    here = of_scene(frame.address.zones, scene)
    zones = {zone.place: zone for zone in read_zones(analysis, here)}
    if place.isascii() and place.isdigit() and len(place) < 5:
        named = ",".join(
            f"{name.removeprefix('zone-')}:{value}"
            for name, value in request.GET.items()
            if name.startswith("zone-") and value
        )
        picks = tuple(picks_of(analysis, named).items())
        zones.pop(int(place), None)
        if picks:
            zones[int(place)] = Zone(int(place), picks)
    own = zones_text(analysis, [zones[key] for key in sorted(zones)])
    kept = with_scene(frame.address.zones, scene, own)
    return redirect(reverse("stage:room", args=[project.code]) + frame.query(zones=kept or None))


@requires("view")
@require_GET
def pairs(request: HttpRequest, project: Project) -> HttpResponse:
    """What stands on what and is no pairing yet, with the sizes of texts as the page painted them, as a fragment."""
    frame = _enter(request, project)
    sizes = scene_pairs.read_sizes(request.GET.get("sizes", "")[:_LONGEST_SIZES])
    made = scene_pairs.missing(frame.analysis, shown.scene_of(frame), sizes)
    context = {"frame": frame, "project": project, "document": frame.document, "missing": made}
    return render(request, "stage/pairs.html", context)


@requires("view")
@require_GET
def move(request: HttpRequest, project: Project) -> HttpResponse:
    """The address with an element in the zone that a form names, or back where it was."""
    frame = _enter(request, project)
    scene = shown.scene_id(frame)
    moves = read_moves(of_scene(frame.address.moves, scene))
    place, into = request.GET.get("at", ""), request.GET.get("into", "")
    for known in read_moves(f"{place}-0"):
        moves.pop(known, None)
    own = moves_text(moves | read_moves(f"{place}-{into}"))
    kept = with_scene(frame.address.moves, scene, own)
    return redirect(reverse("stage:room", args=[project.code]) + frame.query(moves=kept or None))


@requires("edit")
@require_POST
def value(request: HttpRequest, project: Project) -> HttpResponse:
    """Store what was typed where the value stands that a token has at the element that is pointed at."""
    frame = _enter(request, project)

    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, problem, status)

    token = frame.document.token(request.POST.get("token", "")[:_LONGEST_KEY])
    won = frame.resolver.winner(token.key, shown.theme_at(frame)) if token is not None else None
    if token is None or won is None:
        return refuse("That value is no longer there.", 422)
    text = request.POST.get("text", "")[: writing.MOST_TEXT]
    form = writing.ReadyForm(request.POST, cell_commands.SetValue(token.key, text, won[0]))
    return writing.run(frame, form, refuse)


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Bind a slot to a token, or add a pairing that stands on a scene."""
    frame = _enter(request, project)
    form = writing.NamedCommandForm(request.POST, commands, pairing_commands)

    def then(saved: store.Saved) -> str:
        if isinstance(saved.command, commands.MakeScene):
            return frame.plain_url("stage:room", scene=f"own-{saved.command.key}", dock="pieces")
        return frame.here

    return writing.run(frame, form, lambda problem, status: _room(frame, problem, status), then)
