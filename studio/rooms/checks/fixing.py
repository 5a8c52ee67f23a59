"""Everything that falls short, fixed at once and reviewed before it is stored."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from prism.analysis import Analysis
from prism.derive.solving import Watch
from prism.edits.pairings import FixAll
from prism.model.values import Composite, Expression, Listing
from prism.view_models import fixing
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.checks.address import ChecksAddress
from studio.rooms.checks.forms import ReviewForm
from studio.rooms.frame import Frame
from studio.rooms.tokens.axes.proposals import MOST_PAIRINGS
from studio.store import projects as store
from studio.store.projects import Project

#: Deterministic seconds that are spent on each mode while somebody waits for the page.
_PATIENCE = 0.6
#: Seconds of a clock that any one search takes at most, on whatever machine.
_AT_MOST = 5.0
ChecksFrame = Frame[ChecksAddress]


@lru_cache(maxsize=4)
def _made(analysis: Analysis, held: frozenset[str]) -> fixing.FixAll:
    return fixing.fix_all(analysis, held, Watch(_PATIENCE, seconds=_AT_MOST))


def _enter(request: HttpRequest, project: Project) -> ChecksFrame:
    address = ChecksAddress.read(state_of(request))
    return Frame.enter(request, project, "checks", address, "checks:fix-all")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The fewest and smallest moves with which everything passes, in every theme."""
    return _room(_enter(request, project), frozenset())


def _room(
    frame: ChecksFrame, held: frozenset[str], problem: str = "", status: int = 200
) -> HttpResponse:
    if len(frame.analysis.judged.pairings) > MOST_PAIRINGS:
        return page.show(frame, "checks/fix_all.html", {"is_large": True})
    made = _made(frame.analysis, held)
    context: dict[str, Any] = {
        "made": made,
        "held": [token for token in frame.document.tokens if token.key in held],
        "problem": problem,
    }
    return page.show(frame, "checks/fix_all.html", context, status)


@requires("edit")
@require_POST
def take(request: HttpRequest, project: Project) -> HttpResponse:
    """Store the moves, or look for others that leave some tokens as they are."""
    frame = _enter(request, project)
    form = ReviewForm(request.POST)
    if not form.is_valid():
        return _room(frame, frozenset(), f"Nothing was stored. {writing.problems(form)}", 400)
    before = frozenset(form.texts("held"))
    made = _made(frame.analysis, before)
    taken = set(form.texts("take"))
    refused = {
        move.place.token for number, move in enumerate(made.made.moves) if str(number) not in taken
    }
    if "again" in request.POST:
        return _room(frame, before | refused)
    values = tuple(
        (move.place.token, move.place.condition, move.after)
        for number, move in enumerate(made.made.moves)
        if str(number) in taken and isinstance(move.after, Expression | Composite | Listing)
    )
    if not values:
        return _room(frame, before, "No row is selected.", 422)
    ready = writing.ReadyForm(request.POST, FixAll(values))

    def then(_: store.Saved) -> str:
        return frame.plain_url("checks:room")

    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, before, problem, status)

    return writing.run(frame, ready, refuse, then)
