"""Everything that falls short, fixed at once and reviewed before it is stored."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from prism.analysis import Analysis
from prism.contrast import fix_all_view, unplaced
from prism.contrast.fix_all import modes_axis
from prism.contrast.fix_all_view import Scope
from prism.contrast.pairing_commands import FixAll
from prism.model.values import Composite, Expression, Listing
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.checks.address import ChecksAddress
from studio.rooms.checks.forms import ReviewForm
from studio.rooms.checks.tasks import FIX_ALL, scope_fields, scope_of
from studio.rooms.frame import Frame
from studio.solving import Patience, Solving, begin, is_long
from studio.store import projects as store
from studio.store import tasks
from studio.store.projects import Project

#: Each mode is searched by itself.
_PATIENCE = Patience(each=0.6, longest=5.0, together=8.0)
ChecksFrame = Frame[ChecksAddress]


def _made(analysis: Analysis, scope: Scope, earlier: str = "") -> fix_all_view.FixAll:
    return analysis.lately(_fixed, scope, earlier)


def _fixed(analysis: Analysis, scope: Scope, earlier: str) -> fix_all_view.FixAll:
    return fix_all_view.fix_all(analysis, scope, _PATIENCE.watch(), earlier)


def _enter(request: HttpRequest, project: Project) -> ChecksFrame:
    address = ChecksAddress.read(state_of(request))
    return Frame.enter(request, project, "checks", address, "checks:fix-all")


def _scope(frame: ChecksFrame, held: frozenset[str] = frozenset()) -> Scope:
    """What the address asks to fix, as far as it is there."""
    axis, _, mode = frame.address.mode.partition(":")
    owner = frame.document.axis(axis)
    if owner is None or all(known.key != mode for known in owner.modes):
        axis = mode = ""
    token = frame.document.token(frame.address.token)
    levels, colors = bool(frame.address.levels), bool(frame.address.colors)
    return Scope(held, token.key if token else "", axis, mode, levels, colors)


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The fewest and smallest moves with which everything passes, in every theme."""
    frame = _enter(request, project)
    return _room(frame, _scope(frame))


def _room(frame: ChecksFrame, scope: Scope, problem: str = "", status: int = 200) -> HttpResponse:
    solving = Solving(frame, FIX_ALL, frame.address.solving)
    if solving.task is not None:
        scope = scope_of(tasks.fields_of(solving.task))
    waits = not solving.found and (_is_large(frame) or not frame.project.may_edit)
    axis = frame.document.axis(scope.axis) or modes_axis(frame.document)
    context: dict[str, Any] = {
        "waits": waits,
        "pairs": len(frame.analysis.paired.pairings),
        "failing": len(frame.analysis.failing),
        "not_judged": unplaced.sentence(len(frame.analysis.once(unplaced.unplaced))),
        "task": solving.panel,
        "made": None if waits else _made(frame.analysis, scope, solving.found),
        "scope": scope,
        "axis": axis,
        "of_token": frame.document.token(scope.token),
        "held": [token for token in frame.document.tokens if token.key in scope.held],
        "problem": problem or solving.problem,
    }
    return page.show(frame, "checks/fix_all.html", context, status)


def _is_large(frame: ChecksFrame) -> bool:
    return is_long(len(frame.analysis.paired.pairings), len(frame.analysis.failing))


def _solve(frame: ChecksFrame, scope: Scope) -> HttpResponse:
    """Solve in a scope: at once, or as a long task where there is much to solve."""
    if not _is_large(frame):
        return _room(frame, scope)

    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, scope, problem, status)

    to = frame.told_by("checks:fix-all", "solving")
    return begin(frame, FIX_ALL, scope_fields(scope), refuse, to)


@requires("edit")
@require_POST
def take(request: HttpRequest, project: Project) -> HttpResponse:
    """Store the moves, or look for others that leave some tokens as they are."""
    frame = _enter(request, project)
    form = ReviewForm(request.POST)
    if not form.is_valid():
        problem = f"Nothing was stored. {writing.problems(form)}"
        return _room(frame, _scope(frame), problem, 400)
    scope = _scope(frame, frozenset(form.texts("held")))
    found = Solving(frame, FIX_ALL, frame.address.solving).found
    if _is_large(frame) and not found:
        return _solve(frame, scope)
    made = _made(frame.analysis, scope, found)
    taken = set(form.texts("take"))
    refused = {
        move.place.token for number, move in enumerate(made.made.moves) if str(number) not in taken
    }
    if "again" in request.POST:
        return _solve(frame, replace(scope, held=scope.held | refused))
    values = tuple(
        (move.place.token, move.place.condition, move.after)
        for number, move in enumerate(made.made.moves)
        if str(number) in taken and isinstance(move.after, Expression | Composite | Listing)
    )
    if not values:
        return _room(frame, scope, "No row is selected.", 422)
    ready = writing.ReadyForm(request.POST, FixAll(values))

    def then(_: store.Saved) -> str:
        return frame.plain_url("checks:room")

    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, scope, problem, status)

    return writing.run(frame, ready, refuse, then)
