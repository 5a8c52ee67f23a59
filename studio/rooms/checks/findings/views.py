"""All that the checks find: what, where, how bad, what fixes it; accepted with a reason, or new since a revision."""

from __future__ import annotations

from collections.abc import Collection
from itertools import groupby
from typing import Any

from django.http import HttpRequest, HttpResponse
from django.views.decorators.http import require_GET, require_POST

from prism import checks
from prism.balance import commands as balance_commands
from prism.contrast import waiver_commands
from prism.coverage import commands as coverage_commands
from prism.elevation import commands as elevation_commands
from prism.elevation import view
from prism.errors import PrismError
from prism.hygiene import commands as hygiene_commands
from prism.palette import commands as palette_commands
from prism.reports.report import Glance, Item, Report, finding_ids, report
from prism.sheet import token_commands
from prism.vision import commands as vision_commands
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.checks.findings.address import FindingsAddress
from studio.rooms.checks.findings.forms import SignedCommandForm
from studio.rooms.frame import Frame
from studio.store import loading
from studio.store.projects import Project

FindingsFrame = Frame[FindingsAddress]
#: Findings that are listed of one check at most; a search finds the others.
_LISTED = 60
#: Different ways in which two levels stand to each other that are drawn at most.
_STANDS = 12


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """The findings of one section or of all."""
    return _room(_enter(request, project))


def _enter(request: HttpRequest, project: Project) -> FindingsFrame:
    address = FindingsAddress.read(state_of(request))
    return Frame.enter(request, project, "checks", address, "findings:room")


def _room(frame: FindingsFrame, problem: str = "", status: int = 200) -> HttpResponse:
    known, too_old = _known(frame)
    made = frame.report if known is None else report(frame.analysis, frame.report.today, known)
    opened = next((item for item in made.items if item.id == frame.address.finding), None)
    context: dict[str, Any] = {
        "made": made,
        "blocks": _blocks(made, frame.address),
        "open": opened,
        "open_tokens": _tokens(frame, opened),
        **_lifted(frame, opened),
        "tab": frame.address.section or "all",
        "problem": problem or too_old,
    }
    return page.show(frame, "findings/room.html", context, status)


def _known(frame: FindingsFrame) -> tuple[Collection[str] | None, str]:
    """The ids of what was found at the revision that the address names; None without one, or where there is none,
    and why."""
    since = frame.address.since.strip()
    if not since:
        return None, ""
    if not since.isascii() or not since.isdigit():
        return None, f"“{since}” is not a revision. Write its number."
    try:
        older = loading.at(frame.project, int(since)).analysis
    except PrismError:
        return None, f"Revision {since} cannot be found any more, or is not there yet."
    return finding_ids(older.document, older.once(checks.findings)), ""


def _blocks(made: Report, address: FindingsAddress) -> list[dict[str, Any]]:
    """What each check found, with over what it looked."""
    wanted = [item for item in made.items if _is_listed(item, address)]
    items_of = {
        check: list(items) for check, items in groupby(wanted, key=lambda item: item.finding.check)
    }
    return [
        {
            "glance": glance,
            "items": items_of.get(glance.id, [])[:_LISTED],
            "more": max(len(items_of.get(glance.id, ())) - _LISTED, 0),
        }
        for glance in made.glances
        if _is_shown(glance, address, items_of)
    ]


def _is_listed(item: Item, address: FindingsAddress) -> bool:
    searched = " ".join((item.finding.what, item.title, item.finding.where, item.finding.accepted))
    return (
        (not address.section or item.section == address.section)
        and (item.is_open or bool(address.accepted))
        and (not address.since or item.is_new or not address.since.isdigit())
        and address.find.lower() in searched.lower()
    )


def _is_shown(glance: Glance, address: FindingsAddress, checks: Collection[str]) -> bool:
    """Whether a check is listed: those of the section, and where something is searched those that found it."""
    if address.find or address.since:
        return glance.id in checks
    return not address.section or glance.section == address.section


def _tokens(frame: FindingsFrame, opened: Item | None) -> list[dict[str, Any]]:
    """The tokens that the open finding is about, with their color in the theme that is looked at."""
    if opened is None:
        return []
    return [
        {"token": token, "hex": frame.resolver.resolve(token.key, frame.theme).hex}
        for key in opened.finding.tokens
        if (token := frame.document.token(key)) is not None
    ]


def _lifted(frame: FindingsFrame, opened: Item | None) -> dict[str, Any]:
    """How two levels stand to each other, and what lifts one off the other."""
    if opened is None or opened.finding.check != "elevation":
        return {}
    over, under = opened.finding.tokens[:2]
    return {
        "over": over,
        "under": under,
        "stands": view.stands(frame.analysis, under, over)[:_STANDS],
        "lifts": view.lifts(frame.analysis, under, over),
    }


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Fix what was found, or accept it."""
    frame = _enter(request, project)
    families = (
        hygiene_commands,
        waiver_commands,
        vision_commands,
        elevation_commands,
        token_commands,
        palette_commands,
        coverage_commands,
        balance_commands,
    )
    form = SignedCommandForm(request.POST, frame.person, *families)

    def then(_: object) -> str:
        frame.address = frame.address.but(finding="")
        return frame.here

    return writing.run(frame, form, lambda problem, status: _room(frame, problem, status), then)
