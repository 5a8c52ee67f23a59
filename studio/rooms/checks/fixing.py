"""Everything that falls short, fixed at once and reviewed before it is stored."""

from __future__ import annotations

import time
from dataclasses import replace
from functools import lru_cache
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_GET, require_POST

from prism.analysis import Analysis
from prism.contrast import fix_all_view
from prism.contrast.fix_all import modes_axis
from prism.contrast.fix_all_view import Scope
from prism.contrast.pairing_commands import FixAll
from prism.errors import PrismError
from prism.model.values import Composite, Expression, Listing
from prism.solver import Watch
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.checks.address import ChecksAddress
from studio.rooms.checks.forms import ReviewForm
from studio.rooms.checks.tasks import FIX_ALL, scope_fields, scope_of
from studio.rooms.frame import Frame
from studio.store import projects as store
from studio.store import tasks
from studio.store.projects import Project
from studio.store.tasks import State
from studio.work.searching import WHILE_WAITING
from studio.work.tasks import ask, of_page
from studio.work.views import shown

#: Deterministic seconds that are spent on each mode while somebody waits for the page.
_PATIENCE = 0.6
#: Seconds of a clock that any one search takes at most, on whatever machine.
_AT_MOST = 5.0
#: Seconds of a clock after which no more is looked for while somebody waits.
_WAITED = 8.0
#: Pairings that fall short from which on they are solved beside other work.
MOST_FAILING = 40
ChecksFrame = Frame[ChecksAddress]


@lru_cache(maxsize=4)
def _made(analysis: Analysis, scope: Scope, earlier: str = "") -> fix_all_view.FixAll:
    end = time.monotonic() + _WAITED
    watch = Watch(_PATIENCE, seconds=_AT_MOST, stopped=lambda: time.monotonic() > end)
    return fix_all_view.fix_all(analysis, scope, watch, earlier)


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
    task = of_page(frame, FIX_ALL, frame.address.solving)
    if task is not None:
        scope = scope_of(tasks.fields_of(task))
    earlier = task.text if task is not None else ""
    if task is not None and task.state in (State.FAILED, State.STOPPED):
        problem = problem or task.words
    large = _is_large(frame) and not earlier
    axis = frame.document.axis(scope.axis) or modes_axis(frame.document)
    context: dict[str, Any] = {
        "is_large": large,
        "pairs": len(frame.analysis.judged.pairings),
        "failing": len(frame.analysis.failing),
        "task": shown(task) if task is not None else None,
        "made": None if large else _made(frame.analysis, scope, earlier),
        "scope": scope,
        "axis": axis,
        "of_token": frame.document.token(scope.token),
        "held": [token for token in frame.document.tokens if token.key in scope.held],
        "problem": problem,
    }
    return page.show(frame, "checks/fix_all.html", context, status)


def _is_large(frame: ChecksFrame) -> bool:
    """Whether there are too many pairings, or too many that fall short, to solve while somebody waits."""
    pairings, failing = len(frame.analysis.judged.pairings), len(frame.analysis.failing)
    return pairings > WHILE_WAITING or failing > MOST_FAILING


def _solve(frame: ChecksFrame, scope: Scope) -> HttpResponse:
    """Solve in a scope: at once, or as a long task where there is much to solve."""
    if not _is_large(frame):
        return _room(frame, scope)
    try:
        fields = scope_fields(scope)
        task = ask(frame.project, FIX_ALL, frame.loaded.revision, fields, frame.person)
    except PrismError as error:
        return _room(frame, scope, str(error), 422)
    return redirect(frame.plain_url("checks:fix-all", solving=task.code))


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
    task = of_page(frame, FIX_ALL, frame.address.solving)
    if _is_large(frame) and (task is None or not task.text):
        return _solve(frame, scope)
    made = _made(frame.analysis, scope, task.text if task is not None else "")
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
