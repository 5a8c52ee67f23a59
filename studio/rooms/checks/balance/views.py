"""Balance: whether colors are as strong in one mode as in the one they were designed for."""

from __future__ import annotations

import math
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_GET, require_POST

from prism.balance import commands as balance_commands
from prism.balance import view
from prism.balance.view import Balance, Cell
from prism.model.document import Mode
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.checks.balance.address import BalanceAddress
from studio.rooms.frame import Frame
from studio.rooms.themes import axis_named, theme_text
from studio.store.projects import Project

BalanceFrame = Frame[BalanceAddress]


def _enter(request: HttpRequest, project: Project) -> BalanceFrame:
    address = BalanceAddress.read(state_of(request))
    return Frame.enter(request, project, "checks", address, "balance:room")


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Every brand, accent and status color on its ground in two modes, for all brands at once."""
    return _room(_enter(request, project))


def _room(frame: BalanceFrame, problem: str = "", status: int = 200) -> HttpResponse:
    shown = _shown(frame)
    context: dict[str, Any] = {"shown": shown, "problem": problem}
    if shown is not None:
        context |= {
            "axes": [axis for axis in frame.document.axes if len(axis.modes) > 1],
            "axis_names": frame.analysis.axis_names,
            "mode_names": {
                mode.key: frame.analysis.mode_names[shown.axis.key, mode.key]
                for mode in shown.axis.modes
            },
            "scenes": _scenes(frame, shown),
            **_opened(frame, shown, None),
        }
    return page.show(frame, "balance/room.html", context, status)


def _shown(frame: BalanceFrame) -> Balance | None:
    """What the address asks for; None where no axis has two modes."""
    analysis, address = frame.analysis, frame.address
    axis = axis_named(analysis, address.axis) or view.axis_of(analysis)
    if axis is None or len(axis.modes) < 2:
        return None
    names = {analysis.mode_names[axis.key, mode.key]: mode for mode in axis.modes}
    default = axis.mode(axis.default)
    standard: Mode = names.get(address.standard, default)
    others = [mode for mode in axis.modes if mode is not standard]
    mode = names.get(address.mode, others[0])
    if mode is standard:
        mode = others[0]
    picks = frame.resolver.picks(frame.theme)
    return view.balance(analysis, axis, standard.key, mode.key, picks)


def _scenes(frame: BalanceFrame, shown: Balance) -> list[dict[str, str]]:
    """The scene of the stage in both modes, all else as in the theme that is looked at."""
    picks = frame.resolver.picks(frame.theme)
    return [
        {
            "words": mode.name,
            "theme": theme_text(
                frame.analysis, frame.resolver.theme({**picks, shown.axis.key: mode.key})
            ),
        }
        for mode in (shown.standard, shown.mode)
    ]


def _opened(frame: BalanceFrame, shown: Balance, gap: float | None) -> dict[str, Any]:
    """The color that is open, with what it would be."""
    row = next((row for row in shown.rows if row.token.key == frame.address.token), None)
    cells = [cell for cell in (row.cells if row else ()) if cell is not None]
    cell: Cell | None = next(
        (cell for cell in cells if cell.brand == frame.address.brand), cells[0] if cells else None
    )
    if cell is None:
        return {}
    return {
        "row": row,
        "cell": cell,
        "even": view.evened(frame.analysis, shown, cell, gap),
        "asked_gap": abs(cell.standing.standard.gap) if gap is None else gap,
    }


@requires("view")
@require_GET
def preview(request: HttpRequest, project: Project) -> HttpResponse:
    """What the open color would be at another distance, as a fragment."""
    frame = _enter(request, project)
    shown = _shown(frame)
    try:
        gap = float(request.GET.get("gap", ""))
    except ValueError:
        gap = math.nan
    context: dict[str, Any] = {"project": project, "shown": shown}
    if shown is not None and 0 <= gap <= 100:
        context |= _opened(frame, shown, gap)
    return render(request, "balance/would.html", context)


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Make colors even, or set how strongly one stands out."""
    frame = _enter(request, project)
    form = writing.NamedCommandForm(request.POST, balance_commands)
    return writing.run(frame, form, lambda problem, status: _room(frame, problem, status))
