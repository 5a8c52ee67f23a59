"""The Checks room: the contrast of every pairing, theme by theme."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import groupby
from typing import Any
from urllib.parse import parse_qs, quote, urlsplit

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_GET, require_POST

from prism.contrast import (
    fixes,
    matrix,
    pairing_commands,
    rule_commands,
    rule_view,
    unplaced,
    waiver_commands,
)
from prism.contrast.pairing_commands import FixPairing
from prism.contrast.presumed import counts, presumed
from prism.hygiene import commands as hygiene_commands
from prism.model.document import Mode, Pairing, Token
from prism.vision import commands as vision_commands
from studio.accounts.permissions import requires
from studio.rooms import page, writing
from studio.rooms.address import state_of
from studio.rooms.checks import markup
from studio.rooms.checks.address import ChecksAddress
from studio.rooms.checks.findings.forms import SignedCommandForm
from studio.rooms.checks.forms import PairingForm
from studio.rooms.frame import Frame
from studio.rooms.themes import theme_text
from studio.store import projects as store
from studio.store.projects import Project

ChecksFrame = Frame[ChecksAddress]
#: Different answers of a pairing that are drawn at most.
_ANSWERS = 12
#: Colors that are offered at most while one is typed.
_OFFERED = 400


@requires("view")
@require_GET
def room(request: HttpRequest, project: Project) -> HttpResponse:
    """Pairings by theme, the failing first."""
    return _room(_enter(request, project))


def _enter(request: HttpRequest, project: Project) -> ChecksFrame:
    return Frame.enter(request, project, "checks", ChecksAddress.read(state_of(request)))


def _room(
    frame: ChecksFrame,
    form: PairingForm | None = None,
    status: int = 200,
    problem: str = "",
    typed: Mapping[str, Any] | None = None,
) -> HttpResponse:
    table = matrix.columns(frame.paired_resolver, frame.theme)
    failing = frame.analysis.failing
    wanted = _wanted(frame.address)
    laid_out = matrix.rows(frame.paired_resolver, table, failing, wanted)
    rows = laid_out.rows
    columns = _columns(frame, table)
    names, rules = rule_view.names(frame.analysis), rule_view.kept(frame.analysis)
    opened = rule_view.pairing(frame.analysis, frame.address.pairing)
    left = frame.analysis.once(unplaced.unplaced)
    context = {
        "columns": columns,
        "groups": _groups(table),
        "rows": _rows(frame, rows, columns, names),
        "pairings": frame.analysis.paired.pairings,
        "failing": len(failing),
        "counts": counts(frame.analysis),
        "total": laid_out.total,
        "start": wanted.start,
        "upto": wanted.start + len(rows),
        "before": str(max(wanted.start - wanted.count, 0)),
        "themes": frame.resolver.theme_count,
        "waived": sum(bool(pairing.waiver) for pairing in frame.document.pairings),
        "rules": rules,
        "open_source": rule_view.source(frame.analysis, opened) if opened else "",
        "open_presumed": frame.address.pairing in frame.analysis.once(presumed),
        "open_rule": names.get(frame.address.pairing, ""),
        "rule": next((r for r in rules if r.rule.key == frame.address.rule), None),
        "problem": problem,
        "typed": typed,
        "unplaced": len(left),
        "unplaced_names": unplaced.named(left),
        "find": frame.address.find,
        "form": form or _new_pairing(frame),
        "offer": rule_view.offer(frame.analysis),
        "colors": _colors(frame),
        **_opened(frame, opened),
    }
    return page.show(frame, "checks/room.html", context, status)


@requires("view")
@require_GET
def fixes_of(request: HttpRequest, project: Project) -> HttpResponse:
    """What lets the open pairing pass, for the page that has just opened it."""
    frame = _enter(request, project)
    pairing = rule_view.pairing(frame.analysis, frame.address.pairing)
    if pairing is None:
        return HttpResponse()
    about = {"frame": frame, "project": project, "open": pairing, **_fixes(frame, pairing)}
    return render(request, "checks/fixes.html", about)


def _fixes(frame: ChecksFrame, pairing: Pairing) -> dict[str, Any]:
    analysis = frame.analysis
    return {
        "fixes": fixes.offers(analysis, pairing),
        "otherwise": fixes.otherwise(analysis, pairing),
        "short": short.themes if (short := analysis.failing.get(pairing.key)) else 0,
    }


def _just_opens(frame: ChecksFrame) -> bool:
    """Whether the page that asks shows another pairing, or none, and can ask for the fixes of this one by itself."""
    before = parse_qs(urlsplit(frame.request.headers.get("Referer", "")).query)
    return page.wants_region(frame.request) and before.get("pairing") != [frame.address.pairing]


def _opened(frame: ChecksFrame, opened: Pairing | None) -> dict[str, Any]:
    """How the open pairing reads in all themes, and what fixes it."""
    if opened is None:
        return {"open": None}
    if opened.key in frame.analysis.failing and not frame.address.fix and _just_opens(frame):
        source = reverse("checks:fixes", args=[frame.project.code]) + frame.query()
        about = {"fixes_later": source, "short": frame.analysis.failing[opened.key].themes}
    else:
        about = _fixes(frame, opened)
    analysis = frame.analysis
    tried = fixes.tried(analysis, opened, frame.address.fix) if frame.address.fix else None
    return {
        "open": opened,
        "tried": frame.address.fix if tried is not None else "",
        "answers": (tried or matrix.answers(analysis.answers, opened))[:_ANSWERS],
        **about,
    }


def _colors(frame: ChecksFrame) -> list[Token]:
    """The colors that are offered while one is typed, those with a meaning first."""
    colors = [token for token in frame.document.tokens if token.type == "color"]
    return sorted(colors, key=lambda token: token.tier == "raw")[:_OFFERED]


def _groups(table: Sequence[matrix.Column]) -> list[tuple[Mode | None, int]]:
    """The modes that columns share, with how many columns each has."""
    outer = groupby(table, key=lambda column: column.outer)
    return [(name, len(list(columns))) for name, columns in outer]


def _wanted(address: ChecksAddress) -> matrix.Wanted:
    """Which rows the address asks for."""
    start = int(address.start) if address.start.isascii() and address.start.isdigit() else 0
    return matrix.Wanted(address.find, address.only, address.by, start)


def _new_pairing(frame: ChecksFrame) -> PairingForm:
    """The form of a new pairing, with the colors that the address names."""
    colors = {"foreground": frame.address.fg, "background": frame.address.bg}
    return PairingForm(initial={"revision": frame.loaded.revision, **colors})


def _rows(
    frame: ChecksFrame,
    rows: Sequence[matrix.MatrixRow],
    columns: Sequence[dict[str, Any]],
    names: Mapping[str, str],
) -> list[dict[str, Any]]:
    """The rows of the matrix as markup, with what they are grouped under."""
    places = tuple((column["url"], column["mode_name"]) for column in columns)
    failing = frame.analysis.failing if frame.project.may_edit else {}
    doubted = frame.analysis.once(presumed)
    return [
        {
            "group": row.group,
            "markup": markup.row(
                row,
                names.get(row.pairing.key, ""),
                row.pairing.key in doubted,
                frame.address.shut(pairing=row.pairing.key),
                places,
                fix=row.pairing.key in failing,
                opened=row.pairing.key == frame.address.pairing,
            ).shown(frame.held),
        }
        for row in rows
    ]


def _columns(frame: ChecksFrame, table: Sequence[matrix.Column]) -> list[dict[str, Any]]:
    """The columns of the matrix with their theme as an address says it."""
    first = frame.document.axes[0] if frame.document.axes else None
    modes = frame.analysis.mode_names
    return [
        {
            "column": column,
            "url": _sheet_url(frame, theme_text(frame.analysis, column.theme)),
            "mode_name": quote(modes[first.key, first.modes[column.theme[0]].key]) if first else "",
        }
        for column in table
    ]


def _sheet_url(frame: ChecksFrame, theme: str) -> str:
    """Where a cell of the sheet opens in a theme; a cell's name follows."""
    url = frame.plain_url("tokens:room", theme=theme)
    return f"{url}{'&' if '?' in url else '?'}cell="


@requires("edit")
@require_POST
def add_pairing(request: HttpRequest, project: Project) -> HttpResponse:
    """Add a pairing."""
    frame = _enter(request, project)
    form = PairingForm(request.POST)

    def refuse(problem: str, status: int) -> HttpResponse:
        if form.is_valid():
            form.add_error(None, problem)
        return _room(frame, form, status)

    return writing.run(frame, form, refuse)


@requires("edit")
@require_POST
def command(request: HttpRequest, project: Project) -> HttpResponse:
    """Run a command on pairings and on the rules that make them."""
    frame = _enter(request, project)

    def refuse(problem: str, status: int) -> HttpResponse:
        return _room(frame, status=status, problem=problem, typed=request.POST)

    def then(saved: store.Saved) -> str:
        fixed = isinstance(saved.command, FixPairing)
        if fixed or rule_view.pairing(saved.loaded.analysis, frame.address.pairing) is None:
            frame.address = frame.address.but(pairing="")
        return frame.here

    form = SignedCommandForm(
        request.POST,
        frame.person,
        pairing_commands,
        rule_commands,
        hygiene_commands,
        waiver_commands,
        vision_commands,
    )
    return writing.run(frame, form, refuse, then)
